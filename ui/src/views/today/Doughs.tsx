import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { date, span } from "../../logic/format";
import { rulerMarks } from "../../logic/marks";
import { bookWordsQuery, drawerQuery, wordsQuery } from "../../logic/queries";
import { VERDICTS } from "../../logic/verdicts";
import { Notice } from "../../parts/Notice";
import { outlineOf } from "../../parts/SideView";

type Drawn = Schemas["DrawnDough"];

const FIRST = 8;
const MORE = 24;
const COLUMN = 270;
const [ABOVE, BELOW, LEFT] = [30, 14, 10];
const USUAL = { width_mm: 70, height_mm: 20 };

/** The doughs from the side, to one scale and on one ruler, as they last came out. */
export function Doughs() {
  const [most, setMost] = useState(FIRST);
  const drawer = useQuery(drawerQuery("", most));
  const words = useQuery(wordsQuery);
  const book = useQuery(bookWordsQuery);
  const found = drawer.data;
  if (!found) return <Notice problem={drawer.error} />;
  const drawn = found.doughs.map((dough) => dough.piece ?? USUAL);
  const wide = Math.max(...drawn.map((piece) => piece.width_mm));
  const high = Math.max(...drawn.map((piece) => piece.height_mm));
  const scale = Math.min(2.7, (COLUMN - 3 * LEFT) / wide, 120 / high);
  return (
    <section aria-label="Doughs">
      <h2 className="heading">
        Doughs
        <span className="text-[0.9375rem] font-normal text-soft">
          to one scale, as they last came out; {found.doughs.length} of {found.total}, the latest
          first
        </span>
      </h2>
      <ul className="mt-2 grid grid-cols-[repeat(auto-fill,minmax(16.9rem,1fr))] gap-y-4">
        {found.doughs.map((dough) => (
          <li key={dough.id} className="min-w-0">
            <Link to={`/dough/${dough.id}`} className="block hover:bg-wash">
              <OnRuler dough={dough} scale={scale} high={high} />
              <span className="block px-2.5 pb-1">
                <strong className="block text-lg break-words">{dough.name}</strong>
                <span className="text-[0.9375rem] text-soft">
                  {words.data?.families.find((f) => f.key === dough.family)?.label} ·{" "}
                  {said(dough, book.data?.troubles ?? {})}
                </span>
              </span>
            </Link>
          </li>
        ))}
      </ul>
      {found.total > found.doughs.length && (
        <p className="mt-2 flex gap-3">
          {most === FIRST && (
            <button type="button" className="press" onClick={() => setMost(MORE)}>
              Show more
            </button>
          )}
          <Link to="/dough" className="press">
            All {found.total}
          </Link>
        </p>
      )}
    </section>
  );
}

/** How it came out last, in a baker's words. */
function said({ last, piece }: Drawn, troubles: Record<string, string>): string {
  if (!last) return piece ? "not baked yet" : "not baked yet, no piece foreseen";
  const verdict = VERDICTS.find(([key]) => key === last.verdict)?.[1];
  const told = [...last.troubles.map((key) => troubles[key] ?? key), verdict];
  return [...told.filter(Boolean), date(last.at)].join(" · ");
}

interface OnRulerProps {
  dough: Drawn;
  scale: number;
  high: number;
}

/** A piece on its stretch of the ruler, whose zero is at the piece's left edge. */
function OnRuler({ dough: { piece }, scale, high }: OnRulerProps) {
  const ground = ABOVE + high * scale;
  const width = (piece?.width_mm ?? 0) * scale;
  const top = ground - (piece?.height_mm ?? 0) * scale;
  const text = piece ? span(piece.width_mm) : "";
  return (
    <svg
      role="img"
      aria-label={
        piece
          ? `${text} wide and ${span(piece.height_mm)} high, ${piece.measured ? "as it was measured" : "as it is foreseen"}`
          : "No piece can be foreseen yet."
      }
      height={ground + BELOW}
      className="w-full overflow-hidden"
    >
      <line x1={0} x2={2000} y1={ground} y2={ground} className="stroke-ink" strokeWidth={1.2} />
      {rulerMarks(300, "fine").map(({ mm, number }) => (
        <line
          key={mm}
          x1={LEFT + mm * scale}
          x2={LEFT + mm * scale}
          y1={ground}
          y2={ground + (number === null ? 5 : 9)}
          className="stroke-ink"
        />
      ))}
      {piece && (
        <>
          <path
            transform={`translate(${LEFT + width / 2} ${ground})`}
            d={outlineOf(piece.flat, width, piece.height_mm * scale)}
            className={piece.measured ? "fill-blond stroke-amber" : "fill-none stroke-amber"}
            strokeWidth={1.5}
            strokeDasharray={piece.measured ? undefined : "5 3"}
          />
          <line
            x1={LEFT}
            x2={LEFT + width}
            y1={top - 9}
            y2={top - 9}
            className="stroke-enamel"
            strokeWidth={1.3}
          />
          <text
            x={LEFT + width / 2}
            y={top - 15}
            textAnchor="middle"
            fontSize={16}
            fontWeight={650}
            className="fill-enamel"
          >
            {text}
          </text>
        </>
      )}
    </svg>
  );
}
