/** Day or evening colours: as the device has them until they are chosen here, then as chosen. */

const KEPT = "finebatch.colours";
const COLOURS = ["light", "evening"] as const;
type Colours = (typeof COLOURS)[number];

/** Show the colours that were chosen on this device, before anything is drawn. */
export function showChosen(): void {
  try {
    const kept = localStorage.getItem(KEPT);
    const chosen = COLOURS.find((one) => one === kept);
    if (chosen) document.documentElement.dataset.theme = chosen;
  } catch {
    // A browser that keeps nothing shows them as the device does.
  }
}

/** Change from the one to the other, and keep it. */
export function nextColours(): void {
  const root = document.documentElement;
  const dark = matchMedia("(prefers-color-scheme: dark)").matches;
  const now = root.dataset.theme ?? (dark ? "evening" : "light");
  const next: Colours = now === "evening" ? "light" : "evening";
  root.dataset.theme = next;
  try {
    localStorage.setItem(KEPT, next);
  } catch {
    // It holds until the page is left.
  }
}
