import { Choice } from "../../parts/Choice";
import { Notice } from "../../parts/Notice";
import { NumberField } from "../../parts/NumberField";
import { type StandIns, useScale, useTare } from "./queries";
import { ScaleFigure } from "./ScaleFigure";

export interface PlayProps {
  standIns: StandIns;
  onPlay: (next: StandIns) => void;
}

export const TROUBLES = [
  ["none", "works"],
  ["unplugged", "unplugged"],
  ["rubbish", "sends rubbish"],
] as const;

const PUT_ON = [1, 5, 25, 100, 500];

/** The stand-in scale: what a hand puts on it. */
export function PlayScale({ standIns, onPlay }: PlayProps) {
  const shows = useScale();
  const tare = useTare();
  const on = standIns.scale;
  const set = (part: Partial<typeof on>) => onPlay({ ...standIns, scale: { ...on, ...part } });
  const more = (grams: number) => set({ load_g: Math.max((on.load_g ?? 0) + grams, 0) });
  return (
    <section aria-label="Kitchen scale" className="flex flex-col gap-3">
      <h2 className="heading">Kitchen scale</h2>
      {shows && <ScaleFigure shows={shows} />}
      <div className="flex flex-wrap gap-2">
        <button type="button" className="press" onClick={() => tare.mutate()}>
          Tare
        </button>
        {PUT_ON.map((grams) => (
          <button key={grams} type="button" className="press" onClick={() => more(grams)}>
            {grams} g more
          </button>
        ))}
        <button type="button" className="press" onClick={() => set({ load_g: 0 })}>
          All off
        </button>
      </div>
      <div className="flex flex-wrap items-end gap-4">
        <NumberField
          label="Lies on it"
          unit="g"
          value={on.load_g ?? 0}
          onChange={(load_g) => set({ load_g })}
        />
        <NumberField
          label="Its zero drifts by"
          unit="g/min"
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
      <Notice problem={tare.error} />
    </section>
  );
}
