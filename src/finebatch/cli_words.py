"""What the command line tells: its figures are metric, whatever the kitchen reads."""

from typing import Any

import typer

from finebatch.core.measures.figures import read_in


def say(text: str, **how: Any) -> None:
    """Write a line (`how` as for ``typer.echo``)."""
    typer.echo(read_in(text), **how)
