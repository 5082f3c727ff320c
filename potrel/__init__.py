"""Potrel costs soups and stews, from what is bought to the price of a portion."""
