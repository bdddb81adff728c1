"""Trays drawn as a camera sees them, with sizes that are known: domed pieces in true perspective.

It knows nothing of how photographs are measured. Heights are a field over the table, in mm; each
ray of the camera is followed down to where it meets that.
"""

from dataclasses import dataclass, field

import cv2
import numpy as np
from numpy.typing import NDArray

from finebatch.core.heat.colour import STRIP_RGB

Floats = NDArray[np.float64]

SHEETS = {
    "parchment": (225, 214, 196),
    "dark": (62, 60, 62),
    "bare": (168, 170, 172),
    "silicone": (150, 92, 70),
    "paper": (246, 245, 240),
}
LAID_ON = ("parchment", "dark", "bare", "silicone")
TABLE, RIM, HAND, CHIP = (96, 84, 74), (150, 150, 152), (205, 160, 135), (58, 36, 26)
PER_MM = 1.6
TURN = np.radians(np.arange(0, 360, 2))


@dataclass
class DrawnPiece:
    """A piece: its middle, half its width, its height (mm), its step on the strip (from 1)."""

    x: float
    y: float
    half: float
    high: float
    step: float
    turned: float = 0.0
    kind: str = "round"

    def reach(self, way: Floats) -> Floats:
        """How far it reaches from its middle in directions (radians)."""
        off = way - self.turned
        if self.kind == "square":
            across, down = np.abs(np.cos(off)), np.abs(np.sin(off))
            return np.asarray(self.half * 0.86 / (across**6 + down**6) ** (1 / 6))
        if self.kind == "leaf":
            a, b = self.half * 1.25, self.half * 0.72
            return np.asarray(a * b / np.hypot(b * np.cos(off), a * np.sin(off)))
        return np.full_like(off, self.half)

    @property
    def widths(self) -> Floats:
        """Its widths (mm) in directions all around."""
        reach = self.reach(TURN)
        rim = np.column_stack((reach * np.cos(TURN), reach * np.sin(TURN)))
        along = rim @ np.array([np.cos(TURN[:90]), np.sin(TURN[:90])])
        return np.asarray(along.max(axis=0) - along.min(axis=0))


@dataclass
class DrawnTray:
    """A sheet with pieces, as it lies, and how it is looked at."""

    size: tuple[float, float] = (405.0, 305.0)
    surface: str = "parchment"
    pieces: list[DrawnPiece] = field(default_factory=list)
    hand: bool = False
    crumbs: int = 12
    rim_mm: float = 12.0
    tilt: float = 10.0
    camera_mm: float = 550.0
    bend: float = -0.03
    noise: float = 3.0
    chips: bool = True
    rack: bool = False
    """Whether all beside the sheet are the wires of a rack, on the table below."""
    around_mm: float = 60.0
    """So much of the table is drawn beside the sheet."""
    frame_mm: float = 0.0
    """So much of it the camera sees on every side."""
    # Found when it is drawn.
    camera: Floats = field(default_factory=lambda: np.zeros(3))
    corners: Floats = field(default_factory=lambda: np.zeros((4, 2)))


