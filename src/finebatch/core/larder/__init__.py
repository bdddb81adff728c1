"""Ingredients and what they are made of."""
