"""The kitchen as it is kept: equipment, larder, and what its bakes have taught."""
