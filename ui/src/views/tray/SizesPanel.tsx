import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, body, type Schemas, type TraySetting } from "../../api/client";
import { fine, mass, span } from "../../logic/format";
import type { Piece } from "../../logic/pieces";
import { ladderQuery } from "../../logic/queries";
import { Notice } from "../../parts/Notice";
import { NumberField } from "../../parts/NumberField";

interface SizesPanelProps {
  doughId: number;
  setting: TraySetting;
  tried: string[];
  /** Whether a piece has a width of its own: a pan gives it, and then the height tells. */
  wide: boolean;
  onPiece: (piece: Piece) => void;
  onScale: (factor: number, piece: Piece, said: string) => void;
  problem: Error | null;
}

/** The question turned around, and what each size of the kitchen would give, side by side. */
export function SizesPanel(props: SizesPanelProps) {
  return (
    <div className="flex flex-col gap-4">
      <TurnedAround {...props} />
      <Ladder {...props} />
    </div>
  );
}

type Asked = { width_mm?: number; pieces?: number; no_leftover?: boolean };

function TurnedAround({
  doughId,
  setting,
  tried,
  wide: hasWidth,
  onPiece,
  onScale,
  problem,
}: SizesPanelProps) {
  const [wide, setWide] = useState(70);
  const [many, setMany] = useState(48);
  const ask = useMutation({
    mutationFn: (asked: Asked) =>
      body(
        api.POST("/api/doughs/{dough_id}/turned", {
          params: { path: { dough_id: doughId } },
          body: { ...setting, tried, no_leftover: false, ...asked },
        }),
      ),
  });
  return (
    <section aria-label="Turned around">
      <h2 className="heading">What shall come out?</h2>
      <div className="mt-1 flex flex-wrap items-end gap-3">
        <NumberField
          label="Pieces"
          value={many}
          step={1}
          onChange={setMany}
          className="w-16 font-semibold"
        />
        <NumberField
          label="Baked across"
          measure="width"
          value={wide}
          step={5}
          onChange={setWide}
          className="w-16 font-semibold"
        />
        <button type="button" className="press" onClick={() => ask.mutate({ width_mm: wide })}>
          As many as it gives
        </button>
        <button
          type="button"
          className="press"
          onClick={() => ask.mutate({ width_mm: wide, pieces: many })}
        >
          Just {many} of them
        </button>
        <button type="button" className="press" onClick={() => ask.mutate({ pieces: many })}>
          {many} of this size
        </button>
        <button type="button" className="press" onClick={() => ask.mutate({ no_leftover: true })}>
          Nothing left over
        </button>
      </div>
      <Notice problem={ask.error ?? problem} />
      <ul aria-label="Answers">
        {ask.data?.map((answer) => (
          <Answer
            key={`${answer.grams} ${answer.pieces}`}
            answer={answer}
            hasWidth={hasWidth}
            onPiece={onPiece}
            onScale={onScale}
          />
        ))}
      </ul>
    </section>
  );
}

interface AnswerProps {
  answer: Schemas["Turned"];
  hasWidth: boolean;
  onPiece: SizesPanelProps["onPiece"];
  onScale: SizesPanelProps["onScale"];
}

function Answer({ answer, hasWidth, onPiece, onScale }: AnswerProps) {
  const scaled = Math.abs(answer.factor - 1) > 0.002;
  const thick = answer.said ? `, ${answer.said}` : "";
  const said = `${answer.pieces} pieces of ${mass(answer.grams)}${thick}${hasWidth ? `, ${span(answer.width_mm)} baked` : ""}`;
  return (
    <li className="mt-2 flex flex-wrap items-center justify-between gap-x-4 gap-y-1 border-t border-line pt-2">
      <span className="text-lg">
        <strong>{said}</strong>
        {scaled && `, from ${answer.factor.toFixed(2)} times this dough`}; {answer.trays}{" "}
        {answer.trays === 1 ? "tray" : "trays"}, {answer.whole_minutes} min,{" "}
        {mass(answer.leftover_g)} left.
      </span>
      <span className="flex gap-2">
        <button type="button" className="press min-h-9" onClick={() => onPiece(answer.piece)}>
          Take this size
        </button>
        {scaled && (
          <button
            type="button"
            className="press min-h-9"
            onClick={() => onScale(answer.factor, answer.piece, said)}
          >
            and scale the dough
          </button>
        )}
      </span>
    </li>
  );
}

function Ladder({ doughId, setting, tried, wide, onPiece }: SizesPanelProps) {
  const ladder = useQuery(ladderQuery(doughId, setting, tried));
  const rungs = ladder.data ?? [];
  const figure = (rung: Schemas["RungFigures"]) => (wide ? rung.width_mm : rung.height_mm) ?? 0;
  const most = Math.max(1, ...rungs.map(figure));
  return (
    <section aria-label="Sizes side by side">
      <h2 className="heading">Sizes side by side</h2>
      <Notice problem={ladder.error} />
      <table className="mt-1 w-full border-collapse">
        <thead>
          <tr className="border-b border-ink text-left text-[0.9375rem] text-soft">
            <th className="font-normal">size</th>
            <th className="px-2 max-md:px-1 text-right font-normal">each</th>
            <th className="px-2 max-md:px-1 text-right font-normal">pieces</th>
            <th className="px-2 text-right font-normal max-md:hidden">trays</th>
            <th className="w-1/4 pl-4 font-normal max-lg:w-auto max-sm:pl-1">
              {wide ? "baked across" : "baked thick"}
            </th>
            <th className="text-right font-normal">bake</th>
            <th>
              <span className="sr-only">take it</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {rungs.map((rung) => (
            <tr key={rung.name} className="border-b border-line">
              <th scope="row" className="py-1 text-left font-semibold wrap-anywhere">
                {rung.name}
              </th>
              {rung.fault ? (
                <td colSpan={5} className="py-1 text-[0.9375rem] text-soft">
                  {rung.fault}
                </td>
              ) : (
                <>
                  <td className="px-2 max-md:px-1 text-right whitespace-nowrap">
                    {mass(rung.grams ?? 0)}
                  </td>
                  <td className="px-2 max-md:px-1 text-right font-bold">{rung.pieces}</td>
                  <td className="px-2 text-right max-md:hidden">{rung.trays}</td>
                  <td className="pl-4 max-sm:pl-1">
                    <span className="flex items-center gap-2">
                      <svg
                        aria-hidden="true"
                        viewBox={`0 0 ${most} 8`}
                        preserveAspectRatio="none"
                        className="h-3 min-w-0 flex-1 max-lg:hidden"
                      >
                        <rect
                          width={figure(rung)}
                          height={8}
                          className="fill-blond stroke-amber"
                          vectorEffect="non-scaling-stroke"
                        />
                      </svg>
                      <span className="w-16 text-right whitespace-nowrap max-lg:w-auto">
                        {wide ? span(figure(rung)) : fine(figure(rung), 1)}
                      </span>
                    </span>
                  </td>
                  <td className="pl-3 text-right whitespace-nowrap max-sm:pl-1">
                    {rung.whole_minutes} min
                  </td>
                </>
              )}
              <td className="py-1 pl-3 text-right max-sm:pl-1">
                {!rung.fault && (
                  <button
                    type="button"
                    className="press min-h-8 px-2"
                    aria-label={`Take ${rung.name}`}
                    onClick={() => onPiece(rung.piece)}
                  >
                    Take
                  </button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
