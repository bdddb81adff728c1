import { useEffect, useRef } from "react";
import { titleOf } from "../logic/titles";

/**
 * Every screen has its name in the window's title, whatever it says meanwhile. One that is gone to
 * begins at its top, and its heading is where the keyboard and a reader go on.
 */
export function useOpened(path: string): void {
  const shown = useRef<string | null>(null);
  useEffect(() => {
    const main = document.getElementById("main");
    if (!main) return;
    let arrives = shown.current !== null && shown.current !== path;
    shown.current = path;
    if (arrives) scrollTo(0, 0);
    const look = () => {
      const heading = main.querySelector("h1");
      const title = titleOf(path, heading?.textContent ?? "");
      if (document.title !== title) document.title = title;
      if (!arrives || !heading) return;
      arrives = false;
      // A field that has taken the focus by itself keeps it.
      if (main.contains(document.activeElement)) return;
      heading.tabIndex = -1;
      heading.focus({ preventScroll: true });
    };
    look();
    const watch = new MutationObserver(look);
    watch.observe(main, { childList: true, subtree: true, characterData: true });
    return () => watch.disconnect();
  }, [path]);
}
