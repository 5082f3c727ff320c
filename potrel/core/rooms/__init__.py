"""What each room shows: board and alerts, allergens, lists under review, yields, forms side by side, what is left over."""
