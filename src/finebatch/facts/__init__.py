"""Tables of facts: data files with their sources, and the one loader that checks them."""