def some_tray(rng: np.random.Generator) -> DrawnTray:
    """A tray as it may come: any surface, kind, size, colour, distance and tilt."""
    tray = DrawnTray(
        surface=str(rng.choice(LAID_ON)),
        hand=bool(rng.random() < 0.25),
        crumbs=int(rng.integers(0, 25)),
        rim_mm=float(rng.uniform(8, 20)),
        tilt=float(rng.uniform(0, 30)),
        camera_mm=float(rng.uniform(400, 800)),
        bend=float(rng.uniform(-0.1, 0.05)),
    )
    kind = str(rng.choice(["round", "round", "round", "square", "leaf"]))
    step, half = float(rng.integers(2, 8)), float(rng.uniform(22, 45))
    high = float(rng.uniform(5, min(30, 0.9 * half)))
    pitch = 2 * half * (1.25 if kind == "leaf" else 1) + float(rng.uniform(5, 18))
    (width, depth), count = tray.size, [int((side - 16) // pitch) for side in tray.size]
    for j in range(count[1]):
        for k in range(count[0]):
            tray.pieces.append(
                DrawnPiece(
                    width / 2 + (k - (count[0] - 1) / 2) * pitch + rng.normal(0, 1.5),
                    depth / 2 + (j - (count[1] - 1) / 2) * pitch + rng.normal(0, 1.5),
                    half * float(np.exp(rng.normal(0, 0.03))),
                    high * float(np.exp(rng.normal(0, 0.05))),
                    float(np.clip(step + rng.normal(0, 0.3), 1, 7)),
                    float(rng.uniform(0, 6.28)) if kind != "round" else 0.0,
                    kind,
                )
            )
    if len(tray.pieces) > 3 and kind == "round" and rng.random() < 0.5:
        run_together(tray.pieces[0], tray.pieces[1], by=float(rng.uniform(0.8, 6)))
    return tray


def three_rows(half: float, high: float, step: float, browner: float = 0.0) -> list[DrawnPiece]:
    """Twelve pieces on a sheet, each darker than the one on its left by so many steps."""
    return [
        DrawnPiece(60.0 + 95 * x, 55.0 + 97 * y, half, high, step + browner * x)
        for y in range(3)
        for x in range(4)
    ]


def run_together(one: DrawnPiece, other: DrawnPiece, by: float) -> None:
    """Two rounds moved so that they run into each other by so much (mm)."""
    way = np.array([other.x - one.x, other.y - one.y])
    way /= np.hypot(*way)
    middle = np.array([one.x + other.x, one.y + other.y]) / 2
    apart = (one.half + other.half - by) / 2
    one.x, one.y = middle - way * apart
    other.x, other.y = middle + way * apart


def gap_mm(one: DrawnPiece, other: DrawnPiece) -> float:
    """How far two pieces are from each other, on the way from middle to middle."""
    way = np.arctan2(other.y - one.y, other.x - one.x)
    reach = one.reach(np.array([way]))[0] + other.reach(np.array([way + np.pi]))[0]
    return float(np.hypot(other.x - one.x, other.y - one.y) - reach)


class _Table:
    """Heights and colours over the table, on a grid of `PER_MM`."""

    def __init__(self, tray: DrawnTray, rng: np.random.Generator) -> None:
        width, depth = tray.size
        self.around = tray.around_mm
        self.x, self.y = np.meshgrid(
            np.arange(-self.around, width + self.around, 1 / PER_MM),
            np.arange(-self.around, depth + self.around, 1 / PER_MM),
        )
        self.high = np.zeros(self.x.shape, np.float32)
        beside = np.maximum(
            np.maximum(-self.x, self.x - width), np.maximum(-self.y, self.y - depth)
        )
        self.colour = np.empty((*self.x.shape, 3), np.float32)
        self.colour[:] = np.array(TABLE) + 10 * np.sin(self.x / 17)[..., None]
        self.colour[beside < 0] = SHEETS[tray.surface]
        grain = rng.normal(0, 1, self.x.shape).astype(np.float32)
        rough = 40 if tray.surface == "parchment" else 25
        soft = cv2.GaussianBlur(grain, (0, 0), 6) * rough + cv2.GaussianBlur(grain, (0, 0), 1.2) * 5
        self.colour += soft[..., None]
        if tray.rack:
            wires = (beside > 0) & (np.abs(self.x % 14 - 7) < 1.4)
            self.colour[wires] = RIM
        if tray.rim_mm == 0:
            return
        rim = (beside >= 0) & (beside < 9)
        self.high[rim] = np.minimum(tray.rim_mm, beside[rim] * tray.rim_mm / 3)
        self.colour[rim] = SHEETS["dark"] if tray.surface == "dark" else RIM

    def window(self, x: float, y: float, reach: float) -> tuple[slice, slice]:
        left, top = (round((v - reach + self.around) * PER_MM) for v in (x, y))
        size = round(2 * reach * PER_MM) + 2
        return slice(max(top, 0), max(top + size, 0)), slice(max(left, 0), max(left + size, 0))

    def put(self, piece: DrawnPiece, dome: tuple[float, float], rng: np.random.Generator) -> None:
        box = self.window(piece.x, piece.y, 1.4 * piece.half)
        x, y = self.x[box] - piece.x, self.y[box] - piece.y
        way, off = np.arctan2(y, x), np.hypot(x, y)
        wave = rng.uniform(0, 6.28, 2)
        wobble = 1 + 0.012 * np.sin(3 * way + wave[0]) + 0.008 * np.sin(5 * way + wave[1])
        share = off / (piece.reach(way) * wobble)
        high = piece.high * np.clip(1 - share ** dome[0], 0, None) ** (1 / dome[1])
        on = (share < 1) & (high > self.high[box])
        low = min(int(piece.step) - 1, 5)
        part = piece.step - 1 - low
        own = np.array(STRIP_RGB[low]) * (1 - part) + np.array(STRIP_RGB[low + 1]) * part
        darker = np.clip((share - 0.75) / 0.25, 0, 1) * 14
        self.colour[box][on] = own - darker[on][:, None]
        self.high[box][on] = high[on]

    def spot(self, x: float, y: float, half: float, colour: tuple[float, ...]) -> None:
        box = self.window(x, y, half)
        self.colour[box][np.hypot(self.x[box] - x, self.y[box] - y) < half] = colour

    def lit(self, rng: np.random.Generator, size: tuple[float, float]) -> Floats:
        """Its colours in the light of a lamp from one side, with the shadows that it throws."""
        smooth = cv2.GaussianBlur(self.high, (0, 0), 1.0)
        down, right = np.gradient(smooth, 1 / PER_MM)
        way, up = rng.uniform(0, 6.28), np.radians(rng.uniform(35, 75))
        lamp = np.array([np.cos(way) * np.cos(up), np.sin(way) * np.cos(up), np.sin(up)])
        falls = np.clip(
            (lamp[2] - right * lamp[0] - down * lamp[1]) / np.sqrt(1 + right**2 + down**2), 0, None
        )
        shade = np.zeros_like(self.high)
        for far in np.arange(2, 60, 2.0):
            move = np.array([[1, 0, -lamp[0] * far * PER_MM], [0, 1, -lamp[1] * far * PER_MM]])
            over = cv2.warpAffine(self.high, move, self.high.shape[::-1])
            shade = np.maximum(shade, np.clip((over - self.high - lamp[2] * far) / 1.5, 0, 1))
        shade = cv2.GaussianBlur(shade, (0, 0), 2.5)
        around = rng.uniform(0.45, 0.65)
        light = around + (1 - around) * falls * (1 - 0.8 * shade) * 1.15
        light *= 1 + 0.15 * (
            (self.x / size[0] - 0.5) * np.cos(way) + (self.y / size[1] - 0.5) * np.sin(way)
        )
        tint = np.array([rng.uniform(0.92, 1.08), 1, rng.uniform(0.9, 1.08)])
        grain = rng.normal(0, 5, self.colour.shape)
        return np.asarray(np.clip((self.colour + grain) * light[..., None] * tint, 0, 255))


class _Camera:
    """A camera that looks at the middle of the sheet, which just fills what it sees."""

    def __init__(self, tray: DrawnTray, rng: np.random.Generator, px: tuple[int, int]) -> None:
        width, depth = tray.size
        tilt, around = np.radians(tray.tilt), rng.uniform(0, 6.28)
        to = np.array([width / 2 + rng.normal(0, 8), depth / 2 + rng.normal(0, 8), 0])
        off = np.array([np.sin(tilt) * np.cos(around), np.sin(tilt) * np.sin(around), np.cos(tilt)])
        self.at = to + tray.camera_mm / np.cos(tilt) * off
        self.ahead = -off
        right = np.cross([np.sin(rng.normal(0, 0.08)), -1, 0.0], self.ahead)
        self.right = right / np.linalg.norm(right)
        self.down = np.cross(self.right, self.ahead)
        self.px, self.bend = px, tray.bend
        self.reach = np.hypot(*px) / 2
        self.focal = 1.0
        corners = np.array([[0, 0, 0], [width, 0, 0], [width, depth, 0], [0, depth, 0]], float)
        frame = np.array([[-1, -1, 0], [1, -1, 0], [1, 1, 0], [-1, 1, 0]]) * tray.frame_mm
        seen = np.abs(self._flat(corners + frame)).max(axis=0)
        self.focal = float(min((px[0] / 2 - 30) / seen[0], (px[1] / 2 - 30) / seen[1]))
        tray.camera, tray.corners = self.at, self.project(corners)

    def _flat(self, points: Floats) -> Floats:
        off = points - self.at
        return np.asarray(
            self.focal
            * np.column_stack((off @ self.right, off @ self.down))
            / (off @ self.ahead)[:, None]
        )

    def project(self, points: Floats) -> Floats:
        flat = self._flat(points)
        wanted = np.hypot(*flat.T)
        found = wanted.copy()
        for _ in range(12):
            found = wanted / (1 + self.bend * (found / self.reach) ** 2)
        return np.asarray(
            flat * (found / np.maximum(wanted, 1e-9))[:, None] + np.array(self.px) / 2
        )

    def rays(self) -> Floats:
        x, y = np.meshgrid(*(np.arange(size) - size / 2 + 0.5 for size in self.px))
        straight = (1 + self.bend * (x * x + y * y) / self.reach**2) / self.focal
        return np.asarray(
            self.ahead
            + (x * straight)[..., None] * self.right
            + (y * straight)[..., None] * self.down,
            np.float32,
        )


def _sampled(field_of: Floats, x: Floats, y: Floats, around: float) -> Floats:
    return np.asarray(
        cv2.remap(
            field_of.astype(np.float32),
            ((x + around) * PER_MM).astype(np.float32),
            ((y + around) * PER_MM).astype(np.float32),
            cv2.INTER_LINEAR,
            borderMode=cv2.BORDER_REPLICATE,
        )
    )


def _met(high: Floats, camera: _Camera, around: float, steps: int = 18) -> tuple[Floats, Floats]:
    """Where each ray first meets what stands on the table."""
    rays, at = camera.rays(), camera.at
    first = (float(high.max()) + 0.1 - at[2]) / rays[..., 2]
    last = -at[2] / rays[..., 2]
    low, up = first.copy(), last.copy()
    found = np.zeros(first.shape, bool)
    for k in range(1, steps + 1):
        to = first + (last - first) * (k / steps)
        under = _sampled(high, at[0] + rays[..., 0] * to, at[1] + rays[..., 1] * to, around) >= (
            at[2] + rays[..., 2] * to
        )
        up = np.where(under & ~found, to, up)
        found |= under
        low = np.where(found, low, to)
    for _ in range(6):
        half = (low + up) / 2
        x, y, z = (at[k] + rays[..., k] * half for k in range(3))
        under = _sampled(high, x, y, around) >= z
        low, up = np.where(under, low, half), np.where(under, half, up)
    return at[0] + rays[..., 0] * up, at[1] + rays[..., 1] * up


def draw(tray: DrawnTray, rng: np.random.Generator, px: tuple[int, int] = (1280, 960)) -> bytes:
    """A JPEG of the tray; its corners and camera are then known."""
    table = _Table(tray, rng)
    dome = (float(rng.uniform(2.0, 3.4)), float(rng.uniform(1.7, 2.6)))
    for piece in tray.pieces:
        table.put(piece, dome, rng)
    for piece in tray.pieces:
        if tray.chips and rng.random() < 0.5:
            for _ in range(int(rng.integers(3, 9))):
                way, off = rng.uniform(0, 6.28), rng.uniform(0, 0.6) * piece.half
                x, y = piece.x + off * np.cos(way), piece.y + off * np.sin(way)
                table.spot(x, y, float(rng.uniform(2, 4.5)), CHIP)
    for _ in range(tray.crumbs):
        x, y = rng.uniform(0, tray.size[0]), rng.uniform(0, tray.size[1])
        shade = np.array(STRIP_RGB[int(tray.pieces[0].step) - 1 if tray.pieces else 4]) * 0.9
        table.spot(x, y, float(rng.uniform(0.4, 1.5)), tuple(shade))
    if tray.hand:
        x, y = (table.x - tray.size[0] + 10) / 55, (table.y - tray.size[1] + 5) / 35
        on = x * x + y * y < 1
        table.high[on], table.colour[on] = 35, HAND
    colour = table.lit(rng, tray.size)
    camera = _Camera(tray, rng, px)
    x, y = _met(table.high, camera, tray.around_mm)
    seen = np.dstack([_sampled(colour[..., k], x, y, tray.around_mm) for k in (2, 1, 0)])
    seen = cv2.GaussianBlur(seen, (0, 0), 0.8) + rng.normal(0, tray.noise, seen.shape)
    _, written = cv2.imencode(
        ".jpg", np.clip(seen, 0, 255).astype(np.uint8), [cv2.IMWRITE_JPEG_QUALITY, 88]
    )
    return written.tobytes()
