import type { QueryClient } from "@tanstack/react-query";

const QUIET_MS = 10_000;
const LOOK_MS = 1_000;

let shell: string | null = null;
let waiting = false;
let pressed = Date.now();
for (const event of ["keydown", "pointerdown", "input"])
  addEventListener(event, () => {
    pressed = Date.now();
  });

/** The server says which interface it has. Another one than this page was made of takes its place at
 * the next moment at which nobody is in the midst of something; what was typed is remembered. */
export function meet(hello: { shell: string }, queries: QueryClient): void {
  shell ??= hello.shell;
  if (hello.shell === shell || waiting) return;
  waiting = true;
  const look = setInterval(() => {
    if (queries.isMutating() > 0) return;
    const quiet = document.hidden || Date.now() - pressed > QUIET_MS;
    if (!quiet) return;
    clearInterval(look);
    location.reload();
  }, LOOK_MS);
}
