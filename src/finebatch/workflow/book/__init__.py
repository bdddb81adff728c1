"""The book: bakes kept and given out, and why one went wrong."""
