"""Quantities, units and temperatures."""
