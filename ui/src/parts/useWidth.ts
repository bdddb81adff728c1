import { useLayoutEffect, useRef, useState } from "react";

/** The width in pixels that an element has on the screen, so that a drawing's type keeps its size. */
export function useWidth<T extends HTMLElement>(atFirst: number) {
  const ref = useRef<T>(null);
  const [width, setWidth] = useState(atFirst);
  useLayoutEffect(() => {
    const element = ref.current;
    if (!element) return;
    const watch = new ResizeObserver(() => setWidth(Math.max(element.clientWidth, 240)));
    watch.observe(element);
    return () => watch.disconnect();
  }, []);
  return [ref, width] as const;
}
