"""The plan: activities of many trays placed in time for one pair of hands."""
