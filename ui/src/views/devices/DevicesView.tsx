import { useQuery } from "@tanstack/react-query";
import { date, degrees } from "../../logic/format";
import { devicesQuery, kitchenQuery, recordsQuery } from "../../logic/queries";
import { DevicesExample } from "../../parts/examples/DevicesExample";
import { ToStand } from "../../parts/examples/ToStand";
import { Notice } from "../../parts/Notice";
import { OvenWatch } from "../../parts/oven/OvenWatch";
import { usePlay } from "./changes";
import { PlayOven } from "./PlayOven";
import { PlayScale, ScaleShown } from "./PlayScale";

/** Where the field for its dial begins while the oven is off. */
const USUAL_DIAL_C = 175;

/** The scale and the oven thermometer: what they show, and the stand-ins to play by hand. */
export default function DevicesView() {
  const devices = useQuery(devicesQuery);
  const kitchen = useQuery(kitchenQuery);
  const records = useQuery(recordsQuery);
  const play = usePlay();
  if (devices.error) {
    return (
      <div className="p-6">
        <Notice problem={devices.error} />
      </div>
    );
  }
  if (!devices.data || !kitchen.data) return <p className="p-6 text-soft">One moment…</p>;
  const standIns = devices.data.stand_ins;
  const { scale, oven } = standIns;
  const dial = oven?.dial_c || USUAL_DIAL_C;
  const played = [scale && "the scale", oven && "the oven thermometer"].filter(Boolean);
  return (
    <div className="flex flex-1 flex-col gap-5 p-5 max-sm:p-3">
      <div className="flex flex-wrap items-center gap-x-6 gap-y-2">
        <h1 className="text-2xl font-bold">Scale and oven thermometer</h1>
        <button
          type="button"
          className={`press ${standIns.on ? "" : "press-main"}`}
          onClick={() => play.mutate({ ...standIns, on: !standIns.on })}
        >
          {standIns.on ? "Switch them off" : "Switch them on"}
        </button>
        {played.length > 0 && (
          <p className="max-w-2xl text-soft">
            No real device is set for {played.join(" and ")}: what is read is a stand-in that
            behaves like one in a household, to be played by hand.
          </p>
        )}
      </div>
      <Notice problem={play.error} />
      {!standIns.on && (
        <ToStand example={<DevicesExample />}>
          What the scale shows, with how much is to go, and the oven’s trace beside its dial will
          stand here. In Bake you weigh along with it, and the oven is watched; what was kept of it
          says how far its dial is off.
        </ToStand>
      )}
      {standIns.on && (
        <div className="grid grid-cols-1 gap-x-8 gap-y-6 lg:grid-cols-2">
          <section aria-label="Kitchen scale" className="flex flex-col gap-3">
            <h2 className="heading">Kitchen scale</h2>
            <ScaleShown />
            {scale && (
              <PlayScale on={scale} onPlay={(next) => play.mutate({ ...standIns, scale: next })} />
            )}
          </section>
          <div className="flex flex-col gap-4">
            {oven && (
              <PlayOven oven={oven} onPlay={(next) => play.mutate({ ...standIns, oven: next })} />
            )}
            <OvenWatch
              key={dial}
              wantedC={dial}
              dialC={dial}
              secondOven={kitchen.data.planning?.second != null}
            />
          </div>
        </div>
      )}
      {(records.data ?? []).length > 0 && (
        <section aria-label="Records">
          <h2 className="heading">What was kept of the ovens</h2>
          <table className="mt-1 w-full max-w-3xl">
            <thead className="text-left text-[0.9375rem] text-soft">
              <tr>
                {["day", "oven", "dial", "mean", "swing", "ready after"].map((head) => (
                  <th key={head} className="py-1 font-normal">
                    {head}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {records.data?.map((record) => (
                <tr key={record.began_at} className="border-t border-line">
                  <td className="py-1">{date(record.began_at)}</td>
                  <td>{record.oven === 1 ? "first" : "second"}</td>
                  <td>{degrees(record.dial_c)}</td>
                  <td className="font-bold">{degrees(record.mean_c)}</td>
                  <td>{degrees(record.swing_c)}</td>
                  <td>{record.ready_min.toFixed(0)} min</td>
                </tr>
              ))}
            </tbody>
          </table>
        </section>
      )}
    </div>
  );
}
