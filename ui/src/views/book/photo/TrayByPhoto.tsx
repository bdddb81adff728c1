import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { fine, fineFigure, fineWords, spanBetween, spanBy } from "../../../logic/format";
import { scaleOf, typedIn } from "../../../logic/measures";
import {
  AS_MEASURED,
  closest,
  ends,
  type Measured,
  mayBeThing,
  mean,
  middle,
  type Pictured,
  type PieceMeasured,
  type PutRight,
  pictured,
  SIDES,
  type Side,
  type Size,
  sizeOf,
  standing,
  struckOrNot,
  THING_MM,
  type Thing,
  together,
  unevenly,
  widened,
  widthOf,
} from "../../../logic/photo";
import { kitchenQuery, type PhotoOf } from "../../../logic/queries";
import { ColourPatch } from "../../../parts/ColourStrip";
import { Measure } from "../../../parts/Measure";
import { Notice } from "../../../parts/Notice";
import { PhotoDrawing } from "../../../parts/photo/PhotoDrawing";
import { useMeasured } from "../../../parts/photo/useMeasured";
import { Select } from "../../../parts/Select";
import { useRemembered } from "../../../parts/useRemembered";

/** A piece that is so much longer than wide is told as such. */
const LONGISH = 1.15;

const thingsNamed = () =>
  [
    ["sheet", "the sheet, where its flat bottom ends"],
    ["a4", `white A4 paper beside the pieces, ${spanBy(297, 210)}`],
    ["a5", `white A5 paper beside the pieces, ${spanBy(210, 148)}`],
    ["letter", `white letter paper beside the pieces, ${spanBy(279.4, 215.9)}`],
    ["other", "something else that is white, beside the pieces"],
  ] as const satisfies readonly (readonly [Thing, string])[];

const UNSAID: Size = [Number.NaN, Number.NaN];

const OVENS = [
  ["1", "the first oven"],
  ["2", "the second oven"],
] as const;

/** What the baker lets stand of a photo: what goes into the record. */
export interface ByPhoto {
  pictured: Pictured;
  colour: number;
  together: [string, string][];
}

interface TrayByPhotoProps {
  of: PhotoOf;
  photo: File;
  colours: readonly string[];
  /** While it is taken it waits: what was put right stays. */
  isHidden: boolean;
  onUse: (found: ByPhoto) => void;
  onClose: () => void;
}

