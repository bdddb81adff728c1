"""The tray: changes tried on it."""
