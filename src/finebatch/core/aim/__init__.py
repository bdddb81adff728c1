"""From the piece that is wanted back to the dough that bakes to it."""
