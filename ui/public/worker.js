// At hand without a network: the screens themselves, and the machine's notices of a phone.
// What a baker has is none of it; the page keeps that (src/app/atHand.ts).

const SHELL = "shell";
const PAGE = "/";
const PARTS = "/shell.json";
/** A server that has not answered for so long is not there; a browser would wait for a minute. */
const WAIT_MS = 4_000;

self.addEventListener("install", (event) => {
  event.waitUntil(bring().then(() => self.skipWaiting()));
});

self.addEventListener("activate", (event) => {
  event.waitUntil(self.clients.claim());
});

self.addEventListener("fetch", (event) => {
  const { request } = event;
  const { origin, pathname } = new URL(request.url);
  if (request.method !== "GET" || origin !== self.location.origin) return;
  if (pathname.startsWith("/api/") || pathname.startsWith("/let-in")) return;
  event.respondWith(request.mode === "navigate" ? page(event) : part(request));
});

/** A pressed notice brings the window back that it is of. */
self.addEventListener("notificationclick", (event) => {
  event.notification.close();
  event.waitUntil(
    self.clients.matchAll({ type: "window" }).then(([first]) => {
      if (!first) return self.clients.openWindow("/bake");
      first.postMessage({ goTo: "/bake" });
      return first.focus();
    }),
  );
});

/** The page as it is now, where somebody answers; else as it was. */
async function page(event) {
  try {
    const answer = await Promise.race([fetch(event.request), late()]);
    // A device that was let go has nothing at hand.
    if (answer.status === 401) event.waitUntil(caches.delete(SHELL));
    else if (answer.ok) event.waitUntil(bring().catch(() => undefined));
    return answer;
  } catch (away) {
    const kept = await caches.match(PAGE, { cacheName: SHELL });
    if (kept) return kept;
    throw away;
  }
}

const late = () =>
  new Promise((_, giveUp) => setTimeout(() => giveUp(new TypeError("no answer")), WAIT_MS));

/** Parts have names of their own for each version: one that is at hand is the right one. */
async function part(request) {
  return (await caches.match(request, { cacheName: SHELL })) ?? fetch(request);
}

/** Have all parts of the interface as it is now at hand, and none of an earlier one. */
async function bring() {
  const [page, parts] = await Promise.all([
    fetch(PAGE, { cache: "no-cache" }),
    fetch(PARTS, { cache: "no-cache" }),
  ]);
  if (!page.ok || !parts.ok) return;
  const wanted = new Set(partsOf(await parts.json()));
  const shell = await caches.open(SHELL);
  const there = new Set((await shell.keys()).map(({ url }) => new URL(url).pathname));
  await shell.addAll([...wanted].filter((path) => !there.has(path)));
  await shell.put(PAGE, page);
  for (const path of there) if (path !== PAGE && !wanted.has(path)) await shell.delete(path);
}

/** Every script, style and face that the build wrote down. */
const partsOf = (built) =>
  Object.values(built).flatMap(({ file, css = [], assets = [] }) =>
    [file, ...css, ...assets].map((path) => `/${path}`),
  );