/** The tray measured by its photo: looked at, put right, and taken into the record. */
export function TrayByPhoto(props: TrayByPhotoProps) {
  const { of, photo, colours, isHidden, onUse, onClose } = props;
  const kitchen = useQuery(kitchenQuery);
  const ovens = kitchen.data?.planning?.second ? 2 : 1;
  const [thing, setThing] = useState<Thing>("sheet");
  const [own, setOwn] = useState<Size>(UNSAID);
  const { found, problem, isLooking, corners, setCorners, isCurrent } = useMeasured(
    of,
    photo,
    sizeOf(thing, own),
  );
  const onSheet = thing === "sheet";
  const [right, setRight] = useState<PutRight>(AS_MEASURED);
  const section = useRef<HTMLElement>(null);
  // It stands where the form's photo is chosen from far below, or on a phone far above.
  useEffect(() => {
    if (!isHidden) section.current?.scrollIntoView({ block: "start" });
  }, [isHidden]);
  const [picked, setPicked] = useState<string | null>(null);
  const [back, setBack] = useRemembered<Side>("photo back", "far");
  const [turned, setTurned] = useRemembered("photo turned", false);
  const [oven, setOven] = useState("1");
  const anew = () => {
    setCorners(null);
    setRight(AS_MEASURED);
  };
  const pieces = found ? standing(found, right) : [];
  const one = found?.pieces.find((piece) => piece.piece.name === picked);
  return (
    <section
      ref={section}
      aria-labelledby="by-photo"
      hidden={isHidden}
      className={isHidden ? "" : "flex flex-col gap-3"}
    >
      <div className="flex flex-wrap items-baseline justify-between gap-x-4">
        <h2 id="by-photo" className="heading">
          The tray by its photo
        </h2>
        <button type="button" className="underline" onClick={onClose}>
          Measure by hand instead
        </button>
      </div>
      <Notice problem={problem} />
      <p role="status" className="text-lg">
        {isLooking ? "Looking for the sheet and its pieces …" : found && told(found, pieces, thing)}
      </p>
      <PhotoDrawing
        photo={photo}
        measured={found}
        corners={corners}
        right={right}
        picked={picked}
        onCorners={(to) => {
          setCorners(to);
          setRight(AS_MEASURED);
        }}
        onPick={setPicked}
      />
      <Select
        label="The four marks are on"
        value={thing}
        options={thingsNamed()}
        onChange={(to) => {
          setThing(to);
          // What is typed for another thing begins empty.
          setOwn(UNSAID);
          anew();
        }}
      />
      {thing === "other" && (
        <OwnSize
          onSize={(to) => {
            setOwn(to);
            anew();
          }}
        />
      )}
      {one && (
        <OnePiece
          one={one}
          right={right}
          colours={colours}
          onRight={setRight}
          onDone={() => setPicked(null)}
        />
      )}
      {found && pieces.length > 0 && (
        <>
          <Summary found={found} pieces={pieces} colours={colours} />
          <div className="flex flex-wrap items-end gap-x-5 gap-y-2" hidden={!onSheet}>
            <Select
              label="At the back of the oven"
              value={back}
              options={SIDES}
              onChange={setBack}
            />
            {ovens > 1 && (
              <Select label="Baked in" value={oven} options={OVENS} onChange={setOven} />
            )}
            <label className="flex min-h-10 items-center gap-2">
              <input
                type="checkbox"
                checked={turned}
                onChange={(event) => setTurned(event.target.checked)}
              />
              It was turned half-way
            </label>
          </div>
          <div className="flex flex-wrap items-center gap-4">
            <button
              type="button"
              className="press press-main text-lg"
              disabled={!isCurrent}
              onClick={() =>
                onUse({
                  // Beside something else pieces lie as they were put: they tell no oven.
                  pictured: pictured(found, pieces, {
                    back,
                    turned: turned || !onSheet,
                    oven: Number(oven),
                  }),
                  colour: Math.round(middle(pieces.map((piece) => piece.piece.step))),
                  together: together(pieces),
                })
              }
            >
              Take these {pieces.length} into the record
            </button>
            <p className="text-soft">Nothing is written down before you do.</p>
          </div>
        </>
      )}
    </section>
  );
}

/** What the marks belong on, and what is said of it where it is not seen. */
const ENDS = {
  sheet: ["where the sheet's flat bottom ends", "The sheet's sides are not seen."],
  paper: ["the corners of the paper", "The paper's sides are not seen."],
  other: ["the corners of what is white", "Nothing white of that size is seen."],
} as const;

function told(found: Measured, pieces: readonly PieceMeasured[], thing: Thing): string {
  const [end, unseen] = ENDS[thing === "sheet" || thing === "other" ? thing : "paper"];
  if (found.found === "none") return `${unseen} Drag the four marks to ${end}.`;
  if (found.pieces.length === 0) return `No pieces are seen. Drag the four marks to ${end}.`;
  const places = found.empty.length === 1 ? "one place" : `${found.empty.length} places`;
  const missing =
    found.empty.length > 0 ? ` At ${places} of the layout, drawn dashed, none is seen.` : "";
  const count = `${pieces.length}${found.expected ? ` of ${found.expected}` : ""} pieces.${missing}`;
  const on = thing === "sheet" ? end : `on ${end}`;
  return found.found === "about"
    ? `${count} Look at the four marks first: they belong ${on}${thing === "sheet" ? ", not on the rim" : ""}.`
    : `${count} Press one to strike it out or put it right; drag a mark that is not ${on}.`;
}

const ACROSS = ["wide", "deep"];

