import { Link, useNavigate } from "react-router";
import type { Tray } from "../../api/client";
import { cm } from "../../app/format";
import { useBakeNow } from "../bake/session";
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
const cap = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

/** How to lay the fullest sheet out, in words, and the next step. */
export function TraySentence({ doughId, tray }: { doughId: number; tray: Tray }) {
  const trays = tray.yields.trays.length;
  const what = tray.says.holder;
  const navigate = useNavigate();
  const now = useBakeNow();
  return (
    <div className="mt-1 flex items-center justify-between gap-4 border-t border-ink pt-3 max-sm:flex-col">
      <p className="flex-1 text-lg">{trayInWords(tray)}</p>
      {now.error && <p className="max-w-56 text-caution">{now.error.message}</p>}
      <button
        type="button"
        className="press min-h-12 flex-none"
        disabled={now.isPending}
        onClick={() => now.mutate(doughId, { onSuccess: () => navigate("/bake") })}
      >
        Bake one {what} now
      </button>
      <Link to={`/plan/${doughId}`} className="press press-main min-h-12 flex-none text-lg">
        Plan {trays === 1 ? `this ${what}` : `these ${word(trays)} ${what}s`}
      </Link>
    </div>
  );
}

/** How the fullest sheet is laid out, in words. */
export function trayInWords(tray: Tray): string {
  const layout = tray.layouts[0];
  if (!layout) return "Each pan is a tray of its own, on the middle of its shelf.";
  if (layout.pattern === "close")
    return "Closer than rows, and a tray fewer: lay them out by the paper template.";
  // Along the rows, which run down the sheet when the layout is turned.
  const along = layout.turned ? layout.centres.map(({ x, y }) => ({ x: y, y: x })) : layout.centres;
  const { across } = distances(along);
  const alike = layout.rows.every((n) => n === layout.rows[0]);
  const kind = layout.turned ? "column" : "row";
  const rows = alike
    ? `${cap(word(layout.rows.length))} ${kind}${layout.rows.length === 1 ? "" : "s"} of ${word(layout.rows[0] ?? 0)}`
    : `${cap(kind)}s of ${layout.rows.join(", ")}`;
  const apart = across === null ? "" : `, ${cm(across)} cm from middle to middle`;
  const free =
    layout.nearest_mm !== null && tray.footprint.is_round
      ? ` ${Math.round(layout.nearest_mm - tray.footprint.across_mm)} mm stay free between the rims.`
      : "";
  return `${rows}${apart}.${free}`;
}
