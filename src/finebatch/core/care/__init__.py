"""What can hurt someone: allergens, and cautions where they matter."""
