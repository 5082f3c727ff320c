"""The board: servings on sale, allergens, servings pushed past their target."""
