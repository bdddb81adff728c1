"""Doughs: kept, studied, compared, given out and brought in."""
