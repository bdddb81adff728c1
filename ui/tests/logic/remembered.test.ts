import { beforeEach, expect, test } from "vitest";
import { forget, forgetAll, remember, remembered } from "../../src/logic/remembered";

const kept = new Map<string, string>();
let full = false;

beforeEach(() => {
  kept.clear();
  full = false;
  const store = {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, text: string) => {
      if (full) throw new Error("full");
      kept.set(key, text);
    },
    removeItem: (key: string) => kept.delete(key),
  };
  globalThis.sessionStorage = new Proxy(store, {
    ownKeys: () => [...kept.keys()],
    getOwnPropertyDescriptor: () => ({ enumerable: true, configurable: true }),
  }) as unknown as Storage;
});

test("what is typed is there again until it is as usual", () => {
  remember("note", "thin at the rim", "");
  expect(remembered("note", "")).toBe("thin at the rim");
  remember("note", "", "");
  expect(kept.size).toBe(0);
  expect(remembered("note", "")).toBe("");
});

test("what is of another kind, or no JSON, is not taken", () => {
  remember("widths", ["61"], []);
  expect(remembered("widths", "")).toBe("");
  kept.set("finebatch.typed.widths", "{");
  expect(remembered<string[]>("widths", [])).toEqual([]);
});

test("it is forgotten by name, or all of it", () => {
  remember("a", 1, 0);
  remember("b", 2, 0);
  kept.set("other", "stays");
  forget("a");
  expect(remembered("a", 0)).toBe(0);
  forgetAll();
  expect([...kept.keys()]).toEqual(["other"]);
});

test("a full store is no harm", () => {
  full = true;
  remember("note", "thin", "");
  expect(remembered("note", "")).toBe("");
});
