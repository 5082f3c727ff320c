"""What cooks say and write, read: typed lines and amounts, a recipe as text, and from paper to a pot."""
