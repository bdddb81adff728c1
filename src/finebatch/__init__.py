"""Fine Batch: formulate, portion, schedule, bake and learn, for home cookie bakers."""
