"""One piece: its portion, its spread and thickness, how many there are, and the sheet."""
