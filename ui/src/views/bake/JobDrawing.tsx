import { useQuery } from "@tanstack/react-query";
import type { Activity, BakingSession } from "../../api/client";
import { type DrawnIn, drawnOf, ofSize } from "../../logic/jobDrawing";
import { kindOf, kindsQuery, sessionTrayQuery } from "../../logic/queries";
import { Making } from "../../parts/making/Making";
import { Sheet } from "../../parts/making/Sheet";

const DRAWN: ReadonlySet<Activity["kind"]> = new Set<DrawnIn>([
  "form",
  "portion",
  "slice",
  "shape",
]);

/** Just this job, drawn: the slab and its cuts, the logs and their marks, this sheet and its places. */
export function JobDrawing({ session, job }: { session: BakingSession; job: Activity }) {
  const kinds = useQuery(kindsQuery);
  const dough = session.doughs.find((one) => one.letter === job.dough);
  const wanted = DRAWN.has(job.kind) && dough !== undefined;
  const asked = useQuery(sessionTrayQuery(session.id, dough?.letter ?? "", wanted));
  const says = kindOf(kinds.data, dough?.kind)?.says;
  if (!wanted || !asked.data || !says) return null;
  const { tray, piece } = asked.data;
  const pieces = session.trays.find((one) => one.name === job.tray);
  const { making, layout } = drawnOf(job.kind, says, tray, pieces);
  const other = pieces?.size ? ofSize(tray, pieces.size) : undefined;
  if (!making && !layout) return null;
  return (
    <section
      aria-label="This job, drawn"
      data-drawing=""
      className="min-w-0 [&_svg]:max-h-[calc(100dvh-38rem)] [&_svg]:min-h-48 sm:[&_svg]:max-h-[calc(100dvh-32rem)]"
    >
      <h2 className="heading">As it is done</h2>
      {making && (
        <Making
          tray={tray}
          piece={other?.piece ?? piece}
          making={other ? other.making : tray.making}
        />
      )}
      {layout && (
        <figure>
          <Sheet tray={tray} layout={layout} />
          <figcaption className="text-lg">
            {pieces?.name}: {layout.centres.length} {says.counted}, each a raw piece inside the size
            that it bakes to.
          </figcaption>
        </figure>
      )}
    </section>
  );
}
