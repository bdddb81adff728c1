import type { Tray } from "../api/client";
import { distances } from "./distances";
import { fine, span } from "./format";

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
/** A small number as a word. */
export const word = (n: number): string => WORDS[n] ?? String(n);
const cap = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

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
  const apart = across === null ? "" : `, ${span(across)} from middle to middle`;
  const free =
    layout.nearest_mm !== null && tray.footprint.is_round
      ? ` ${fine(layout.nearest_mm - tray.footprint.across_mm)} stay free between the rims.`
      : "";
  if (layout.pattern === "nested")
    return `${rows}${apart}, each reaching into the next, and a tray fewer: the paper template shows where.`;
  return `${rows}${apart}.${free}`;
}
