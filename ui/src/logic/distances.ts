import type { Tray } from "../api/client";

type Point = Tray["layouts"][number]["centres"][number];

const NEAR = 0.01;

/** How far the second piece of the first row is from the first, and the second row from it. */
export function distances(centres: Point[]): { across: number | null; down: number | null } {
  const rows = [...new Set(centres.map(({ y }) => Math.round(y / NEAR)))].sort((a, b) => a - b);
  const [top, next] = rows;
  const firstRow = centres
    .filter(({ y }) => Math.round(y / NEAR) === top)
    .map(({ x }) => x)
    .sort((a, b) => a - b);
  const [left, right] = firstRow;
  return {
    across: left !== undefined && right !== undefined ? right - left : null,
    down: top !== undefined && next !== undefined ? (next - top) * NEAR : null,
  };
}
