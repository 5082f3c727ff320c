"""Numbers: arithmetic of decimals, fractions and draws; rounding; units; formulas, each written once."""
