import { useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";
import type { Schemas, Tray } from "../../api/client";
import { sheetCheckQuery } from "../../logic/queries";

type Layout = Tray["layouts"][number];

/** A piece on the sheet, by its place in the layout. */
export interface PlacedPoint {
  place: number;
  x: number;
  y: number;
  meets: boolean;
}

/** Pieces nudged or taken off by hand, on top of a layout; the server says where rims would meet. */
export interface Placed {
  svg: React.RefObject<SVGSVGElement | null>;
  points: PlacedPoint[];
  moving: boolean;
  moved: boolean;
  check: Schemas["PlacedOut"] | undefined;
  toggle: () => void;
  reset: () => void;
  nudge: (place: number, dx: number, dy: number) => void;
  put: (place: number, x: number, y: number) => void;
  drop: (place: number) => void;
}

type Moves = Record<number, { x: number; y: number } | null>;

export function usePlaced(tray: Tray | undefined, layout: Layout | undefined): Placed {
  const svg = useRef<SVGSVGElement | null>(null);
  const [moving, setMoving] = useState(false);
  const [kept, setKept] = useState<{ of: string; moves: Moves }>({ of: "", moves: {} });
  // Moves belong to one layout: another number, gap or pattern starts afresh.
  const of = layout ? `${layout.pattern} ${layout.centres.length} ${layout.nearest_mm}` : "";
  const moves = kept.of === of ? kept.moves : {};
  const change = (place: number, to: { x: number; y: number } | null) =>
    setKept({ of, moves: { ...moves, [place]: to } });
  const here = (place: number) => moves[place] ?? layout?.centres[place] ?? { x: 0, y: 0 };

  const all = (layout?.centres ?? []).flatMap((centre, place) => {
    const to = moves[place];
    return to === null ? [] : [{ place, ...(to ?? centre) }];
  });
  const moved = Object.keys(moves).length > 0;
  const asked = tray && {
    footprint: tray.footprint,
    turned: layout?.turned ?? false,
    centres: all.map(({ x, y }) => ({ x, y })),
  };
  const check = useQuery(sheetCheckQuery(asked, moving && moved));
  const found = moved ? check.data : undefined;
  const meeting = new Set(found?.meetings.flatMap(({ one, other }) => [one, other]));
  const off = new Set(found?.off_sheet);

  return {
    svg,
    points: all.map((point, n) => ({ ...point, meets: meeting.has(n) || off.has(n) })),
    moving,
    moved,
    check: found,
    toggle: () => setMoving(!moving),
    reset: () => setKept({ of, moves: {} }),
    nudge: (place, dx, dy) => change(place, { x: here(place).x + dx, y: here(place).y + dy }),
    put: (place, x, y) => change(place, { x, y }),
    drop: (place) => change(place, null),
  };
}
