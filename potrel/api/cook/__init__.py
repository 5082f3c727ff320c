"""The room Cook: recipes, drafts, workings, typed lines."""
