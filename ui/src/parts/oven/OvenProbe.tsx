import { useState } from "react";
import type { BakingSession } from "../../api/client";
import { degrees } from "../../logic/format";
import { useThermometer } from "../useDevices";
import { OvenWatch } from "./OvenWatch";

/** The oven's thermometer in the middle of a session; nothing while it is switched off. */
export function OvenProbe({ session }: { session: BakingSession }) {
  const shows = useThermometer();
  const [open, setOpen] = useState(false);
  if (shows === null) return null;
  const load = session.activities.find((a) => a.kind === "load" && a.done_at === null);
  const wanted = session.doughs.find((d) => d.letter === load?.dough) ?? session.doughs[0];
  if (wanted === undefined) return null;
  const dial = load?.dial_c ?? wanted.oven_c;
  return (
    <section aria-label="In the oven">
      <h2 className="heading">
        In the oven
        <button type="button" className="underline" onClick={() => setOpen(!open)}>
          {open ? "less" : "its trace"}
        </button>
      </h2>
      {open ? (
        <OvenWatch
          key={dial}
          wantedC={wanted.oven_c}
          dialC={dial}
          secondOven={session.ovens.length > 1}
        />
      ) : (
        <p className="py-1">
          <strong className="text-2xl">
            {shows.celsius == null ? "–" : degrees(shows.celsius)}
          </strong>{" "}
          <span className={shows.fault ? "text-caution" : "text-soft"}>
            {shows.fault ?? "by the thermometer"}
          </span>
        </p>
      )}
    </section>
  );
}
