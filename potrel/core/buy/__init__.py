"""Buying: what an offer costs by weight, suppliers' packs and lists, odd prices, prices over the year, what was paid."""
