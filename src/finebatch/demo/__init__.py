"""Demo data: a made-up harvest supper, loaded through the same functions as a baker's own."""
