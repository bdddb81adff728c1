"""Outside devices: what a kitchen scale and an oven thermometer must do, and stand-ins for each."""
