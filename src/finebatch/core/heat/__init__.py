"""Heat: how long a piece bakes in which oven."""
