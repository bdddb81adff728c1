const AGAIN_MS = 1000;
const MOST_BROKEN_OFF = 3;
/** A press's own key, by which the server knows it when it is sent again. */
export const PRESS = "x-fine-batch-press";
const QUESTIONS = new Set(["GET", "HEAD", "OPTIONS"]);

let last: Promise<unknown> = Promise.resolve();
let waiting = 0;

const pause = (ms: number) => new Promise((done) => setTimeout(done, ms));

const answers = () =>
  fetch("/api/about", { cache: "no-store" }).then(
    (answer) => answer.ok,
    () => false,
  );

async function untilAnswered(send: () => Promise<Response>, signal: AbortSignal) {
  let brokenOff = 0;
  for (;;) {
    await pause(AGAIN_MS);
    try {
      return await send();
    } catch (error) {
      // One that is cut short while the server does answer others would never be taken.
      if (signal.aborted || ((await answers()) && ++brokenOff === MOST_BROKEN_OFF)) throw error;
    }
  }
}

/**
 * Send what was pressed until the server answers. It has a key by which the server knows it again,
 * so that what was kept before its answer was lost is not kept twice; what is pressed meanwhile
 * waits its turn.
 */
export async function pressed(request: Request): Promise<Response> {
  if (QUESTIONS.has(request.method)) return fetch(request);
  const { url, method, signal } = request;
  const headers = new Headers(request.headers);
  headers.set(PRESS, crypto.randomUUID());
  const whole = await request.arrayBuffer();
  const body = whole.byteLength > 0 ? whole : null;
  const send = () => fetch(new Request(url, { method, headers, body, signal }));
  if (waiting === 0) {
    try {
      return await send();
    } catch (error) {
      if (signal.aborted) throw error;
    }
  }
  waiting += 1;
  const turn = last
    .then(() => untilAnswered(send, signal))
    .finally(() => {
      waiting -= 1;
    });
  last = turn.catch(() => {});
  return turn;
}
