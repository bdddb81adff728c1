"""The home network: who is let in, by which door; and what others learn, which is nothing."""
