"""The kinds of portioning: one module a kind, all of them behind one protocol."""
