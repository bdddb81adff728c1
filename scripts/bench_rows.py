"""One line of a benchmark: what was measured, its figure, and what is wanted of it."""


def row(what: str, figure: str, wanted: str = "", met: bool = True) -> None:
    """Print a figure beside its target, and whether that is met."""
    target = f"   wanted {wanted:18}{'met' if met else 'MISSED'}" if wanted else ""
    print(f"{what:60}{figure:>22}{target}", flush=True)
