"""Sessions: asked for, planned, baked, weighed along, given out."""
