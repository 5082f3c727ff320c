"""Hard use on purpose: kills under load, broken files, odd values, pages of elsewhere; and what came of it, counted."""
