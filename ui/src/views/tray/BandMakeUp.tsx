import type { Tray } from "../../api/client";
import { fine } from "../../logic/format";

/** What the band is made of: how much of its width comes from formula, oven and hands. */
export function BandMakeUp({ width }: { width: Tray["width"] }) {
  const parts = [
    ["formula", width.formula_sd, "fill-enamel"],
    ["oven", width.oven_sd, "fill-enamel/55"],
    ["hands", width.hands_sd, "fill-enamel/25"],
  ] as const;
  // Shares of a band add up in squares.
  const total = parts.reduce((sum, [, sd]) => sum + sd * sd, 0);
  if (total === 0) return null;
  const half = (width.high_mm - width.low_mm) / 2;
  const shares = parts.map(([name, sd, fill]) => ({ name, fill, share: (sd * sd) / total }));
  let from = 0;
  return (
    <section aria-label="What the band is made of">
      <p className="text-[0.9375rem]">
        Give or take <strong>{fine(half, 1)}</strong>: from{" "}
        {shares.map(({ name, share }, n) => (
          <span key={name}>
            {n > 0 && ", "}
            {name} <span className="whitespace-nowrap">{Math.round(100 * share)} %</span>
          </span>
        ))}
      </p>
      <svg
        aria-hidden="true"
        viewBox="0 0 100 6"
        preserveAspectRatio="none"
        className="h-3 w-full border border-line"
      >
        {shares.map(({ name, fill, share }) => {
          const x = from;
          from += 100 * share;
          return <rect key={name} x={x} width={100 * share} height={6} className={fill} />;
        })}
      </svg>
    </section>
  );
}
