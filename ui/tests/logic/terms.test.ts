import { expect, test } from "vitest";
import { KEY_SHEET } from "../../src/logic/keys";
import { TERMS } from "../../src/logic/terms";

test("a key stands once in its part of the sheet", () => {
  for (const [where, keys] of KEY_SHEET)
    expect(new Set(keys.map(([key]) => key)).size, where).toBe(keys.length);
});

test("a term is told in whole sentences that fit beside it", () => {
  for (const [name, meaning] of Object.values(TERMS)) {
    expect(meaning, name).toMatch(/^[A-Z].*\.$/);
    expect(meaning.length, name).toBeLessThan(280);
  }
});
