import { expect, test } from "vitest";
import type { BakingSession } from "../../src/api/client";
import { toDo } from "../../src/logic/closing";

const DOUGHS = [
  {
    letter: "A",
    name: "Plum drops",
    dough_id: 7,
    kept: 0,
    keep_as: "portions",
    keep_in: "freezer",
  },
  { letter: "B", name: "Sesame log", dough_id: 9, kept: 14, keep_as: "log", keep_in: "fridge" },
  { letter: "C", name: "Gone", dough_id: null, kept: 0, keep_as: "dough", keep_in: "freezer" },
] as unknown as BakingSession["doughs"];

const session = (closing: BakingSession["closing"]) => ({ id: 3, doughs: DOUGHS, closing });

test("each dough is written down, each rest put away, all cleared up", () => {
  const list = toDo(
    session([
      { kind: "write", dough: "A", done: true, kept: null },
      { kind: "write", dough: "B", done: false, kept: null },
      { kind: "put_away", dough: "B", done: true, kept: 12 },
      { kind: "clear", dough: null, done: false, kept: null },
    ]),
  );
  expect(list.map((one) => [one.says, one.done, one.to])).toEqual([
    ["Write down what came out of Plum drops", true, "/book/7?session=3"],
    ["Write down what came out of Sesame log", false, "/book/9?session=3"],
    ["14 pieces of Sesame log lie in the fridge as a log", true, "/cold"],
    ["Clear up", false, null],
  ]);
  expect(list[2]?.label).toBe("/print/label/12");
  expect(list[3]?.key).toBe("all.clear");
});

test("a rest that was not wrapped is put away by hand; a dough that is gone is left out", () => {
  const list = toDo(
    session([
      { kind: "put_away", dough: "B", done: false, kept: null },
      { kind: "write", dough: "C", done: false, kept: null },
    ]),
  );
  expect(list).toHaveLength(1);
  expect(list[0]).toMatchObject({ to: "/cold?dough=9&pieces=14", label: null, done: false });
  expect(toDo(session([]))).toEqual([]);
});
