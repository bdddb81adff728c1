"""The stages of a baker's work: what the screens ask, with the core and the data file joined."""
