import type { Tray, TraySetting } from "../../api/client";
import { degrees, fine, mass, signed, span, spanBetween, spanBy, wider } from "../../logic/format";
import { cardFacts } from "../../logic/fromCard";
import { Choice } from "../../parts/Choice";
import { Term } from "../../parts/Term";

interface FiguresProps {
  tray: Tray;
  setting: TraySetting;
  /** Where the minutes may be chosen; not on paper. */
  onSetting?: (change: (before: TraySetting) => TraySetting) => void;
}

/** All that follows from the portion: the yield, the baked piece, its minutes. */
export function Figures(props: FiguresProps) {
  const { tray } = props;
  const { width } = tray;
  return (
    <section aria-label="What comes of it">
      <dl aria-live="polite" className="grid grid-cols-2 gap-x-4">
        {rows(tray).map(([label, key, value]) => (
          <div
            key={`${key} ${label}`}
            className={`flex items-baseline justify-between gap-2 border-t border-line py-1 ${WIDE.has(key) ? "col-span-2" : ""}`}
          >
            <dt className="text-soft">
              {key === "band" || key === "ratio" ? <Term of={key}>{label}</Term> : label}
            </dt>
            <dd
              className="text-right text-lg leading-tight font-bold whitespace-nowrap"
              data-figure={key}
            >
              {value}
            </dd>
          </div>
        ))}
      </dl>
      {tray.inside_c && (
        <p className="mt-1 text-[0.9375rem]" data-figure="inside">
          Out at about <strong>{degrees(tray.inside_c.out)}</strong> inside: on the hot sheet it
          goes on to {degrees(tray.inside_c.done)}.
        </p>
      )}
      <SaidByCard {...props} />
      <p className="mt-1 text-[0.9375rem]" data-figure="learnt">
        {width.bakes > 0 ? (
          <>
            <Term of="learnt">Shifted by</Term> <strong>{wider(width.learnt_mm)}</strong> from{" "}
            {width.bakes} of your bakes.
          </>
        ) : Math.abs(width.learnt_mm) >= 0.05 ? (
          <>
            Shifted by <strong>{wider(width.learnt_mm)}</strong> by other bakes in this kitchen.
          </>
        ) : (
          "Not baked here yet: measure a few and this learns."
        )}{" "}
        {tray.sources.timed > 0 && (
          <>
            Minutes: <strong>{signed(tray.sources.reckoned - tray.sources.law)} min</strong> from{" "}
            {tray.sources.timed} of your bakes.
          </>
        )}
      </p>
    </section>
  );
}

/** What the card says of yield and minutes, beside what comes out and what is reckoned. */
function SaidByCard({ tray, setting, onSetting }: FiguresProps) {
  const { says, said } = tray.begun;
  const press = (label: string, part: Partial<TraySetting>) =>
    onSetting && (
      <button
        type="button"
        className="min-h-6 underline"
        onClick={() => onSetting((before) => ({ ...before, ...part }))}
      >
        {label}
      </button>
    );
  const pieces = tray.second?.pieces ?? tray.yields.pieces;
  return (
    <div className="mt-1 text-[0.9375rem] text-enamel">
      {says.pieces !== null && (
        <p data-figure="card-yield">
          {says.pieces === pieces ? (
            "As many as the card says."
          ) : (
            <>
              The card says {says.pieces}.{" "}
              {said.includes("piece.yield") &&
                press(`Portion for ${says.pieces}`, { piece: tray.begun.setting.piece })}
            </>
          )}
        </p>
      )}
      <WidthBy tray={tray} setting={setting} {...(onSetting && { onSetting })} />
      <MinutesBy tray={tray} setting={setting} {...(onSetting && { onSetting })} />
    </div>
  );
}

type By = NonNullable<TraySetting["minutes_by"]>;

/** The width by each source, and the choice that takes one of them as it is. */
function WidthBy({ tray, setting, onSetting }: FiguresProps) {
  const { sources, bakes, middle_mm } = tray.width;
  const said = tray.begun.says.baked_mm;
  if (!sources || said === null) return null;
  const by = setting.width_by ?? "all";
  return (
    <GoesBy
      what="width"
      by={by}
      ways={{
        all: by === "all" ? `all ${span(middle_mm)}` : "all",
        card: "card",
        reckoned: "reckoned",
      }}
      likely={
        sources.apart &&
        (sources.card > sources.law
          ? "larger, or its dough warmer or wetter than is set here."
          : "smaller, or its dough colder or stiffer than is set here.")
      }
      {...(onSetting && {
        onBy: (width_by: By) => onSetting((before) => ({ ...before, width_by })),
      })}
    >
      The card says {span(said)} across, for this piece and oven {span(sources.card)}; reckoned{" "}
      {span(sources.law)}
      {bakes > 0 &&
        `, with ${bakes === 1 ? "your bake" : `your ${bakes} bakes`} ${span(sources.reckoned)}`}
      .
    </GoesBy>
  );
}

