"""The room Buy: items and offers, forms side by side, suppliers' lists."""
