import { useQuery } from "@tanstack/react-query";
import { useSearchParams } from "react-router";
import { api, type BakingSession, body, type Dough } from "../../api/client";
import { cm, signed } from "../../app/format";
import { Notice } from "../../parts/Notice";
import { useDough } from "../dough/queries";
import { useForeseen } from "../tray/queries";
import { BakeList } from "./BakeList";
import { MeasuredPlot } from "./MeasuredPlot";
import { useBakes } from "./queries";
import { RecordForm } from "./RecordForm";

export default function BookView({ doughId }: { doughId: number }) {
  const [params] = useSearchParams();
  const dough = useDough(doughId);
  const session = useBakedSession(doughId, Number(params.get("session")) || null);
  const problem = dough.error ?? session.error;
  if (problem) {
    return (
      <div className="p-6">
        <Notice problem={problem} />
      </div>
    );
  }
  if (!dough.data || session.data === undefined)
    return <p className="p-6 text-soft">One moment…</p>;
  return <BookPage dough={dough.data} session={session.data} />;
}

/** The session that a bake is recorded for, when it was of this dough. */
const useBakedSession = (doughId: number, id: number | null) =>
  useQuery({
    queryKey: ["session", id],
    queryFn: async () => {
      if (id === null) return null;
      const found = await body(
        api.GET("/api/sessions/{session_id}", { params: { path: { session_id: id } } }),
      );
      const own = found.doughs.find((d) => d.dough_id === doughId);
      if (!own) return null;
      return { ...found, trays: found.trays.filter((t) => t.dough === own.letter) };
    },
  });

function BookPage({ dough, session }: { dough: Dough; session: BakingSession | null }) {
  const bakes = useBakes(dough.id);
  const ready = dough.card.lines.length > 0;
  const foreseen = useForeseen(dough.id, dough.tray, [], ready);
  const width = foreseen.data?.width;
  return (
    <div className="grid flex-1 content-start gap-x-8 gap-y-6 p-5 max-sm:p-3 lg:grid-cols-[23rem_minmax(0,1fr)]">
      <div className="flex flex-col gap-5">
        <div>
          <h1 className="text-2xl leading-tight font-bold">{dough.card.name}</h1>
          {width && (
            <p className="mt-1 text-lg" data-figure="next">
              Next time: <strong>{cm(width.middle_mm)} cm</strong>, {cm(width.low_mm)} to{" "}
              {cm(width.high_mm)} cm in eight of ten.{" "}
              {width.bakes > 0
                ? `Shifted by ${signed(width.learnt_mm)} mm from ${width.bakes} of your bakes.`
                : "Nothing measured of this dough yet."}
            </p>
          )}
          <Notice problem={foreseen.error} />
        </div>
        <RecordForm dough={dough} session={session} />
      </div>
      <div className="flex min-w-0 flex-col gap-5">
        <Notice problem={bakes.error} />
        {bakes.data?.length === 0 && (
          <p className="border border-dashed border-line p-8 text-lg text-soft">
            The book has no bake of this dough yet. Measure three or four pieces across with a ruler
            and write them down: the next prediction follows them.
          </p>
        )}
        {bakes.data && bakes.data.length > 0 && (
          <>
            <MeasuredPlot bakes={bakes.data} />
            <BakeList bakes={bakes.data} />
          </>
        )}
      </div>
    </div>
  );
}
