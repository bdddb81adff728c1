import { Choice } from "../../parts/Choice";
import { NumberField } from "../../parts/NumberField";
import type { OvenKnobs } from "./changes";
import { TROUBLES } from "./PlayScale";

const FIGURES = [
  ["dial_c", "Dial", "dial"],
  ["offset_c", "In truth hotter by", "degrees apart"],
  ["swing_c", "Swings by", "degrees apart"],
] as const;

interface PlayOvenProps {
  oven: OvenKnobs;
  onPlay: (next: OvenKnobs) => void;
}

/** The stand-in oven: its dial, its door, and how it lies. */
export function PlayOven({ oven, onPlay }: PlayOvenProps) {
  const set = (part: Partial<OvenKnobs>) => onPlay({ ...oven, ...part });
  return (
    <section aria-label="Oven" className="flex flex-col gap-3">
      <h2 className="heading">Oven</h2>
      <div className="flex flex-wrap items-end gap-4">
        {FIGURES.map(([key, label, measure]) => (
          <NumberField
            key={key}
            label={label}
            measure={measure}
            value={oven[key] ?? 0}
            step={5}
            onChange={(value) => set({ [key]: value })}
          />
        ))}
        <button
          type="button"
          className="press"
          aria-pressed={oven.door_open ?? false}
          onClick={() => set({ door_open: !oven.door_open })}
        >
          {oven.door_open ? "Shut the door" : "Open the door"}
        </button>
        <Choice
          label="Its thermometer"
          value={oven.trouble ?? "none"}
          options={TROUBLES}
          onChange={(trouble) => set({ trouble })}
        />
      </div>
    </section>
  );
}
