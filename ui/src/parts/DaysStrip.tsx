import type { Schemas } from "../api/client";

interface DaysStripProps {
  item: Pick<Schemas["ColdOut"], "since" | "use_by" | "soon">;
  now: number;
  className: string;
}

/** The days of something that is kept, and how many of them are gone. */
export function DaysStrip({ item, now, className }: DaysStripProps) {
  const gone = (now - item.since) / Math.max(item.use_by - item.since, 1);
  return (
    <svg
      aria-hidden="true"
      viewBox="0 0 100 2"
      preserveAspectRatio="none"
      className={`mt-1 w-full ${className}`}
    >
      <rect width={100} height={2} className="fill-cold" />
      <rect
        width={100 * Math.min(Math.max(gone, 0), 1)}
        height={2}
        className={item.soon ? "fill-caution" : "fill-ink"}
      />
    </svg>
  );
}
