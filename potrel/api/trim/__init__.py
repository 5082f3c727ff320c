"""The room Trim: yields, tests at the bench, the scale, practice."""
