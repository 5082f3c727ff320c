"""Costing: costed recipes in one locked place, portions, prices, drift, effects of a change, and how sure a cost is."""
