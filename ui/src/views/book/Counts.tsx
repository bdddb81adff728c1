import type { Bake } from "../../api/client";
import { percent } from "../../logic/format";
import { Notice } from "../../parts/Notice";
import { useCounts } from "./changes";

type Ways = Bake["counts"];

const PRESSES: Record<Ways, string> = {
  in: "Count it fully",
  auto: "Let Fine Batch weigh it",
  out: "Do not count it",
};

const SAID: Record<Ways, string> = {
  in: "Counts fully, as you said.",
  auto: "",
  out: "Does not count, as you said.",
};

/** How much is learnt from a bake, and the presses that change it. */
export function Counts({ bake }: { bake: Bake }) {
  const counts = useCounts();
  if (bake.mean_mm === null && bake.minutes === null) return null;
  const { good, minutes_good } = bake;
  const little = bake.set_aside || bake.minutes_aside;
  const others = (["auto", "in", "out"] as const)
    .filter((way) => way !== bake.counts)
    // Where it counts as any other, one press is enough: the other way would change nothing.
    .filter((way) => bake.counts !== "auto" || little || way === "out");
  return (
    <div className="text-[0.9375rem]" data-figure="counts">
      {little && bake.counts === "auto" ? (
        <>
          <strong className="text-caution">
            {bake.set_aside
              ? `Counts little (${percent(100 * (good ?? 0))} %):`
              : `Its minutes count little (${percent(100 * (minutes_good ?? 0))} %):`}
          </strong>{" "}
          so far from the other bakes and what is usual that it is likely a slip.
        </>
      ) : (
        SAID[bake.counts]
      )}{" "}
      {others.map((way) => (
        <button
          key={way}
          type="button"
          className="mr-3 min-h-6 text-soft underline hover:text-ink"
          onClick={() => counts.mutate({ id: bake.id, counts: way })}
        >
          {PRESSES[way]}
        </button>
      ))}
      <Notice problem={counts.error} />
    </div>
  );
}
