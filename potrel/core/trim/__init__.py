"""Trimming: what by-products bear of a cost, tests at the bench and what they say together, what is known of ingredients."""
