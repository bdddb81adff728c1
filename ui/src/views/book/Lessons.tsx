import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { length, signed } from "../../logic/format";
import { bakesQuery, lessonsQuery } from "../../logic/queries";
import { Notice } from "../../parts/Notice";
import { useLearning } from "./changes";
import { DriftPlot } from "./DriftPlot";
import { OvenMaps } from "./photo/OvenMaps";

const further = (pct: number, more: string, less: string) =>
  `${Math.abs(pct).toFixed(1)} % ${pct < 0 ? less : more}`;

/** What the book has taught, to be read and switched off. */
export function Lessons() {
  const bakes = useQuery(bakesQuery(null));
  const lessons = useQuery(lessonsQuery);
  const learning = useLearning();
  if (lessons.error) return <Notice problem={lessons.error} />;
  const told = lessons.data;
  if (!told) return <p className="text-soft">One moment…</p>;
  const paces = [
    ["Portioning", told.portion_times, told.portion_jobs],
    ["Mixing", told.mix_times, told.mix_jobs],
    ...told.hands.map((one) => [one.label, one.times, one.jobs] as const),
  ] as const;
  return (
    <section aria-label="What was learnt" className="flex flex-col gap-3">
      <div className="flex flex-wrap items-center gap-4">
        <button
          type="button"
          className="press"
          aria-pressed={told.learns}
          disabled={learning.isPending}
          onClick={() => learning.mutate(!told.learns)}
        >
          {told.learns ? "Learning is on: switch it off" : "Learning is off: switch it on"}
        </button>
        <p className="text-soft">
          {told.learns
            ? `From ${told.bakes} of your bakes. Predictions, minutes and plans use it.`
            : "What is foreseen is the model alone; the bakes stay in the book."}
        </p>
      </div>
      <Notice problem={learning.error} />
      {told.learns && told.bakes > 0 && (
        <>
          <p className="text-lg">
            In this kitchen doughs flow{" "}
            <strong>{further(told.kitchen_width_pct, "further", "less far")}</strong> (±{" "}
            {told.kitchen_band_pct.toFixed(1)} % in eight of ten) and bake{" "}
            <strong>{further(told.kitchen_minutes_pct, "longer", "shorter")}</strong> than the model
            alone says.
          </p>
          <table>
            <thead className="text-left text-[0.9375rem] text-soft">
              <tr>
                <th className="py-1 font-normal">dough</th>
                <th className="text-right font-normal">bakes</th>
                <th className="text-right font-normal">its own flow</th>
                <th className="text-right font-normal">minutes, in all</th>
              </tr>
            </thead>
            <tbody>
              {told.doughs.map((dough) => (
                <tr key={dough.dough_id} className="border-t border-line">
                  <td className="py-1 wrap-anywhere">
                    <Link to={`/book/${dough.dough_id}`} className="hover:underline">
                      {dough.name}
                    </Link>
                  </td>
                  <td className="text-right">{dough.bakes}</td>
                  <td className="text-right">
                    <strong>{signed(dough.width_pct)} %</strong> ± {dough.band_pct.toFixed(1)}
                  </td>
                  <td className="text-right">{signed(dough.minutes_pct)} %</td>
                </tr>
              ))}
            </tbody>
          </table>
        </>
      )}
      <OvenMaps />
      <DriftPlot
        bakes={bakes.data ?? []}
        names={new Map(told.doughs.map((dough) => [dough.dough_id, dough.name]))}
      />
      <ul>
        {paces.map(([job, times, jobs]) => (
          <li key={job}>
            {jobs > 0 ? (
              <>
                {job} takes you <strong>{times.toFixed(2)} times</strong> the usual minutes, from{" "}
                {jobs} jobs.
              </>
            ) : (
              <span className="text-soft">
                {job}: nothing learnt yet; it is learnt from sessions baked to their end.
              </span>
            )}
          </li>
        ))}
        <li>
          {told.chill_felt > 0 ? (
            <>
              The fridge takes <strong>{told.chill_times.toFixed(2)} times</strong> the usual
              minutes to chill a dough, from {told.chill_felt} that you felt.
            </>
          ) : (
            <span className="text-soft">
              Chilling: nothing learnt yet; say in Bake how firm the dough is before you portion it.
            </span>
          )}
        </li>
        {told.chills.map((dough) => (
          <li key={dough.dough_id}>
            {dough.name} was {dough.firmness === "soft" ? "too soft" : "too hard"} when it was
            portioned: it is chilled {length(dough.planned_min)}, in this fridge{" "}
            <strong>{length(dough.best_min)}</strong> is best.{" "}
            <Link to={`/tray/${dough.dough_id}`} className="underline">
              Change it on its tray, under Chill
            </Link>
          </li>
        ))}
      </ul>
    </section>
  );
}
