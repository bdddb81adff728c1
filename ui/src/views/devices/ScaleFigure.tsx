import { onScale } from "../../logic/format";
import type { ScaleShows as Shows } from "../../parts/useDevices";

/** A scale's figure as it stands there. */
export function ScaleFigure({ shows }: { shows: Shows }) {
  const text = shows.fault || shows.grams == null ? "–" : onScale(shows.grams);
  return (
    <p className="flex items-baseline gap-3">
      <strong className="text-5xl" data-figure="scale">
        {shows.overloaded ? "too much" : text}
      </strong>
      <span className="text-soft">
        {shows.fault
          ? ""
          : shows.overloaded
            ? "take something off"
            : shows.steady
              ? "steady"
              : "settling…"}
      </span>
      {shows.fault && (
        <span role="alert" className="text-caution">
          {shows.fault}
        </span>
      )}
    </p>
  );
}
