"""Routes of the room Price."""
