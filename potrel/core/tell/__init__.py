"""Telling it to people: every figure with its working, the cost sheet made of them, and explanations."""
