import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Kitchen, Schemas, TraySetting } from "../../api/client";
import { USUAL } from "../../api/limits";
import { degrees, degreesBetween, length } from "../../logic/format";
import { axisMarks } from "../../logic/marks";
import { chillQuery } from "../../logic/queries";
import { Choice } from "../../parts/Choice";
import { Notice } from "../../parts/Notice";
import { NumberField } from "../../parts/NumberField";
import { CardMark } from "./CardMark";

interface ChillPanelProps {
  doughId: number;
  setting: TraySetting;
  kitchen: Kitchen;
  begun: Schemas["Started"] | undefined;
  onSetting: (change: (before: TraySetting) => TraySetting) => void;
  onKitchen: (change: (before: Kitchen) => Kitchen) => void;
  onMinutes: (minutes: number) => void;
}

const PLACES = [
  ["fridge", "fridge"],
  ["freezer", "freezer"],
] as const;

const FORMS: Record<Schemas["ChillWay"]["form"], string> = {
  portions: "balls",
  disc: "a disc",
  log: "a log",
  dough: "a lump",
  slices: "slices",
  baked: "baked pieces",
};

const JOBS: Record<Schemas["ChillOut"]["job"], string> = {
  roll: "to roll it",
  slice: "to slice it",
  scoop: "to shape and bake it",
};

/** How long this dough's shape takes in the cold, the curve, and when to take it out. */
export function ChillPanel(props: ChillPanelProps) {
  const { doughId, setting, kitchen, onKitchen, onMinutes } = props;
  const [place, setPlace] = useState<"fridge" | "freezer">("fridge");
  const [start, setStart] = useState(USUAL.ChillBody.start_c);
  const chill = useQuery(chillQuery(doughId, setting, kitchen, place, start));
  const setIn = (part: Partial<Kitchen>) => onKitchen((before) => ({ ...before, ...part }));
  const field = "w-16 font-semibold";
  return (
    <section aria-label="Chill for this shape" className="flex flex-col gap-3">
      <div className="flex flex-wrap items-end gap-3">
        <Choice label="In the" value={place} options={PLACES} onChange={setPlace} />
        <NumberField
          label={`The ${place} is at`}
          measure="temperature"
          step={1}
          className={field}
          value={place === "fridge" ? kitchen.fridge_c : kitchen.freezer_c}
          onChange={(c) => setIn(place === "fridge" ? { fridge_c: c } : { freezer_c: c })}
        />
        <NumberField
          label="Dough from the bowl"
          measure="temperature"
          step={1}
          className={field}
          value={start}
          onChange={setStart}
        />
        <NumberField
          label="Room"
          measure="temperature"
          step={1}
          className={field}
          value={kitchen.room_c}
          onChange={(room_c) => setIn({ room_c })}
        />
      </div>
      <Notice problem={chill.error} />
      {chill.data && !chill.error && (
        <>
          {chill.data.ways.length > 0 && (
            <Choice
              label="Chilled as"
              value={setting.chilled_as ?? chill.data.ways[0]?.form ?? "portions"}
              options={chill.data.ways.map(
                ({ form, best_min }) =>
                  [
                    form,
                    best_min === null ? FORMS[form] : `${FORMS[form]}, ${length(best_min)}`,
                  ] as const,
              )}
              onChange={(chilled_as) => props.onSetting((before) => ({ ...before, chilled_as }))}
            />
          )}
          <p className="text-lg">{inWords(chill.data, place)}</p>
          <Curves found={chill.data} />
          <div className="flex flex-wrap items-center gap-3">
            {chill.data.best_min !== null && (
              <button
                type="button"
                className="press"
                onClick={() => onMinutes(Math.round(chill.data.best_min ?? 0))}
              >
                Plan {Math.round(chill.data.best_min)} min of chilling
              </button>
            )}
            <span className="text-soft">{setting.chill_min} min are planned now.</span>
            <span className="text-enamel">
              <CardMark
                begun={props.begun}
                setting={setting}
                field="chill_min"
                onSetting={props.onSetting}
              />
            </span>
          </div>
          <p>
            {chill.data.felt > 0 ? (
              <>
                This fridge takes <strong>{chill.data.slower.toFixed(2)} times</strong> the usual
                minutes, from {chill.data.felt} of your doughs.
              </>
            ) : (
              <span className="text-soft">
                From usual figures; say in Bake how firm a dough is, and this fridge is learnt.
              </span>
            )}
          </p>
          <p className="text-[0.9375rem] text-soft">
            Wrapped, in still air; a full fridge takes longer. {chill.data.caution}
          </p>
        </>
      )}
    </section>
  );
}

