"""A kitchen's tools for portioning: scoops, cutters, and the pans that bakers have."""

from dataclasses import dataclass

from finebatch.core.piece.kinds import Cutter, Pan


@dataclass(frozen=True, slots=True)
class Scoop:
    """A scoop or spoon by the ml that it holds level."""

    name: str
    ml: float


@dataclass(frozen=True, slots=True)
class NamedCutter:
    """A cutter of the kitchen."""

    name: str
    cutter: Cutter


@dataclass(frozen=True, slots=True)
class NamedPan:
    """A pan that bakers have, filled to no depth yet."""

    name: str
    pan: Pan
