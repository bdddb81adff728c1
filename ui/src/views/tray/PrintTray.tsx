import { useQuery } from "@tanstack/react-query";
import type { Dough, Tray } from "../../api/client";
import { degrees, fine, mass, spanBy } from "../../logic/format";
import { doughQuery, foreseenQuery } from "../../logic/queries";
import { trayInWords } from "../../logic/trayWords";
import { AllMaking } from "../../parts/making/Making";
import { PrintPage, Waiting } from "../../parts/PrintPage";
import { Figures } from "./Figures";
import { SheetDrawing } from "./SheetDrawing";

interface PrintedProps {
  doughId: number;
  /** What is to be said above it. */
  above?: React.ReactNode;
}

/** The tray card: how to portion and lay out, on one page for the bench. */
export default function PrintTray({ doughId }: PrintedProps) {
  const { problem, page } = usePrinted({ doughId });
  return (
    <PrintPage problem={problem} back="Back to the tray" to={`/tray/${doughId}`}>
      {page}
    </PrintPage>
  );
}

/** The same as one of several pages. */
export function TrayAmongOthers(props: PrintedProps) {
  const { problem, page } = usePrinted(props);
  return page ?? <Waiting problem={problem} />;
}

function usePrinted({ doughId, above }: PrintedProps) {
  const dough = useQuery(doughQuery(doughId));
  const setting = dough.data?.tray;
  const foreseen = useQuery(foreseenQuery(doughId, setting as Dough["tray"], [], Boolean(setting)));
  const problem = dough.error ?? foreseen.error;
  const page = dough.data && foreseen.data && (
    <Card dough={dough.data} tray={foreseen.data} above={above} />
  );
  return { problem, page };
}

interface CardProps {
  dough: Dough;
  tray: Tray;
  above: React.ReactNode;
}

function Card({ dough, tray, above }: CardProps) {
  const { tray: setting } = dough;
  return (
    <article className="print-sheet bg-sheet p-6 print:p-0">
      <h1 className="border-b-2 border-ink pb-1 text-3xl font-bold">{dough.card.name}: the tray</h1>
      {above}
      <p className="mt-1 text-lg">
        {mass(tray.total_g)} of dough at {degrees(setting.dough_temp_c)}, {setting.surface}; oven{" "}
        {degrees(tray.oven.still_c)} still, {degrees(tray.oven.fan_c)} fan, gas {tray.oven.gas}.{" "}
        {trayInWords(tray)}
      </p>
      <div className="mt-3 grid grid-cols-1 sm:grid-cols-[17rem_minmax(0,1fr)] print:grid-cols-[17rem_minmax(0,1fr)] gap-6">
        <Figures tray={tray} setting={setting} />
        <div className="flex flex-col gap-4">
          {tray.layouts.length > 0 && (
            <SheetDrawing tray={tray} plain>
              <span>
                The sheet is {spanBy(tray.kitchen.sheet_width_mm, tray.kitchen.sheet_depth_mm)}{" "}
                inside; {fine(tray.kitchen.gap_mm)} stay free between rims.
              </span>
            </SheetDrawing>
          )}
          <AllMaking tray={tray} piece={setting.piece} />
        </div>
      </div>
    </article>
  );
}
