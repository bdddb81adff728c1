import type { Schemas } from "../../api/client";
import { percent } from "../../logic/format";

export type Facts = Schemas["FactsBody"];

/** Composition as one bar: water, fat, sugars, and the rest; each by its own hatch. */
export function MadeOf({ facts }: { facts: Facts }) {
  const parts = [
    ["water", facts.water_pct, "fill-cold"],
    ["fat", facts.fat_pct, "fill-soft"],
    ["sugars", facts.sugar_pct, "fill-sheet"],
    ["rest", facts.other_solids_pct, "fill-wash"],
  ] as const;
  let at = 0;
  return (
    <svg
      role="img"
      aria-label={parts.map(([name, value]) => `${name} ${percent(value)} %`).join(", ")}
      viewBox="0 0 100 10"
      preserveAspectRatio="none"
      className="h-4 w-full max-sm:hidden"
    >
      {parts.map(([name, value, fill]) => {
        const x = at;
        at += value;
        return (
          <rect
            key={name}
            x={x}
            width={Math.max(value, 0)}
            height={10}
            className={`${fill} stroke-ink`}
            strokeWidth={0.8}
            vectorEffect="non-scaling-stroke"
          />
        );
      })}
    </svg>
  );
}
