"""Cross-checks of a card: slips that written cards contain, each with its evidence."""
