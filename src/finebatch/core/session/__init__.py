"""What a session is asked for, and what it was planned from."""
