import { useState } from "react";
import type { Bake } from "../../api/client";

/** Two bakes to be seen side by side: a third takes the place of the first. */
export function usePair(bakes: Bake[]) {
  const [picked, setPicked] = useState<number[]>([]);
  const [a, b] = picked.map((id) => bakes.find((bake) => bake.id === id));
  return {
    picked,
    pick: (id: number) =>
      setPicked((old) => (old.includes(id) ? old.filter((x) => x !== id) : [...old, id].slice(-2))),
    pair: a && b ? ([a, b] as const) : null,
  };
}
