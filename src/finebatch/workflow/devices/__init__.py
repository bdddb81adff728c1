"""What the devices tell of the kitchen."""
