"""From a supplier's file to what it would change: whose lines are which items. Reading is done by formats, judging by core."""
