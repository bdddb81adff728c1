import type { Kitchen, Schemas } from "../../api/client";
import { span, spanBy } from "../../logic/format";

const WIDTH = 560;
const HEIGHT = 190;
const MM = 0.16;
const BOX = 150;

interface Drawn {
  name: string;
  across: number;
  down: number;
  round: boolean;
  number: number;
  dark: boolean;
}

/** Everything that goes into the oven, the usual sheets first. */
function pieces(kitchen: Kitchen): Drawn[] {
  return [
    {
      name: "sheet",
      across: kitchen.sheet_width_mm,
      down: kitchen.sheet_depth_mm,
      round: false,
      number: kitchen.sheets,
      dark: kitchen.sheet_kind === "dark",
    },
    ...kitchen.other_sheets.map((s) => ({
      name: s.name,
      across: s.width_mm,
      down: s.depth_mm,
      round: false,
      number: s.number,
      dark: s.kind === "dark",
    })),
    ...kitchen.pans.map((p) => ({
      name: p.name,
      across: p.across_mm,
      down: p.shape === "rectangle" ? p.down_mm : p.across_mm,
      round: p.shape === "round",
      number: p.number,
      dark: false,
    })),
  ];
}

/** The kitchen to one scale: ovens with their shelves and hot side, and what goes into them. */
export function KitchenDrawing({ kitchen }: { kitchen: Kitchen }) {
  const { oven, second } = kitchen.planning;
  const ovens = [
    { shelves: kitchen.shelves, side: oven?.hot_side },
    ...(second ? [{ shelves: second.shelves, side: second.nature?.hot_side }] : []),
  ];
  const drawn = pieces(kitchen);
  const box = Math.max(kitchen.sheet_width_mm * MM + 30, 110);
  let x = ovens.length * (box + 24) + 10;
  const placed = drawn.map((piece) => {
    const at = x;
    const label = 8.2 * Math.max(`${piece.number} × ${piece.name}`.length, 13);
    x += Math.max(piece.across * MM + (piece.number - 1) * 7, label) + 22;
    return { ...piece, at };
  });
  const wide = Math.max(WIDTH, x);
  return (
    <svg
      role="img"
      aria-label={`${ovens.map((o) => `An oven with ${o.shelves} ${o.shelves === 1 ? "shelf" : "shelves"}`).join("; ")}. ${drawn.map((d) => `${d.number} × ${d.name}, ${spanBy(d.across, d.down)}`).join("; ")}.`}
      viewBox={`0 0 ${wide} ${HEIGHT}`}
      className="w-full max-w-2xl"
    >
      {ovens.map(({ shelves, side }, n) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: an oven is its place
        <g key={n} transform={`translate(${n * (box + 24) + 2} 10)`}>
          <OvenBox box={box} shelves={shelves} side={side} tray={kitchen.sheet_width_mm * MM} />
        </g>
      ))}
      {placed.map((piece) => (
        <g key={piece.name}>
          {Array.from({ length: piece.number }, (_, n) => (
            <rect
              // biome-ignore lint/suspicious/noArrayIndexKey: all the same
              key={n}
              x={piece.at + n * 7}
              y={20 + n * 7}
              width={piece.across * MM}
              height={piece.down * MM}
              rx={piece.round ? (piece.across * MM) / 2 : 0}
              className={piece.dark ? "fill-soft stroke-ink" : "fill-sheet stroke-ink"}
            />
          ))}
          <text x={piece.at} y={162} fontSize={14} fontWeight={600} className="fill-ink">
            {piece.number} × {piece.name}
          </text>
          <text x={piece.at} y={180} fontSize={13} className="fill-soft">
            {piece.round ? span(piece.across) : spanBy(piece.across, piece.down)}
          </text>
        </g>
      ))}
    </svg>
  );
}

interface OvenBoxProps {
  box: number;
  shelves: number;
  side: Schemas["OvenNature"]["hot_side"];
  tray: number;
}

function OvenBox({ box, shelves, side, tray }: OvenBoxProps) {
  return (
    <>
      <rect width={box} height={BOX - 20} className="fill-wash stroke-ink" strokeWidth={2.5} />
      {(side === "left" || side === "right") && (
        <rect
          x={side === "left" ? 2 : box - 9}
          y={2}
          width={7}
          height={BOX - 24}
          className="fill-gold"
        />
      )}
      {Array.from({ length: shelves }, (_, k) => {
        const y = ((k + 1) * (BOX - 20)) / (shelves + 1);
        return (
          // biome-ignore lint/suspicious/noArrayIndexKey: a shelf is its place
          <g key={k}>
            <line x1={6} x2={box - 6} y1={y} y2={y} className="stroke-ink" />
            <rect x={(box - tray) / 2} y={y - 6} width={tray} height={5} className="fill-enamel" />
          </g>
        );
      })}
      <text x={0} y={152} fontSize={14} fontWeight={600} className="fill-ink">
        {shelves} {shelves === 1 ? "shelf" : "shelves"}
      </text>
      <text x={0} y={170} fontSize={13} className="fill-soft">
        {side === "even" || side === undefined ? "browns evenly" : `${side} browns first`}
      </text>
    </>
  );
}
