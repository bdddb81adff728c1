import { mass } from "../../logic/format";
import { Choice } from "../../parts/Choice";
import { Notice } from "../../parts/Notice";
import { NumberField } from "../../parts/NumberField";
import { useScale, useTare } from "../../parts/useDevices";
import type { OnTheScale } from "./changes";
import { ScaleFigure } from "./ScaleFigure";

interface PlayScaleProps {
  on: OnTheScale;
  onPlay: (next: OnTheScale) => void;
}

export const TROUBLES = [
  ["none", "works"],
  ["unplugged", "unplugged"],
  ["rubbish", "sends rubbish"],
] as const;

const PUT_ON = [1, 5, 25, 100, 500];

/** A scale of the kitchen: what it shows, and its tare. */
export function ScaleShown() {
  const shows = useScale();
  const tare = useTare();
  return (
    <>
      <div className="flex items-center gap-6">
        {shows && <ScaleFigure shows={shows} />}
        <button type="button" className="press" onClick={() => tare.mutate()}>
          Tare
        </button>
      </div>
      <Notice problem={tare.error} />
    </>
  );
}

/** The stand-in scale: what a hand puts on it. */
export function PlayScale({ on, onPlay }: PlayScaleProps) {
  const set = (part: Partial<OnTheScale>) => onPlay({ ...on, ...part });
  const more = (grams: number) => set({ load_g: Math.max((on.load_g ?? 0) + grams, 0) });
  return (
    <>
      <div className="flex flex-wrap gap-2">
        {PUT_ON.map((grams) => (
          <button key={grams} type="button" className="press" onClick={() => more(grams)}>
            {mass(grams)} more
          </button>
        ))}
        <button type="button" className="press" onClick={() => set({ load_g: 0 })}>
          All off
        </button>
      </div>
      <div className="flex flex-wrap items-end gap-4">
        <NumberField
          label="Lies on it"
          measure="mass"
          value={on.load_g ?? 0}
          onChange={(load_g) => set({ load_g })}
        />
        <NumberField
          label="Its zero drifts, a minute"
          measure="mass"
          value={on.drift_g_min ?? 0}
          onChange={(drift_g_min) => set({ drift_g_min })}
        />
        <Choice
          label="The scale"
          value={on.trouble ?? "none"}
          options={TROUBLES}
          onChange={(trouble) => set({ trouble })}
        />
      </div>
    </>
  );
}
