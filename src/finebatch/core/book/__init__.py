"""The book: what measured bakes teach the predictions."""
