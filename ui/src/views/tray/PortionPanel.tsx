import type { Dough, Kitchen, Schemas, Tray, TraySetting } from "../../api/client";
import { mass } from "../../logic/format";
import { figureAt, moved, type Piece } from "../../logic/pieces";
import { kindOf } from "../../logic/queries";
import { NumberField } from "../../parts/NumberField";
import { RulerSlider } from "../../parts/RulerSlider";
import { Select } from "../../parts/Select";
import { AlsoFields } from "./AlsoFields";
import { CardMark } from "./CardMark";
import { PortionFields } from "./PortionFields";

type Handle = Schemas["Handle"];

interface PortionPanelProps {
  kinds: Schemas["KindShown"][];
  dough: Dough;
  setting: TraySetting;
  tray: Tray | undefined;
  kitchen: Kitchen;
  fault: (field: string) => string | undefined;
  onPiece: (change: (before: Piece) => Piece) => void;
  onSetting: (change: (before: TraySetting) => TraySetting) => void;
  onEvenness: (evenness: TraySetting["evenness"]) => void;
  onKitchen: (change: (before: Kitchen) => Kitchen) => void;
  onAlso: (also: NonNullable<TraySetting["also"]>) => void;
  /** The press that takes the last change of the tray back. */
  takeBack: React.ReactNode;
}

const ruler = ({ label, unit, range: { low, high }, step }: Handle) => ({
  label,
  unit,
  step,
  range: [low, high] as [number, number],
});

const round = (value: number) => Math.round(value * 10) / 10;

/** How the dough is portioned: its kind, the handles of that kind on rulers, and the rest. */
export function PortionPanel(props: PortionPanelProps) {
  const { kinds, dough, setting, tray, kitchen, fault, onPiece } = props;
  const { piece } = setting;
  const kind = kindOf(kinds, piece.kind);
  if (!kind) return null;
  const [first, ...more] = kind.handles;
  const set = (handle: Handle) => (value: number) =>
    onPiece((before) => moved(before, handle, value));
  const mark = (handle: Handle) =>
    tray?.begun.said.includes(`piece.${handle.field.split(".")[0]}`) && (
      <CardMark
        begun={tray.begun}
        setting={setting}
        field={`piece.${handle.field.split(".")[0]}`}
        onSetting={props.onSetting}
      />
    );
  const at = (handle: Handle) => round(figureAt(piece, handle, tray?.piece_g));
  return (
    <section aria-label="Portion" className="flex flex-col gap-3">
      <div>
        <h1 className="text-2xl leading-tight font-bold">{dough.card.name}</h1>
        <p className="flex items-center justify-between gap-2 text-soft">
          {mass(tray?.total_g ?? dough.weighed.total_g)} of dough
          {props.takeBack}
        </p>
      </div>
      <Select
        label="The dough is"
        value={piece.kind}
        options={kinds.map((one) => [one.kind, one.says.label] as const)}
        onChange={(chosen) => onPiece((before) => kindOf(kinds, chosen)?.usual ?? before)}
      />
      {first && (
        <div>
          <NumberField
            label={first.typed}
            unit={first.unit}
            value={at(first)}
            onChange={set(first)}
            fault={fault(first.field) ?? fault("piece")}
            note={mark(first)}
            step={first.step}
            className="h-14 w-32 text-4xl font-bold"
          />
          <RulerSlider {...ruler(first)} value={at(first)} onChange={set(first)} />
        </div>
      )}
      {more.map((handle) => (
        <div key={handle.field}>
          <NumberField
            label={handle.typed}
            unit={handle.unit}
            value={at(handle)}
            onChange={set(handle)}
            fault={fault(handle.field)}
            note={mark(handle)}
            step={handle.step}
            className="w-20 text-xl font-bold"
          />
          <RulerSlider {...ruler(handle)} value={at(handle)} onChange={set(handle)} />
        </div>
      ))}
      <PortionFields
        kind={kind}
        doughId={dough.id}
        piece={piece}
        setting={setting}
        tray={tray}
        kitchen={kitchen}
        fault={fault}
        onPiece={onPiece}
        onEvenness={props.onEvenness}
        onKitchen={props.onKitchen}
      />
      {!kind.one_size && (
        <AlsoFields
          also={setting.also ?? []}
          found={tray?.also ?? []}
          forms={kind.asks
            .filter(({ ask }) => ask.field === kind.says.also_field)
            .flatMap(({ ask }) => ask.ways.map((way) => [String(way.value), way.label] as const))}
          fault={fault}
          onAlso={props.onAlso}
        />
      )}
    </section>
  );
}