function inWords(found: Schemas["ChillOut"], place: string): string {
  const { ready_min, best_min, hard_min, bench_min, temper_min } = found;
  const parts = [
    `Shaped as ${found.shape}, it is cold enough ${JOBS[found.job]} (${degreesBetween(found.low_c, found.high_c)})`,
    ready_min === 0 ? "at once" : `after ${length(ready_min ?? 0)}`,
  ];
  if (best_min !== null) parts.push(`and best after ${length(best_min)}`);
  const more = [
    hard_min === null
      ? `It does not get too cold in this ${place}.`
      : `From ${length(hard_min)} on it is too hard${temper_min ? `, and after a night wants ${length(temper_min)} on the bench first` : ""}.`,
    bench_min === null ? "" : `On the bench it stays workable for ${length(bench_min)}.`,
  ];
  return `${parts.join(" ")}. ${more.join(" ")}`;
}

const [WIDE, TALL, LEFT, BOTTOM] = [640, 230, 48, 34];

/** Both curves against minutes, with the working temperatures as a band. */
function Curves({ found }: { found: Schemas["ChillOut"] }) {
  const { cooling, warming } = found;
  const ends = (curve: Schemas["CurveOut"]) => (curve.temps_c.length - 1) * curve.every_min;
  const shownTo = Math.min(
    Math.max(ends(cooling), 30),
    2.2 * (found.hard_min ?? found.best_min ?? ends(cooling)),
  );
  const span = Math.max(shownTo, 20);
  const temps = [...cooling.temps_c, found.from_c, found.high_c + 4];
  const high = Math.max(...temps);
  const low = Math.min(
    found.low_c - 4,
    ...cooling.temps_c.filter((_, n) => n * cooling.every_min <= span),
  );
  const x = (min: number) => LEFT + (min / span) * (WIDE - LEFT - 10);
  const y = (c: number) => 8 + ((high - c) / (high - low)) * (TALL - BOTTOM - 8);
  const line = (curve: Schemas["CurveOut"]) =>
    curve.temps_c
      .map((c, n) => [n * curve.every_min, c] as const)
      .filter(([min, c]) => min <= span && c >= low)
      .map(([min, c]) => `${x(min).toFixed(1)},${y(c).toFixed(1)}`)
      .join(" ");
  const every = [5, 10, 15, 30, 60, 120, 240].find((step) => span / step <= 9) ?? 480;
  const ticks = Array.from({ length: Math.floor(span / every) + 1 }, (_, n) => n * every);
  const marks = axisMarks("temperature", low, high, 9);
  return (
    <svg
      role="img"
      aria-label={`The dough's temperature over ${Math.round(span)} minutes, from ${degrees(found.from_c)} towards ${degrees(cooling.air_c)}; workable from ${degreesBetween(found.low_c, found.high_c)}, from minute ${Math.round(found.ready_min ?? 0)} to ${found.hard_min === null ? "the end" : Math.round(found.hard_min)}.`}
      viewBox={`0 0 ${WIDE} ${TALL}`}
      className="w-full"
    >
      <rect
        x={LEFT}
        y={y(found.high_c)}
        width={WIDE - LEFT - 10}
        height={y(found.low_c) - y(found.high_c)}
        className="fill-cold"
      />
      {marks.map((c) => (
        <g key={c}>
          <line x1={LEFT} x2={WIDE - 10} y1={y(c)} y2={y(c)} className="stroke-line" />
          <text x={LEFT - 6} y={y(c) + 4} textAnchor="end" fontSize={13} className="fill-ink">
            {degrees(c)}
          </text>
        </g>
      ))}
      {ticks.map((min) => (
        <text
          key={min}
          x={x(min)}
          y={TALL - 14}
          textAnchor="middle"
          fontSize={13}
          className="fill-ink"
        >
          {min === 0 ? "0 min" : min}
        </text>
      ))}
      <polyline points={line(cooling)} className="fill-none stroke-enamel" strokeWidth={2.5} />
      <polyline
        points={line(warming)}
        className="fill-none stroke-ink"
        strokeWidth={1.5}
        strokeDasharray="6 4"
      />
      {found.best_min !== null && found.best_min <= span && (
        <g>
          <line
            x1={x(found.best_min)}
            x2={x(found.best_min)}
            y1={8}
            y2={TALL - BOTTOM}
            className="stroke-yolk"
            strokeWidth={3}
          />
          <text
            x={x(found.best_min) + 6}
            y={20}
            fontSize={13}
            fontWeight={650}
            className="fill-ink"
          >
            take it out, {Math.round(found.best_min)} min
          </text>
        </g>
      )}
      <text
        x={WIDE - 12}
        y={y(found.high_c) + 15}
        textAnchor="end"
        fontSize={13}
        className="fill-ink"
      >
        workable
      </text>
      <text x={LEFT} y={TALL - 1} fontSize={12} className="fill-soft">
        line: {found.job === "scoop" ? "" : "its middle, "}in the cold; dashed: back on the bench,
        from as cold as it gets
      </text>
    </svg>
  );
}
