import { store, useStored } from "../calling/store";

/** What a browser offers that can put this page on the home screen by itself. */
interface Offer extends Event {
  prompt: () => Promise<unknown>;
}

const offer = store<Offer | null>(null);

/** Keep what the browser offers until somebody presses for it. */
export function hearOfInstalling(): void {
  window.addEventListener("beforeinstallprompt", (event) => {
    event.preventDefault();
    offer.set(event as Offer);
  });
  window.addEventListener("appinstalled", () => offer.set(null));
}

/** Put it on the home screen; null where the browser's own menu does that, or it is there. */
export function useInstall(): (() => void) | null {
  const offered = useStored(offer);
  if (!offered) return null;
  return () => {
    offer.set(null);
    void offered.prompt();
  };
}
