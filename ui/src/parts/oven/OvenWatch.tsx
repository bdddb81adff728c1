import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { degrees, degreesApart, dial, length, signedDegrees } from "../../logic/format";
import { watchQuery } from "../../logic/queries";
import { Notice } from "../Notice";
import { NumberField } from "../NumberField";
import { useThermometer } from "../useDevices";
import { OvenTrace } from "./OvenTrace";
import { useWatching } from "./useWatching";

interface OvenWatchProps {
  /** The air that is wanted, in °C as this oven's own setting. */
  wantedC: number;
  /** What its dial is at, as far as is known. */
  dialC: number;
  secondOven: boolean;
}

/** An oven by its thermometer: the trace, what it tells, and its record. */
export function OvenWatch({ wantedC, dialC, secondOven }: OvenWatchProps) {
  const shows = useThermometer();
  const [turnedTo, setTurnedTo] = useState(dialC);
  const [oven, setOven] = useState(1);
  const watch = useQuery(watchQuery(wantedC, shows !== null));
  const { begin, end, keep } = useWatching();
  if (shows === null) return null;
  const found = watch.data;
  const told = found?.reading;
  return (
    <section aria-label="Oven thermometer" className="flex flex-col gap-2">
      <p className="flex flex-wrap items-baseline gap-x-4">
        <strong className="text-3xl">{shows.celsius == null ? "–" : degrees(shows.celsius)}</strong>
        <span className="text-soft">by the thermometer</span>
        {shows.fault && (
          <span role="alert" className="text-caution">
            {shows.fault}
          </span>
        )}
      </p>
      {found ? (
        <>
          <OvenTrace watch={found} />
          {told ? (
            <p>
              In the mean <strong>{degrees(told.mean_c)}</strong> at a dial of {dial(found.dial_c)}:{" "}
              {signedDegrees(told.offset_c)}. It swings by {degreesApart(told.swing_c)} and was
              really ready after {length(told.ready_min)}.{" "}
              <strong>
                Set the dial to {dial(found.set_to_c ?? found.wanted_c)} for{" "}
                {degrees(found.wanted_c)}.
              </strong>
            </p>
          ) : (
            <p className="text-soft">
              It is judged once it has stopped warming up and cycled for some minutes.
            </p>
          )}
          <div className="flex flex-wrap gap-2">
            <button
              type="button"
              className="press press-main"
              disabled={!told || keep.isPending}
              onClick={() => keep.mutate()}
            >
              Keep it as this oven’s record
            </button>
            <button
              type="button"
              className="press"
              disabled={end.isPending}
              onClick={() => end.mutate()}
            >
              Stop watching
            </button>
          </div>
        </>
      ) : (
        <div className="flex flex-wrap items-end gap-3">
          <NumberField
            label="Its dial is at"
            measure="dial"
            value={turnedTo}
            onChange={setTurnedTo}
            step={5}
          />
          {secondOven && (
            <button
              type="button"
              className="press"
              aria-pressed={oven === 2}
              onClick={() => setOven(oven === 1 ? 2 : 1)}
            >
              {oven === 1 ? "in the first oven" : "in the second oven"}
            </button>
          )}
          <button
            type="button"
            className="press"
            disabled={begin.isPending}
            onClick={() => begin.mutate({ oven, dial_c: turnedTo })}
          >
            Watch this oven
          </button>
          {keep.isSuccess && (
            <p role="status">Kept. Minutes, dials and plans reckon with it from now on.</p>
          )}
        </div>
      )}
      <Notice problem={begin.error ?? keep.error ?? end.error} />
    </section>
  );
}
