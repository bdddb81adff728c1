import { expect, test } from "vitest";
import {
  isEmpty,
  NO_WISH,
  sureness,
  titled,
  type Way,
  wished,
  withFigure,
  withoutToo,
  withSense,
} from "../../src/logic/aim";

test("a wish of nothing is empty, and what is emptied is wished no more", () => {
  expect(isEmpty(NO_WISH)).toBe(true);
  const wide = withFigure(NO_WISH, "width_mm", 70);
  expect(isEmpty(wide)).toBe(false);
  expect(isEmpty(withFigure(wide, "width_mm", null))).toBe(true);
  expect(isEmpty(wished(wished(NO_WISH, "from_house", true), "from_house", false))).toBe(true);
});

test("a figure keeps how it is meant, and is meant about at first", () => {
  const about = withFigure(NO_WISH, "minutes", 9);
  expect(about.minutes).toEqual({ figure: 9, sense: "about" });
  const most = withSense(about, "minutes", "at_most");
  expect(withFigure(most, "minutes", 8).minutes).toEqual({ figure: 8, sense: "at_most" });
  expect(withSense(NO_WISH, "minutes", "at_most")).toBe(NO_WISH);
});

test("what it shall be without is ticked and unticked", () => {
  const both = withoutToo(withoutToo(NO_WISH, "egg"), "milk");
  expect(both.without).toEqual(["egg", "milk"]);
  expect(withoutToo(both, "egg").without).toEqual(["milk"]);
});

test("how sure a width is, in words", () => {
  expect(sureness(0.32)).toBe("about 3 in 10 come out so wide");
  expect(sureness(0.01)).toBe("hardly any piece comes out so wide");
  expect(sureness(0.99)).toBe("nearly every piece comes out so wide");
  expect(sureness(null)).toBe("");
});

test("a second way of one kind has a title of its own", () => {
  const ways = [{ key: "least" }, { key: "another_swap" }, { key: "another_swap" }] as Way[];
  expect(titled(ways).map(({ title }) => title)).toEqual([
    "Least change",
    "Another swap",
    "Another swap, a second one",
  ]);
});
