import type { TraySetting } from "../../api/client";
import { type Ask, at, isAsked, type Piece, type PieceOf, ways } from "../../logic/pieces";
import { NumberField } from "../../parts/NumberField";
import { Select } from "../../parts/Select";
import { Stepper } from "../../parts/Stepper";
import { CutterFields } from "./CutterFields";
import type { FieldsProps } from "./fields";
import { PanFields } from "./PanFields";
import { ScoopFields } from "./ScoopFields";
import { SharedOut } from "./SharedOut";

/** What else is set for a kind, beside its handles. */
export function PortionFields(props: FieldsProps) {
  const asked = props.kind.asks.filter((ask) => isAsked(props.piece, ask));
  const asides = [...new Set(asked.map(({ ask }) => ask.aside).filter(Boolean))];
  return (
    <div className="flex flex-wrap items-start gap-x-3 gap-y-2">
      {asked
        .filter(({ ask }) => !ask.aside)
        .map((ask) => (
          <AskField key={`${ask.ask.shown_as} ${ask.ask.field}`} {...props} asked={ask} />
        ))}
      {asides.map((heading) => (
        <details key={heading} className="w-full">
          <summary className="cursor-pointer py-1 text-[0.9375rem] font-semibold">
            {heading}
          </summary>
          <div className="flex gap-3">
            {asked
              .filter(({ ask }) => ask.aside === heading)
              .map((ask) => (
                <AskField key={ask.ask.field} {...props} asked={ask} />
              ))}
          </div>
        </details>
      ))}
      {props.kind.says.notes.map((note) => (
        <p key={note.text} className={`text-[0.9375rem] ${note.caution ? "text-caution" : ""}`}>
          {note.text}
        </p>
      ))}
    </div>
  );
}

function AskField(props: FieldsProps & { asked: Ask }) {
  const { piece, fault, onPiece } = props;
  const { ask, least, most } = props.asked;
  const set = (part: object) => onPiece((before) => ({ ...before, ...part }) as Piece);
  const value = at(piece, ask.field);
  switch (ask.shown_as) {
    case "scoop":
      return <ScoopFields {...props} piece={piece as PieceOf<"drop">} ask={ask} set={set} />;
    case "cutter":
      return (
        <CutterFields
          cutter={value as PieceOf<"rolled">["cutter"]}
          ask={ask}
          kitchen={props.kitchen}
          fault={fault}
          onCutter={(cutter) => set({ cutter })}
          onKitchen={props.onKitchen}
        />
      );
    case "pan":
      return <PanFields piece={piece as PieceOf<"pan">} ask={ask} fault={fault} set={set} />;
    case "shared_out":
      return <SharedOut {...props} label={ask.label} />;
    case "evenness":
      return (
        <Select
          label={ask.label}
          value={props.setting.evenness}
          options={ways(ask)}
          onChange={(chosen) => props.onEvenness(chosen as TraySetting["evenness"])}
        />
      );
    case "choice":
      return (
        <Select
          label={ask.label}
          value={String(value)}
          options={ways(ask)}
          onChange={(chosen) =>
            set({ [ask.field]: ask.ways.find((way) => String(way.value) === chosen)?.value })
          }
        />
      );
    case "count":
      return (
        <Stepper
          label={ask.label}
          value={Number(value)}
          range={[least ?? 1, most ?? Number.POSITIVE_INFINITY]}
          onChange={(count) => set({ [ask.field]: count })}
        />
      );
    case "ball":
      return value == null ? null : <Figure {...props} set={set} />;
    case "figure":
      return <Figure {...props} set={set} />;
  }
}

function Figure({
  asked: { ask },
  piece,
  fault,
  set,
}: FieldsProps & { asked: Ask; set: (part: object) => void }) {
  return (
    <NumberField
      label={ask.label}
      unit={ask.unit}
      step={ask.step}
      className="w-[4.75rem] font-semibold"
      value={Number(at(piece, ask.field))}
      fault={fault(ask.field)}
      onChange={(figure) => set({ [ask.field]: figure })}
    />
  );
}
