/** Under which key each answer lies; a key's beginning stands for all that begins with it. */
export const KEYS = {
  about: ["about"],
  bakes: ["bakes"],
  bases: ["kitchen", "bases"],
  bin: ["bin"],
  bookWords: ["book-words"],
  certificate: ["certificate"],
  chill: ["chill"],
  clockJump: ["clock-jump"],
  cold: ["cold"],
  compare: ["compare"],
  copies: ["copies"],
  devices: ["devices"],
  dough: ["dough"],
  doughs: ["doughs"],
  drawn: ["doughs", "drawn"],
  effects: ["effects"],
  foreseen: ["foresee"],
  found: ["found"],
  ideas: ["ideas"],
  justThrown: ["just-thrown"],
  kinds: ["kinds"],
  kitchen: ["kitchen"],
  known: ["kitchen", "known"],
  ladder: ["ladder"],
  aim: ["aim"],
  larder: ["larder"],
  lessons: ["lessons"],
  makes: ["stock", "makes"],
  me: ["me"],
  measured: ["measured"],
  network: ["network"],
  occasions: ["occasions"],
  keptSessions: ["kept sessions"],
  ovenMaps: ["oven-maps"],
  otherPans: ["other-pans"],
  pans: ["pans"],
  plan: ["plan"],
  read: ["read"],
  readings: ["readings"],
  records: ["oven-watch", "records"],
  regions: ["regions"],
  ringing: ["ringing"],
  scale: ["scale"],
  scaling: ["scaling"],
  session: ["session"],
  sessionTray: ["session-tray"],
  sheetCheck: ["sheet-check"],
  sheets: ["sheets"],
  shelf: ["shelf"],
  stock: ["stock"],
  study: ["study"],
  swaps: ["swaps"],
  thermometer: ["oven"],
  today: ["session", "to-write"],
  trouble: ["trouble"],
  versions: ["versions"],
  watch: ["oven-watch"],
  weighing: ["weighing"],
  wire: ["wire"],
  words: ["words"],
} as const;

/** What rests on a dough's card or its tray's setting. */
export const restsOnDough = (id: number) =>
  [KEYS.versions, KEYS.foreseen, KEYS.ladder, KEYS.aim].map((key) => [...key, id]);

/** What rests on the kitchen while a tray is being set. */
export const RESTS_ON_KITCHEN = [KEYS.foreseen, KEYS.ladder, KEYS.chill, KEYS.aim];

/** What rests on an ingredient's figures. */
export const RESTS_ON_LARDER = [
  KEYS.larder,
  KEYS.words,
  KEYS.study,
  KEYS.doughs,
  KEYS.foreseen,
  KEYS.aim,
];

/** What rests on what is in the house. */
export const RESTS_ON_STOCK = [KEYS.stock, KEYS.shelf, KEYS.aim];

/** What rests on what the book has learnt. */
export const RESTS_ON_BOOK = [
  KEYS.bakes,
  KEYS.ovenMaps,
  KEYS.drawn,
  KEYS.today,
  KEYS.lessons,
  KEYS.trouble,
  KEYS.foreseen,
  KEYS.aim,
  KEYS.plan,
  KEYS.kitchen,
  KEYS.study,
];

/** What rests on what a watched oven told. */
export const RESTS_ON_WATCH = [KEYS.watch, KEYS.kitchen, KEYS.foreseen, KEYS.aim, KEYS.plan];
