"""Doughs: lines, weights, percentages and composition."""
