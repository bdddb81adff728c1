"""What a baker meets first: the doughs as they last came out, what waits, and all that is found."""
