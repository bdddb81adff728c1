"""What is kept cold for another day."""
