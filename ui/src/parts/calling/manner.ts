import { allowSound, play, say } from "./sounds";
import { store, useStored } from "./store";

/** How this browser makes itself heard when a job is due; kept in it. */
export interface Manner {
  sound: boolean;
  voice: boolean;
  /** Notices of the machine, seen above other programs. */
  notices: boolean;
}

const KEPT = "finebatch.manner";
const USUAL: Manner = { sound: true, voice: false, notices: false };

function kept(): Manner {
  try {
    return { ...USUAL, ...JSON.parse(localStorage.getItem(KEPT) ?? "{}") };
  } catch {
    return USUAL;
  }
}

const manner = store(kept());
// Another window of this browser has changed it.
window.addEventListener("storage", (event) => {
  if (event.key === KEPT) manner.set(kept());
});

export const useManner = (): Manner => useStored(manner);

export function setManner(part: Partial<Manner>): void {
  allowSound();
  const next = { ...manner.get(), ...part };
  manner.set(next);
  // Heard at once, so that one knows how loud it is.
  if (part.sound) void play("hands");
  if (part.voice) say("I speak.");
  try {
    localStorage.setItem(KEPT, JSON.stringify(next));
  } catch {
    // A browser that keeps nothing still bakes.
  }
}

export const canNotice = (): boolean => "Notification" in window;

/** Turn the machine's notices on, once the browser was allowed to; whether they are. */
export async function askForNotices(): Promise<boolean> {
  const allowed = canNotice() && (await Notification.requestPermission()) === "granted";
  setManner({ notices: allowed });
  return allowed;
}

/** Show one above whatever is looked at; pressed, it brings this window back to `path`. */
export async function notice(words: string, more: string, goTo: () => void): Promise<void> {
  if (!canNotice() || Notification.permission !== "granted") return;
  const how = { body: more, tag: "finebatch", requireInteraction: true };
  try {
    // Browsers of phones show those of a service worker alone, which brings the window back itself.
    const worker = await navigator.serviceWorker?.getRegistration();
    if (worker?.active) {
      await worker.showNotification(words, how);
    } else {
      const shown = new Notification(words, how);
      shown.onclick = () => {
        window.focus();
        goTo();
        shown.close();
      };
    }
    document.documentElement.dataset.noticed = words;
  } catch {
    // One without a service worker has none.
  }
}
