import { useQuery } from "@tanstack/react-query";
import type { Dough, Study, Words } from "../../api/client";
import { contains } from "../../logic/allergens";
import { dial, mass, percent, span } from "../../logic/format";
import { minutesOf, STAGE, stretches } from "../../logic/method";
import { doughQuery, studyQuery, wordsQuery } from "../../logic/queries";
import { unitWord } from "../../logic/units";
import { PrintPage, Waiting } from "../../parts/PrintPage";

interface PrintedProps {
  doughId: number;
  /** What is to be said above it. */
  above?: React.ReactNode;
}

/** The dough card for the kitchen wall: one page, nothing on it but what is needed there. */
export default function PrintCard({ doughId }: PrintedProps) {
  const { problem, page } = usePrinted({ doughId });
  return (
    <PrintPage problem={problem} back="Back to the dough" to={`/dough/${doughId}`}>
      {page}
    </PrintPage>
  );
}

/** The same as one of several pages. */
export function CardAmongOthers(props: PrintedProps) {
  const { problem, page } = usePrinted(props);
  return page ?? <Waiting problem={problem} />;
}

function usePrinted({ doughId, above }: PrintedProps) {
  const dough = useQuery(doughQuery(doughId));
  const words = useQuery(wordsQuery);
  const tray = dough.data?.tray;
  const study = useQuery(
    studyQuery(tray ? dough.data?.card : undefined, tray as Dough["tray"], doughId),
  );
  const problem = dough.error ?? words.error ?? study.error;
  const page = dough.data && words.data && study.data && (
    <Sheet dough={dough.data} words={words.data} study={study.data} above={above} />
  );
  return { problem, page };
}

interface SheetProps {
  dough: Dough;
  words: Words;
  study: Study;
  above: React.ReactNode;
}

function Sheet({ dough, words, study, above }: SheetProps) {
  const { card, tray } = dough;
  const { piece, weighed } = study;
  return (
    <article className="print-sheet bg-sheet p-6 print:p-0">
      <h1 className="border-b-2 border-ink pb-1 text-3xl font-bold">{card.name}</h1>
      {above}
      {piece && (
        <p className="mt-1">
          {mass(weighed.total_g)} of dough: {piece.pieces} pieces of {mass(piece.raw.grams)},{" "}
          {span(piece.width.middle_mm)} when baked. Oven {dial(tray.oven_c)}, about {piece.minutes}{" "}
          min.
        </p>
      )}
      <div className="mt-3 grid grid-cols-[1fr_1fr] gap-6">
        <section>
          <Lines lines={card.lines} weighed={weighed} words={words} />
          {card.parts.map((part, n) => {
            const need = study.parts[n];
            return (
              <div key={part.name} className="mt-3">
                <h2 className="font-bold">
                  {part.name}, {mass(part.per_piece_g)} a piece
                </h2>
                {need && <Lines lines={part.lines} weighed={need.weighed} words={words} />}
              </div>
            );
          })}
        </section>
        <section>
          {stretches(study.told).map(({ stage, steps }) => (
            <section key={`${stage} ${steps[0]?.place}`} className="mb-1.5">
              <h2 className="font-bold">{STAGE[stage]}</h2>
              <ul>
                {steps.map(({ step, place }) => (
                  <li key={place} className="first-letter:uppercase">
                    {step.text}
                    {minutesOf(step) && <small> ({minutesOf(step)})</small>}
                    {step.cue && <em className="block text-[0.9375rem]">{step.cue}</em>}
                  </li>
                ))}
              </ul>
            </section>
          ))}
          {card.stated_oven && <p className="mt-2">The card says: {card.stated_oven}</p>}
          {card.note && <p className="mt-2 text-[0.9375rem] whitespace-pre-line">{card.note}</p>}
        </section>
      </div>
      <footer className="mt-4 border-t border-ink pt-2 text-[0.9375rem]">
        {study.allergens.length > 0 && (
          <p>
            <strong>{contains(study.allergens)}.</strong>
          </p>
        )}
        <p>
          {study.cautions.join(" ")} Follow your local food authority, the labels and the
          appliance’s manual.
        </p>
      </footer>
    </article>
  );
}

function Lines({
  lines,
  weighed,
  words,
}: { weighed: Study["weighed"]; words: Words } & {
  lines: Dough["card"]["lines"];
}) {
  return (
    <table className="w-full">
      <tbody>
        {lines.map((line, n) => {
          const w = weighed.lines[n];
          return (
            // biome-ignore lint/suspicious/noArrayIndexKey: lines may repeat, and have no other name
            <tr key={n} className="border-b border-line align-baseline">
              <td className="pr-2 text-right text-lg font-semibold whitespace-nowrap">
                {w?.grams == null ? "–" : mass(w.grams)}
              </td>
              <td>
                {words.ingredients.find((i) => i.key === line.ingredient)?.name ?? line.text}
                {line.unit !== "g" && (
                  <small className="text-soft">
                    {" "}
                    {line.amount} {unitWord(line.unit)}
                  </small>
                )}
              </td>
              <td className="text-right text-[0.9375rem]">
                {w?.percent == null ? "" : `${percent(w.percent)} %`}
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
