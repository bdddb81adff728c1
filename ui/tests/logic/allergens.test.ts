import { expect, it } from "vitest";
import { contains } from "../../src/logic/allergens";

const of = (name: string, surely: boolean) => ({ name, surely, brought_by: ["flour"] });

it("tells what is in it from what only may be", () => {
  expect(contains([of("wheat", true), of("milk", false), of("eggs", true)])).toBe(
    "Contains wheat, eggs; may contain milk",
  );
  expect(contains([of("soy", false)])).toBe("May contain soy");
  expect(contains([])).toBe("");
});
