"""What every kind of portioning answers: the one protocol behind which they stand.

A kind is a value with what a baker sets; its class says how it is made, chilled, laid out, baked
and told. Lengths in mm, masses in g, the way they are kept and sent.
"""

from abc import ABC, abstractmethod
from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Annotated, Any, ClassVar, Literal, Self, TypeVar

from annotated_types import Interval

from finebatch.core.care.keeping import KeptAs
from finebatch.core.heat.chilling import Purpose, Shape, ball_shape
from finebatch.core.piece.foresee import Foreseen
from finebatch.core.piece.kinds.says import Ask, Handle, InProportion, Says
from finebatch.core.piece.layout import Layout, Shared, share_out
from finebatch.core.piece.lot import Lot
from finebatch.core.piece.lying import Lies, Size
from finebatch.core.piece.outlines import Lines, outline_lines
from finebatch.core.piece.pans import PanBox
from finebatch.core.piece.paper import Mark, Role, Template
from finebatch.core.piece.portion import Portion, RawPiece, ball_across_mm, shape_piece
from finebatch.core.piece.rope_line import RopeForm
from finebatch.core.piece.rows import Footprint, Sheet
from finebatch.core.piece.tools import Tools
from finebatch.core.refusal import refuse
from finebatch.core.values import FromOutside

Grams = Annotated[float, Interval(gt=0, le=5000)]
ThicknessMm = Annotated[float, Interval(ge=1, le=60)]


Drawn = tuple[Size, Lines]
"""A box and the lines in it, in mm."""


class Making:
    """What a kind asks of the baker beyond the piece."""

    __slots__ = ()
    kind: str

    @property
    def each_gives(self) -> int:
        """How many finished pieces one that is counted gives."""
        return 1

    @property
    def at_once(self) -> int | None:
        """The most on a tray, where hands set a limit."""
        return None

    @property
    def first_pieces(self) -> int | None:
        """How many pieces are there before scraps are worked again; None where there are none."""
        return None


@dataclass(frozen=True, slots=True)
class Made:
    """What a lot gives: pieces (logs, pans) as they are counted, g left over, and the making."""

    pieces: int
    left_g: float
    making: Making | None = None


@dataclass(frozen=True, slots=True)
class Extra:
    """What goes on or into each piece beside the dough: grams each, and of all pieces."""

    what: Literal["filling", "coat", "topping"]
    each_g: float
    total_g: float


@dataclass(frozen=True, slots=True)
class SecondBake:
    """Slices laid out to dry: how many in all, on which sheets, for how long, sides together; what
    one weighs then."""

    pieces: int
    minutes: float
    dried_g: float
    footprint: Footprint
    trays: tuple[int, ...]
    layouts: tuple[Layout, ...]


@dataclass(frozen=True, slots=True)
class HotWork:
    """What hands do to a tray that is just out: seconds for each piece, and within how many
    minutes it has to begin."""

    each_s: float
    within_min: int


@dataclass(frozen=True, slots=True)
class Laid:
    """The room that one takes, to the upper edge of its band, and the layout of each tray."""

    room: Footprint
    most_on_sheet: int
    trays: tuple[int, ...]
    layouts: tuple[Layout, ...] = ()


def whole_pieces(lot: Lot, piece_g: float) -> tuple[int, float]:
    """Whole pieces of that mass and the grams left over, once the bowl has kept its share."""
    pieces = int(lot.usable_g / piece_g + 1e-9)
    return pieces, max(lot.usable_g - pieces * piece_g, 0.0)


