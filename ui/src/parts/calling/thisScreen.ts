import { type Screen, screenName } from "../../logic/screenName";

const KEPT = "finebatch.screen";

/** The mark of this browser, the same each time. */
function keptId(kept: Storage): string {
  const found = kept.getItem(KEPT);
  if (found && /^[0-9a-zA-Z-]{8,64}$/.test(found)) return found;
  const made = crypto.randomUUID();
  kept.setItem(KEPT, made);
  return made;
}

let here: Screen | null = null;

/** This screen, as the others are told of it. */
export function thisScreen(): Screen {
  if (here) return here;
  const { width, height } = window.screen;
  const name = screenName(Math.min(width, height), matchMedia("(pointer: coarse)").matches);
  try {
    here = { id: keptId(localStorage), name };
  } catch {
    here = { id: crypto.randomUUID(), name };
  }
  return here;
}
