"""The pot: what a kitchen knows on a day, the mass balance of a recipe, and its needs; no prices are decided here."""
