"""The method of a dough as typed steps: what is done, by hands and by waiting, in order."""
