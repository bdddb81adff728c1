import type { TraySetting } from "../../api/client";
import { cm, grams } from "../../app/format";
import { useForeseen } from "../tray/queries";

/** What one piece of this dough bakes to, moving as the card changes. */
export function Outcome({
  doughId,
  tray,
  ready,
}: {
  doughId: number;
  tray: TraySetting;
  ready: boolean;
}) {
  const foreseen = useForeseen(doughId, tray, ready);
  if (!ready && !foreseen.data) return null;
  return (
    <section aria-label="One piece" aria-live="polite">
      <h2 className="heading">One piece of it</h2>
      {foreseen.error ? (
        <p className="mt-2">{foreseen.error.message}</p>
      ) : (
        foreseen.data && (
          <p className="mt-2 text-lg">
            {grams(foreseen.data.raw.grams)} g bakes to{" "}
            <strong className="whitespace-nowrap">{cm(foreseen.data.width.middle_mm)} cm</strong>,{" "}
            {foreseen.data.whole_minutes} min at {tray.oven_c} °C;{" "}
            <strong>{foreseen.data.yields.pieces}</strong> pieces.
          </p>
        )
      )}
    </section>
  );
}
