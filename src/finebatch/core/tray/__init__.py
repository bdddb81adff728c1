"""A dough in this kitchen: its portioning, the tray that follows, chilling, out of the cold."""
