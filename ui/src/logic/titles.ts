const SCREENS: Record<string, string> = {
  "": "Today",
  dough: "Dough",
  tray: "Tray",
  plan: "Plan",
  bake: "Bake",
  book: "Book",
  larder: "Larder",
  kitchen: "Kitchen",
  cold: "Cold store",
  devices: "Devices",
  network: "Tablet and phone",
  print: "To print",
};

/** The window's title of a screen: what calls now, what its heading says, which screen it is, whose. */
export function titleOf(path: string, heading: string, called = ""): string {
  const screen = SCREENS[path.split("/")[1] ?? ""] ?? "";
  const said = heading.replace(/\s+/g, " ").trim();
  const now = called && `Now: ${called}`;
  return [now, said === screen || said === called ? "" : said, screen, "Fine Batch"]
    .filter(Boolean)
    .join(" – ");
}
