import { type QueryClient, useQueryClient } from "@tanstack/react-query";
import { useEffect, useLayoutEffect, useRef } from "react";
import { titleOf } from "../logic/titles";

/** Look at the screen now, and with each of its changes. */
function watch(look: (main: HTMLElement) => void): (() => void) | undefined {
  const main = document.getElementById("main");
  if (!main) return undefined;
  look(main);
  const watching = new MutationObserver(() => look(main));
  watching.observe(main, { childList: true, subtree: true, characterData: true });
  return () => watching.disconnect();
}

/** Every screen has its name in the window's title, whatever it says meanwhile, after what calls. */
export function useTitle(path: string, called: string): void {
  useEffect(
    () =>
      watch((main) => {
        const title = titleOf(path, main.querySelector("h1")?.textContent ?? "", called);
        if (document.title !== title) document.title = title;
      }),
    [path, called],
  );
}

const LOOK_MS = 20;
const QUIET_LOOKS = 2;
/** A screen that is not whole by then is shown as far as it is. */
const MOST_MS = 700;

/** Whether something on the screen still waits for its first answer. */
const waits = (queries: QueryClient): boolean =>
  queries.isFetching({
    predicate: (query) => query.state.data === undefined && query.getObserversCount() > 0,
  }) > 0;

/** Once the screen is there and all that it asked for has been answered; soon in any case. */
function whenWhole(main: HTMLElement, queries: QueryClient, then: () => void): () => void {
  const began = performance.now();
  let quiet = 0;
  const watching = setInterval(() => {
    quiet = main.querySelector("h1") && !waits(queries) ? quiet + 1 : 0;
    if (quiet < QUIET_LOOKS && performance.now() - began < MOST_MS) return;
    clearInterval(watching);
    then();
  }, LOOK_MS);
  return () => clearInterval(watching);
}

/** A screen that is gone to is shown once it is whole, so that nothing moves under the eye. It begins
 * at its top, and its heading is where the keyboard and a reader go on. */
export function useOpened(path: string): void {
  const queries = useQueryClient();
  const shown = useRef<string | null>(null);
  useLayoutEffect(() => {
    const main = document.getElementById("main");
    if (!main) return;
    let arrives = shown.current !== null && shown.current !== path;
    shown.current = path;
    if (arrives) scrollTo(0, 0);
    main.dataset.opening = "";
    const over = new AbortController();
    const leave = whenWhole(main, queries, () => {
      delete main.dataset.opening;
      const unwatch = watch(() => {
        const heading = main.querySelector("h1");
        if (!arrives || !heading) return;
        arrives = false;
        // A field that has taken the focus by itself keeps it.
        if (main.contains(document.activeElement)) return;
        heading.tabIndex = -1;
        heading.focus({ preventScroll: true });
      });
      over.signal.addEventListener("abort", () => unwatch?.());
    });
    return () => {
      leave();
      over.abort();
    };
  }, [path, queries]);
}
