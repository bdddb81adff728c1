import { Link } from "react-router";
import type { Tray } from "../../api/client";
import { cm } from "../../app/format";
import { distances } from "./distances";

const WORDS = [
  "none",
  "one",
  "two",
  "three",
  "four",
  "five",
  "six",
  "seven",
  "eight",
  "nine",
  "ten",
];
const word = (n: number): string => WORDS[n] ?? String(n);

/** How to lay the fullest sheet out, in words, and the next step. */
export function TraySentence({ doughId, tray }: { doughId: number; tray: Tray }) {
  const layout = tray.layouts[0];
  if (!layout) return null;
  const { across } = distances(layout.centres);
  const alike = layout.rows.every((n) => n === layout.rows[0]);
  const kind = layout.turned ? "column" : "row";
  const rows = alike
    ? `${cap(word(layout.rows.length))} ${kind}${layout.rows.length === 1 ? "" : "s"} of ${word(layout.rows[0] ?? 0)}`
    : `${cap(kind)}s of ${layout.rows.join(", ")}`;
  return (
    <div className="mt-1 flex items-center justify-between gap-4 border-t border-ink pt-3 max-sm:flex-col">
      <p className="text-lg">
        {rows}
        {across !== null && `, ${cm(across)} cm from middle to middle`}.{" "}
        {tray.layouts[0]?.nearest_mm != null &&
          `${Math.round((layout.nearest_mm ?? 0) - tray.width.middle_mm)} mm stay free between baked pieces.`}
      </p>
      <Link to={`/plan/${doughId}`} className="press press-main min-h-12 flex-none text-lg">
        Plan{" "}
        {tray.yields.trays.length === 1
          ? "this tray"
          : `these ${word(tray.yields.trays.length)} trays`}
      </Link>
    </div>
  );
}

const cap = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
