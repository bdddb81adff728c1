import createClient from "openapi-fetch";
import { pressed } from "./press";
import type { components, paths } from "./schema";

export type Schemas = components["schemas"];
export type Dough = Schemas["Dough"];
export type Line = Schemas["Line"];
export type Unit = Line["unit"];
export type Weighed = Schemas["WeighedDough"];
export type Words = Schemas["WordsOut"];
export type Ingredient = Schemas["IngredientOut"];
export type TraySetting = Schemas["TraySetting"];
export type Tray = Schemas["TrayOut"];
export type Kitchen = Schemas["KitchenSetting"];
export type BakingSession = Schemas["ShownSession"];
export type Activity = Schemas["ShownJob"];
export type Bake = Schemas["BakeOut"];
export type Study = Schemas["Study"];
export type CardBody = Schemas["Card"];
export type Fault = Schemas["Fault"];

/** What was pressed is sent until it is answered. */
export const api = createClient<paths>({ baseUrl: "", fetch: pressed });

/** A question that changes nothing, for all that it is sent as one that does. */
export const asking = createClient<paths>({ baseUrl: "" });

/** Under which name a tablet or phone keeps what is at hand without a network. */
export const AT_HAND = "finebatch.at-hand";
/** Whether this page is of another device than the machine that answers. */
export const isElsewhere = (): boolean => location.protocol === "https:";

let out = false;
/** Whether this device was let go: it keeps nothing any more. */
export const wasLetGo = (): boolean => out;

// A tablet that was let go is asked for a code, as anybody is, and has nothing at hand any more.
// This machine itself never is.
for (const one of [api, asking])
  one.use({
    onResponse({ response }) {
      if (response.status !== 401) return;
      out = true;
      try {
        localStorage.removeItem(AT_HAND);
      } finally {
        location.replace("/let-in");
      }
    },
  });

const KEPT_BEFORE = "urn:fine-batch:kept-before";

/** A problem that the server told us of, or that it could not be reached. */
export class ProblemError extends Error {
  readonly status: number;
  readonly faults: Fault[];
  /** Whether it is none: what was sent again had been kept, and its answer was lost. */
  readonly isKept: boolean;

  constructor(detail: string, status: number, faults: Fault[], type = "") {
    super(detail);
    this.status = status;
    this.faults = faults;
    this.isKept = type === KEPT_BEFORE;
  }

  /** What is wrong at a field, if anything is. */
  at(field: string): string | undefined {
    return this.faults.find((f) => f.field === field || f.field.endsWith(`.${field}`))?.message;
  }
}

const away = (): string =>
  isElsewhere()
    ? "The machine that Fine Batch runs on does not answer. What you typed stays here."
    : "Fine Batch does not answer. Is it still running? What you typed stays here.";

interface Answer<T> {
  data?: T;
  error?: unknown;
  response: Response;
}

/** The body of a good answer; a `ProblemError` otherwise. */
export async function body<T>(asked: Promise<Answer<T>>): Promise<T> {
  let answer: Answer<T>;
  try {
    answer = await asked;
  } catch (error) {
    if (error instanceof DOMException && error.name === "AbortError") throw error;
    throw new ProblemError(away(), 0, []);
  }
  if (answer.response.ok) return answer.data as T;
  const problem = answer.error as Partial<Schemas["Problem"]> | undefined;
  throw new ProblemError(
    problem?.detail ?? "Something went wrong. Try again.",
    answer.response.status,
    problem?.errors ?? [],
    problem?.type,
  );
}