class Portioning(FromOutside, ABC):
    """A way to make pieces of a dough, and all that depends on it."""

    __slots__ = ()
    kind: str

    SAYS: ClassVar[Says]
    HANDLES: ClassVar[tuple[Handle, ...]]
    """The figures that a baker moves most; the first is the largest on the screen."""
    ASKS: ClassVar[tuple[Ask, ...]] = ()
    KEPT_AS: ClassVar[KeptAs] = "dough"
    """In what shape it is put away when nothing else is said."""
    CHILLED_AS: ClassVar[tuple[KeptAs, ...]] = ()
    """In which shapes it may be chilled, the best first; nothing where there is but one."""
    LAID_AS: ClassVar[frozenset[KeptAs]] = frozenset({"portions", "slices"})
    """Kept so, it only has to be laid on the sheet, as cold as it is."""
    ONE_SIZE: ClassVar[bool] = False
    """All pieces of a dough have one size."""
    IS_BATTER: ClassVar[bool] = False
    """Its bubbles do not wait: it is baked soon after it is mixed."""
    KNIFE: ClassVar[bool] = False
    """A tray is portioned with a knife."""
    AS_MIXED: ClassVar[bool] = False
    """It is worked as it comes from the bowl, whatever is usual for its family's logs."""
    RESTS_ON_SHEET: ClassVar[bool] = True
    """It sets on the sheet before it can be moved."""

    @abstractmethod
    def portion(self, lot: Lot) -> Portion:
        """One portion of that dough; `Refusal` for what no hand would make."""

    @abstractmethod
    def weighing(self, grams: float, lot: Lot) -> Self:
        """The same with pieces of that mass: the handle moved that a baker would move."""

    def taking(self, grams: float, lot: Lot) -> Self:
        """The same where one takes so much of the dough, what is cut off it included."""
        return self.weighing(grams, lot)

    def cut_mm(self, found: Foreseen) -> float | None:
        """The side (mm) of one piece that is cut out of what bakes whole; None where the piece
        itself is what is measured."""
        return None

    @abstractmethod
    def wider(self, by: float) -> Self:
        """The same with the handle that makes it wider moved by a factor."""

    @abstractmethod
    def sizes(self, tools: Tools, lot: Lot) -> list[tuple[str, Self]]:
        """The ladder: each size that a kitchen has, and what it is called."""

    def raw(self, lot: Lot) -> RawPiece:
        """The raw piece that this makes of the dough."""
        return shape_piece(self.portion(lot), lot.density_g_cm3)

    def make(self, lot: Lot, found: Foreseen) -> Made:
        """What the dough gives; `Refusal` where it gives nothing."""
        return Made(*whole_pieces(lot, found.raw.grams), self.making(found))

    def making(self, found: Foreseen) -> Making | None:
        """What is asked of the baker beyond weighing such pieces; `Refusal` where it fails."""
        del found
        return None

    def each_g(self, found: Foreseen) -> float:
        """Raw dough in g of one piece as a baker counts it."""
        return found.raw.grams

    def lies(self, raw: RawPiece, width_mm: float) -> Lies:
        """How one that bakes so wide lies on the sheet."""
        down = raw.down_mm or raw.across_mm
        baked = (width_mm, width_mm - raw.beyond_mm + raw.beyond_down_mm)
        return Lies("round", (raw.across_mm, down), baked)

    def outlines(self, raw: RawPiece, width_mm: float) -> Mapping[Role, Drawn]:
        """What is drawn of one that bakes so wide, about its middle: its box and its lines."""
        lies = self.lies(raw, width_mm)
        sizes: dict[Role, Size] = {"raw": lies.raw_mm, "baked": lies.baked_mm}
        return {
            role: (size, outline_lines(lies.outline, size, lies.points))
            for role, size in sizes.items()
        }

    def on_paper(self, raw: RawPiece, width_mm: float, layout: Layout) -> list[Mark]:
        """The outlines of a tray whose pieces bake so wide, where they lie on the sheet."""
        drawn, turn = self.outlines(raw, width_mm), 90 if layout.turned else 0
        return [
            Mark(x, y, *size, role, lines, turn)
            for x, y in layout.centres
            for role, (size, lines) in drawn.items()
        ]

    def lay(self, sheet: Sheet, found: Foreseen, made: Made) -> Laid:
        """All of it on trays, each with room to the upper edge of its band."""
        shared = self.share(sheet, found, made.pieces, made.making)
        return Laid(self.room(found), shared.most_on_sheet, shared.trays, shared.layouts)

    def room(self, found: Foreseen) -> Footprint:
        """What one takes of the sheet, to the upper edge of its band."""
        return self.lies(found.raw, found.width.high_mm).room

    def share(
        self, sheet: Sheet, found: Foreseen, pieces: int, making: Making | None = None
    ) -> Shared:
        """So many pieces on as few sheets as hold them; `Refusal` for what is only made whole."""
        return share_out(sheet, self.room(found), pieces, making.at_once if making else None)

    def second(self, found: Foreseen, logs: int, sheet: Sheet, still_c: float) -> SecondBake | None:
        """The second bake, where there is one, in a still oven of that temperature."""
        del found, logs, sheet, still_c
        return None

    def chilled(self, lot: Lot) -> tuple[Shape, Purpose]:
        """The shape in which it is best chilled, and what for."""
        return ball_shape(ball_across_mm(self.raw(lot).volume_cm3)), "scoop"

    def without_leftover(self, lot: Lot, pieces: int) -> list[Self]:
        """The nearest sizes, larger and smaller than of so many pieces, that use the dough up."""
        return [self.taking(lot.usable_g / n, lot) for n in (pieces, pieces + 1)]

    def giving(self, pieces: int, lot: Lot) -> Self | None:
        """Another way to get so many from just this dough, where there is one."""
        del pieces, lot
        return None

    def times_over(self, times: float) -> Self:
        """The same with the dough made so many times: more of it gives more pieces."""
        del times
        return self

    @property
    def least_times(self) -> float | None:
        """The share of the dough that has to be made whole; None where any amount will do."""
        return None

    def more_gives_more(self) -> None:
        """`Refusal` where more dough gives no more pieces."""

    def bent(self, form: RopeForm) -> Self:
        """The same bent to another form; `Refusal` for what is no rope."""
        del form
        raise refuse("also", "Only ropes are bent to a form. Take the form away.")

    def told(self, lot: Lot) -> str:
        """What a size is told by, beside its mass and width."""
        del lot
        return ""

    def worked(self) -> str:
        """To what the dough is worked for these pieces; nothing where their mass says it all."""
        return ""

    def extras(self, pieces: int) -> tuple[Extra, ...]:
        """Filling, coat and topping of so many pieces, those that there are."""
        del pieces
        return ()

    def slab(self, title: str, making: Making | None) -> Template:
        """The paper template of the slab; `Refusal` for what is not rolled."""
        del title, making
        raise refuse("what", "Only rolled dough has a slab. Choose the sheet.")

    @property
    def hot_work(self) -> HotWork | None:
        """What cannot wait once a tray is out."""
        return None

    @property
    def pan(self) -> PanBox | None:
        """The pan that it is baked in, for what does not lie on a sheet."""
        return None

    @property
    def slice_mm(self) -> float | None:
        """How thick it is sliced after its first bake."""
        return None


P = TypeVar("P", bound=Portioning)


def at(piece: Any, path: str) -> Any:
    """What stands at a field of a piece, or at one of its cutter's (``cutter.across_mm``)."""
    for name in path.split("."):
        piece = getattr(piece, name)
    return piece


def put(piece: Any, path: str, value: object) -> Any:
    """The piece with that in that place."""
    name, _, rest = path.partition(".")
    return replace(piece, **{name: put(getattr(piece, name), rest, value) if rest else value})


def moved(piece: P, handle: Handle, by: float) -> P:
    """The piece with a handle moved by a factor, and what goes along with it."""
    for along in (InProportion(handle.field, 1), *handle.along):
        figure = at(piece, along.field)
        if figure is not None:
            piece = put(piece, along.field, figure * by**along.power)
    for path in handle.clears:
        piece = put(piece, path, None)
    return piece
