"""Papers: price lists, costing sheets and the allergen sheet, as pages to print and as PDF."""
