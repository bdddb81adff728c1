import type { BakingSession } from "../../api/client";
import { clock } from "../../app/format";
import { sayJob } from "../bake/jobs";

/** The same day by the clock: every job for the hands, in order. */
export function RunSheet({ session }: { session: BakingSession }) {
  const jobs = session.activities.filter((a) => a.hands);
  return (
    <details open className="border-t border-ink pt-2">
      <summary className="cursor-pointer text-lg font-bold">The day by the clock</summary>
      <table className="mt-2 w-full">
        <thead className="text-left text-[0.9375rem] text-soft">
          <tr>
            <th className="py-1 pr-4 font-normal">from</th>
            <th className="pr-4 font-normal">to</th>
            <th className="pr-4 font-normal">job</th>
            <th className="font-normal">with</th>
          </tr>
        </thead>
        <tbody>
          {jobs.map((job) => {
            const said = sayJob(job, session);
            return (
              <tr key={job.key} className="border-t border-line align-baseline">
                <td className="py-1.5 pr-4 font-bold">{clock(job.start_at)}</td>
                <td className="pr-4">{clock(job.end_at)}</td>
                <td className="pr-4">{said.title}</td>
                <td className="text-soft">{said.detail}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </details>
  );
}
