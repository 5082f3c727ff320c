"""The kitchen as a whole: its settings, its document, its change log."""
