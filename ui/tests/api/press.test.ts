import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { pressed } from "../../src/api/press";

let away: boolean;
let taken: { path: string; key: string | null }[];
let cutShort: boolean;

const at = (path: string) => `http://127.0.0.1:8765${path}`;

beforeEach(() => {
  vi.useFakeTimers();
  away = cutShort = false;
  taken = [];
  vi.stubGlobal("fetch", async (asked: Request | string) => {
    if (away) throw new TypeError("nobody answers");
    if (typeof asked === "string") return new Response("{}");
    if (cutShort) throw new TypeError("cut short");
    taken.push({
      path: new URL(asked.url).pathname,
      key: asked.headers.get("x-fine-batch-press"),
    });
    return new Response(await asked.text(), { status: 201 });
  });
});

afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

const post = (path: string, body = "1") => pressed(new Request(at(path), { method: "POST", body }));

test("a press has a key of its own, a question has none", async () => {
  await post("/a");
  await post("/a");
  await pressed(new Request(at("/b")));
  const [one, other, question] = taken.map(({ key }) => key);
  expect(one).toMatch(/^[0-9a-f-]{36}$/);
  expect(other).not.toBe(one);
  expect(question).toBeNull();
});

test("what is pressed while nobody answers arrives in its order once somebody does", async () => {
  away = true;
  const answers = ["/first", "/second", "/third"].map((path) => post(path, `of ${path}`));
  await vi.advanceTimersByTimeAsync(5500);
  expect(taken).toEqual([]);
  away = false;
  const late = post("/fourth");
  await vi.advanceTimersByTimeAsync(6000);
  const texts = await Promise.all(answers.map(async (answer) => (await answer).text()));
  expect(texts).toEqual(["of /first", "of /second", "of /third"]);
  expect((await late).status).toBe(201);
  expect(taken.map(({ path }) => path)).toEqual(["/first", "/second", "/third", "/fourth"]);
});

test("a question is not sent again", async () => {
  away = true;
  await expect(pressed(new Request(at("/b")))).rejects.toThrow("nobody answers");
});

test("one that is cut short again and again while others are answered is given up", async () => {
  cutShort = true;
  const answer = expect(post("/photo")).rejects.toThrow("cut short");
  await vi.advanceTimersByTimeAsync(5000);
  await answer;
  cutShort = false;
  expect((await post("/a")).status).toBe(201);
});

test("one that is wanted no more is not sent again", async () => {
  away = true;
  const leaves = new AbortController();
  const answer = expect(
    pressed(new Request(at("/a"), { method: "POST", signal: leaves.signal })),
  ).rejects.toThrow();
  leaves.abort();
  await vi.advanceTimersByTimeAsync(2000);
  await answer;
});
