import { expect, test } from "vitest";
import type { BakingSession, Tray } from "../../src/api/client";
import { drawnOf } from "../../src/logic/jobDrawing";

const layout = (pieces: number) =>
  ({
    centres: Array.from({ length: pieces }, (_, n) => ({ x: n, y: 0 })),
  }) as unknown as Tray["layouts"][number];
const TRAY = {
  layouts: [layout(24), layout(12), layout(5)],
  also: [
    { word: "large", layouts: [] },
    { word: "small", layouts: [layout(30)] },
  ],
} as unknown as Pick<Tray, "layouts" | "also">;
const on = (pieces: number, size = "") => ({ pieces, size }) as BakingSession["trays"][number];
const ROLLED = { tab: "Slab", drawn_in: ["portion" as const], portioned: "" };
const DROPPED = { ...ROLLED, tab: "" };

test("a tray is drawn with as many places as it has pieces", () => {
  expect(drawnOf("portion", DROPPED, TRAY, on(12)).layout?.centres).toHaveLength(12);
  const few = drawnOf("portion", DROPPED, TRAY, on(7));
  expect(few.layout?.centres.map(({ x }) => x)).toEqual([0, 1, 2, 3, 4, 5, 6]);
  expect(drawnOf("portion", DROPPED, TRAY, on(28)).layout).toBeNull();
  expect(drawnOf("portion", DROPPED, TRAY, on(28, "small")).layout?.centres).toHaveLength(28);
});

test("what a kind asks for beside that is drawn with the jobs that it belongs to", () => {
  expect(drawnOf("portion", ROLLED, TRAY, on(12)).making).toBe(true);
  expect(drawnOf("portion", DROPPED, TRAY, on(12)).making).toBe(false);
  expect(drawnOf("slice", ROLLED, TRAY, on(12))).toEqual({ making: false, layout: null });
  const whole = { ...ROLLED, portioned: "scored in {pieces}" };
  expect(drawnOf("portion", whole, TRAY, on(24))).toEqual({ making: true, layout: null });
  const log = { ...ROLLED, drawn_in: ["form" as const, "portion" as const] };
  expect(drawnOf("form", log, TRAY, undefined)).toEqual({ making: true, layout: null });
});