/** How wide and deep the thing beside the pieces is, as it is seen in the photo. */
function OwnSize({ onSize }: { onSize: (size: Size) => void }) {
  const [texts, setTexts] = useState(["", ""]);
  const mm = (text: string) => typedIn("length", text);
  return (
    <fieldset className="flex flex-wrap items-start gap-x-4 gap-y-2">
      <legend className="sr-only">How large it is</legend>
      {ACROSS.map((label, n) => {
        const text = texts[n] ?? "";
        const isOff = text.trim() !== "" && !mayBeThing(mm(text));
        return (
          <Measure
            key={label}
            label={`${label}, in ${fineWords()}`}
            fault={isOff ? `Give ${spanBetween(...THING_MM)}.` : undefined}
            value={text}
            onChange={(to) => {
              const [wide = "", deep = ""] = texts.map((old, m) => (m === n ? to : old));
              setTexts([wide, deep]);
              onSize([mm(wide), mm(deep)]);
            }}
          />
        );
      })}
    </fieldset>
  );
}

interface SummaryProps {
  found: Measured;
  pieces: readonly PieceMeasured[];
  colours: readonly string[];
}

/** What the pieces come to, beside what was foreseen. */
function Summary({ found, pieces, colours }: SummaryProps) {
  const widths = pieces.map((one) => one.piece.width_mm);
  const [low, high] = ends(widths);
  const step = Math.round(middle(pieces.map((one) => one.piece.step)));
  const pairs = together(pieces);
  const tilt = unevenly(found.tilt);
  const nearest = closest(pieces);
  return (
    <dl className="grid grid-cols-[max-content_minmax(0,1fr)] gap-x-4 gap-y-1 text-lg">
      <dt className="text-soft">Wide</dt>
      <dd>
        <strong>{fine(mean(widths), 1)}</strong> in the mean, {fineFigure(low)} to {fine(high)}.
        Foreseen: {fine(found.foreseen_mm)}, {fineFigure(found.low_mm)} to {fine(found.high_mm)}.
      </dd>
      {nearest && (
        <>
          <dt className="text-soft">Gaps</dt>
          <dd>
            {fine(nearest.gap_mm ?? 0)} at the least, at {nearest.piece.name}
          </dd>
        </>
      )}
      <dt className="text-soft">Colour</dt>
      <dd>
        <ColourPatch step={step} /> {colours[step - 1]}
        {tilt && `. ${tilt}`}
      </dd>
      {pairs.length > 0 && (
        <>
          <dt className="text-soft">Trouble</dt>
          <dd className="text-caution">
            {pairs.map(([one, other]) => `${one} and ${other}`).join(", ")} touch.
          </dd>
        </>
      )}
    </dl>
  );
}

interface OnePieceProps {
  one: PieceMeasured;
  right: PutRight;
  colours: readonly string[];
  onRight: (right: PutRight) => void;
  onDone: () => void;
}

/** One piece: struck out where it is none, its width by hand where the outline is wrong. */
function OnePiece({ one, right, colours, onRight, onDone }: OnePieceProps) {
  const { name, step, width_mm, length_mm } = one.piece;
  const isStruck = right.struck.includes(name);
  const scale = scaleOf("length");
  const [text, setText] = useState<{ name: string; text: string } | null>(null);
  const own = text?.name === name ? text.text : scale.words(widthOf(one, right));
  const shade = Math.round(step);
  return (
    <fieldset className="flex flex-wrap items-end gap-x-4 gap-y-2 border-l-4 border-yolk bg-wash p-3">
      <legend className="sr-only">Piece {name}</legend>
      <p className="text-lg">
        <strong>{name}</strong> <ColourPatch step={shade} /> {colours[shade - 1]}
        {length_mm > LONGISH * width_mm && `, ${fine(length_mm)} long`}
        {one.touches.length > 0 && `, touches ${one.touches.join(" and ")}`}
      </p>
      <Measure
        label={`wide, in ${fineWords()}`}
        disabled={isStruck}
        value={own}
        onChange={(to) => {
          setText({ name, text: to });
          const width = typedIn("length", to);
          if (width >= 10 && width <= 400) onRight(widened(right, name, width));
        }}
      />
      <button type="button" className="press" onClick={() => onRight(struckOrNot(right, name))}>
        {isStruck ? `Count ${name} again` : `Strike ${name} out`}
      </button>
      <button type="button" className="underline" onClick={onDone}>
        Done
      </button>
    </fieldset>
  );
}
