import { expect, test } from "vitest";
import { titleOf } from "../../src/logic/titles";

test("a title says what is there, on which screen, and whose it is", () => {
  expect(titleOf("/", "Today")).toBe("Today – Fine Batch");
  expect(titleOf("/tray/3", " Rye \n drops ")).toBe("Rye drops – Tray – Fine Batch");
  expect(titleOf("/bake", "Turn A1")).toBe("Turn A1 – Bake – Fine Batch");
  expect(titleOf("/print/label/3", "")).toBe("To print – Fine Batch");
  expect(titleOf("/plan", "Plan", "Turn A1")).toBe("Now: Turn A1 – Plan – Fine Batch");
  expect(titleOf("/bake", "Turn A1", "Turn A1")).toBe("Now: Turn A1 – Bake – Fine Batch");
  expect(titleOf("/nowhere", "")).toBe("Fine Batch");
});
