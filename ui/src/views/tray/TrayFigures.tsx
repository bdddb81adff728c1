import type { Dough, Tray, TraySetting } from "../../api/client";
import { cm, grams, signed } from "../../app/format";
import { MassRuler } from "../../parts/MassRuler";
import { NumberField } from "../../parts/NumberField";

interface FiguresProps {
  dough: Dough;
  setting: TraySetting;
  tray: Tray | undefined;
  fault: string | undefined;
  onGrams: (grams: number) => void;
}

const RANGE: Record<Dough["card"]["family"], [number, number]> = {
  drop: [10, 90],
  rolled: [5, 60],
  shortbread: [5, 50],
  twice_baked: [100, 700],
};

/** The piece's mass, by typing or by the ruler, and all that follows from it. */
export function TrayFigures({ dough, setting, tray, fault, onGrams }: FiguresProps) {
  const isLog = dough.card.family === "twice_baked";
  return (
    <section aria-label="Portion" className="flex flex-col gap-4">
      <div>
        <h1 className="text-2xl leading-tight font-bold">{dough.card.name}</h1>
        <p className="text-soft">{grams(dough.weighed.total_g)} g of dough</p>
      </div>
      <div>
        <NumberField
          label={isLog ? "A log weighs" : "A piece weighs"}
          unit="g"
          value={setting.piece.grams}
          onChange={onGrams}
          fault={fault}
          className="h-16 w-36 text-5xl font-bold"
        />
        <MassRuler
          label={isLog ? "Mass of a log" : "Mass of a piece"}
          range={RANGE[dough.card.family]}
          value={setting.piece.grams}
          onChange={onGrams}
        />
      </div>
      {tray && <Figures tray={tray} isLog={isLog} />}
    </section>
  );
}

function Figures({ tray, isLog }: { tray: Tray; isLog: boolean }) {
  const { yields, width, thickness } = tray;
  const rows: [string, string, React.ReactNode][] = [
    ["pieces", isLog ? "logs" : "pieces", yields.pieces],
    ["trays", "trays", `${yields.trays.length}, ${inWords(yields.trays)}`],
    ["left over", "leftover", `${grams(yields.leftover_g)} g`],
    ["baked", "width", `${cm(width.middle_mm)} cm${isLog ? " wide" : ""}`],
    ["eight in ten", "band", `${cm(width.low_mm)} to ${cm(width.high_mm)} cm`],
    ["thick", "thickness", `${thickness.height_mm.toFixed(1)} mm`],
    ["width : thickness", "ratio", thickness.width_to_thickness.toFixed(1)],
    ["bake", "minutes", bakeWords(tray)],
    ["baked mass", "baked-mass", `${grams(thickness.baked_g)} g`],
  ];
  return (
    <>
      <dl aria-live="polite">
        {rows.map(([label, key, value]) => (
          <div
            key={key}
            className="flex items-baseline justify-between gap-2 border-t border-line py-1.5"
          >
            <dt className="text-soft">{isLog && label === "pieces" ? "logs" : label}</dt>
            <dd className="text-right text-lg font-bold" data-figure={key}>
              {value}
            </dd>
          </div>
        ))}
      </dl>
      <p className="text-[0.9375rem]" data-figure="learnt">
        {width.bakes > 0 ? (
          <>
            Shifted by <strong>{signed(width.learnt_mm)} mm</strong> from {width.bakes} of your
            bakes.
          </>
        ) : Math.abs(width.learnt_mm) >= 0.05 ? (
          <>
            Shifted by <strong>{signed(width.learnt_mm)} mm</strong> by other bakes in this kitchen.
          </>
        ) : (
          "Not baked here yet: measure a few and this learns."
        )}
      </p>
    </>
  );
}

function inWords(trays: number[]): string {
  const most = Math.max(...trays);
  const least = Math.min(...trays);
  return most === least ? `${most} on each` : `${least} or ${most} on each`;
}

function bakeWords(tray: Tray): string {
  const turn = tray.turn_after === null ? "" : `, turn at ${tray.turn_after}`;
  return `${tray.whole_minutes} min${turn}`;
}
