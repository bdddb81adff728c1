import type { Sound } from "../../logic/alarms";
import { store, useStored } from "./store";

/** Notes one after the other: Hz, seconds. Hot work rises quickly, hands' work is two calm notes. */
const NOTES: Record<Sound, readonly (readonly [number, number])[]> = {
  hot: [
    [740, 0.12],
    [988, 0.12],
    [1319, 0.3],
  ],
  hands: [
    [523, 0.25],
    [392, 0.4],
  ],
  over: [
    [1319, 0.1],
    [1319, 0.1],
    [1319, 0.1],
    [1319, 0.1],
  ],
  timer: [
    [880, 0.15],
    [880, 0.15],
    [880, 0.4],
  ],
};
const GAP_S = 0.06;
const LOUD = 0.25;

let context: AudioContext | null = null;
const audible = store(false);

/** Browsers let a page be heard only after it was touched once: call it from a press. */
export function allowSound(): void {
  if (context === null) {
    const made = new AudioContext();
    made.addEventListener("statechange", () => audible.set(made.state === "running"));
    context = made;
  }
  if (context.state === "suspended") void context.resume();
  else audible.set(context.state === "running");
}

/** Whether this window can be heard: something has been pressed in it. */
export const useAudible = (): boolean => useStored(audible);

export async function play(sound: Sound): Promise<void> {
  if (context?.state === "suspended") await context.resume();
  if (context?.state !== "running") return;
  document.documentElement.dataset.heard = sound;
  let at = context.currentTime;
  for (const [hz, seconds] of NOTES[sound]) {
    const tone = context.createOscillator();
    const gain = context.createGain();
    tone.frequency.value = hz;
    gain.gain.setValueAtTime(0, at);
    gain.gain.linearRampToValueAtTime(LOUD, at + 0.01);
    gain.gain.linearRampToValueAtTime(0, at + seconds);
    tone.connect(gain).connect(context.destination);
    tone.start(at);
    tone.stop(at + seconds);
    at += seconds + GAP_S;
  }
}

/** Say it in the browser's own voice. */
export function say(words: string): void {
  if (!("speechSynthesis" in window)) return;
  window.speechSynthesis.cancel();
  window.speechSynthesis.speak(new SpeechSynthesisUtterance(words));
}
