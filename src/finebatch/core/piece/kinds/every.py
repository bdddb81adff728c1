"""All kinds of portioning, in the order in which they are offered: the one list of them."""

from collections.abc import Mapping
from dataclasses import asdict, dataclass
from functools import cache
from typing import TYPE_CHECKING, Annotated, Any, Literal, get_args

from annotated_types import Ge, Le

from finebatch.core.care.keeping import KeptAs
from finebatch.core.piece.kinds.drop import Drop
from finebatch.core.piece.kinds.filled_pan import DoughShared, FilledPan
from finebatch.core.piece.kinds.on_paper import SlabOnPaper, SlabsScored
from finebatch.core.piece.kinds.pan import Pan, PansFilled
from finebatch.core.piece.kinds.portioning import Making, Portioning
from finebatch.core.piece.kinds.rolled import Rolled, RolledOut
from finebatch.core.piece.kinds.rope import RopeBaked, Roped
from finebatch.core.piece.kinds.says import Ask, Handle, Says
from finebatch.core.piece.kinds.sliced import LogsCut, Sliced
from finebatch.core.piece.kinds.twice_baked import SlicesDried, TwiceBaked
from finebatch.core.piece.kinds.wafer import Wafer, WaferLimit
from finebatch.core.values import OneOfKinds, limits_of

_Pieces = Drop | Rolled | Sliced | SlabOnPaper | Pan | FilledPan | Roped | TwiceBaked | Wafer
_Makings = (
    RolledOut
    | LogsCut
    | SlabsScored
    | PansFilled
    | DoughShared
    | RopeBaked
    | SlicesDried
    | WaferLimit
)
if TYPE_CHECKING:  # to whoever uses one, it is what the protocol says
    AnyKind = Portioning
    AnyMaking = Making
else:
    AnyKind = Annotated[_Pieces, OneOfKinds()]
    """A portioning, read by the kind that is named."""
    AnyMaking = Annotated[_Makings, OneOfKinds()]


def _kind_of(piece: Any) -> str:
    return str(piece.__dataclass_fields__["kind"].default)


KINDS: Mapping[str, type[Portioning]] = {_kind_of(piece): piece for piece in get_args(_Pieces)}

if TYPE_CHECKING:
    PieceKind = str
else:
    PieceKind = Literal[tuple(KINDS)]
    """The name of one."""


def usual_of(piece: AnyKind) -> AnyKind:
    """The usual piece of its kind."""
    return type(piece)()


def over_usual(told: Mapping[str, Any]) -> dict[str, Any]:
    """The usual settings of a kind with those that are told in their place."""
    return {**asdict(KINDS[told["kind"]]()), **told}  # type: ignore[call-overload]


@dataclass(frozen=True, slots=True)
class AskShown:
    """Something that is set of a piece; of what is counted, the least and the most."""

    ask: Ask
    least: float | None
    most: float | None


@dataclass(frozen=True, slots=True)
class KindShown:
    """A kind as it is offered: its words, what it starts with, its handles, what else it asks."""

    kind: PieceKind
    says: Says
    usual: AnyKind
    handles: tuple[Handle, ...]
    asks: tuple[AskShown, ...]
    one_size: bool
    kept_as: KeptAs


@cache
def offered() -> tuple[KindShown, ...]:
    """All kinds, in order."""
    return tuple(
        KindShown(
            name,
            kind.SAYS,
            kind(),
            kind.HANDLES,
            tuple(_asked(kind, ask) for ask in kind.ASKS),
            kind.ONE_SIZE,
            kind.KEPT_AS,
        )
        for name, kind in KINDS.items()
    )


def _asked(kind: type[Portioning], ask: Ask) -> AskShown:
    limits = limits_of(kind).get(ask.field, {})
    least, most = limits.get(Ge), limits.get(Le)
    return AskShown(ask, least.ge if least else None, most.le if most else None)