/** The minutes by each source, and the choice that takes one of them as it is. */
function MinutesBy({ tray, setting, onSetting }: FiguresProps) {
  const { card, own, law, reckoned, timed, used, apart } = tray.sources;
  const written = cardFacts(tray.begun.says).find((fact) => fact.key === "minutes")?.said;
  if (card === null) return null;
  const by = setting.minutes_by ?? "all";
  return (
    <GoesBy
      what="minutes"
      by={by}
      ways={{
        all: by === "all" ? `all ${Math.round(used)}` : "all",
        card: `card ${Math.round(card)}`,
        reckoned: `reckoned ${Math.round(reckoned)}`,
      }}
      likely={
        apart &&
        (card > law
          ? "larger, its oven cooler, or they are baked drier than is set here."
          : "smaller, its oven hotter, or they are baked softer than is set here.")
      }
      {...(onSetting && {
        onBy: (minutes_by: By) => onSetting((before) => ({ ...before, minutes_by })),
      })}
    >
      The card says {written}, for this piece and oven {Math.round(card)} min; reckoned{" "}
      {Math.round(law)} min
      {own !== null &&
        `, ${timed === 1 ? "your bake" : `your ${timed} bakes`} ${Math.round(own)} min`}
      .
    </GoesBy>
  );
}

interface GoesByProps {
  what: "width" | "minutes";
  by: By;
  ways: Record<By, string>;
  /** Why card and law are likely so far apart, where they are. */
  likely: string | false;
  /** What each source says. */
  children: React.ReactNode;
  onBy?: (by: By) => void;
}

const LABELS = { width: "Width by", minutes: "Minutes by" } as const;

/** What a figure goes by: each source, whether they part, and the choice between them. */
function GoesBy({ what, by, ways, likely, children, onBy }: GoesByProps) {
  return (
    <div data-figure={`card-${what}`}>
      <p>{children}</p>
      {likely && (
        <p className="text-caution">
          They part by more than both allow: the card’s pieces are likely {likely}
        </p>
      )}
      {onBy && (
        <Choice
          label={LABELS[what]}
          value={by}
          options={Object.entries(ways) as [By, string][]}
          onChange={onBy}
        />
      )}
    </div>
  );
}

/** What does not fit beside another figure. */
const WIDE = new Set([
  "look",
  "trays",
  "width",
  "band",
  "down",
  "piece",
  "extra",
  "minutes",
  "second",
]);

type Row = [string, string, React.ReactNode];

function rows(tray: Tray): Row[] {
  const { yields, width, thickness, lies, says, second } = tray;
  const found: Row[] = [
    [says.counted, "pieces", yields.pieces],
    ["left over", "leftover", mass(yields.leftover_g)],
    [`${says.holder}s`, "trays", `${yields.trays.length}, ${inWords(yields.trays)}`],
    ["each", "piece-mass", mass(tray.each_g)],
    ["baked", "baked-mass", mass(tray.baked_g)],
  ];
  if (says.across) {
    found.push(
      [says.across, "width", span(width.middle_mm)],
      ["eight in ten", "band", `${spanBetween(width.low_mm, width.high_mm)}`],
    );
    if (tray.raw.down_mm !== null && tray.raw.down_mm !== tray.raw.across_mm)
      found.push(["and down", "down", span(lies.baked_mm.down)]);
  }
  if (says.whole)
    found.push([
      lies.hole_mm === null ? says.whole : "ring",
      "piece",
      lies.hole_mm === null
        ? `${spanBy(lies.baked_mm.across, lies.baked_mm.down)}`
        : `${span(lies.baked_mm.across)}, hole ${span(lies.hole_mm)}`,
    ]);
  found.push(["thick", "thickness", fine(thickness.height_mm, 1)]);
  if (says.across) found.push(["W/T", "ratio", thickness.width_to_thickness.toFixed(1)]);
  for (const { what, each_g, total_g } of tray.extras)
    found.push([what, "extra", `${mass(each_g)} each, ${mass(total_g)} in all`]);
  found.push(["bake", "minutes", bakeWords(tray.whole_minutes, tray.turn_after)]);
  if (tray.look_from < tray.whole_minutes)
    found.push(["look from", "look", `${tray.look_from} min`]);
  if (second)
    found.push(
      ["slices", "slices", `${second.pieces}`],
      ["dry", "second", bakeWords(second.whole_minutes, second.turn_after, "over")],
      ["dried", "slice-mass", mass(second.dried_g)],
    );
  return found;
}

function inWords(trays: number[]): string {
  const most = Math.max(...trays);
  const least = Math.min(...trays);
  return most === least ? `${most} on each` : `${least} or ${most} on each`;
}

function bakeWords(minutes: number, turn: number | null, how = "at"): string {
  if (turn === null) return `${minutes} min`;
  return how === "at" ? `${minutes} min, turn at ${turn}` : `${minutes} min, turn over at ${turn}`;
}
