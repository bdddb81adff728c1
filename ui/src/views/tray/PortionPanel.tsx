import type { Dough, Kitchen, Tray, TraySetting } from "../../api/client";
import { grams as gramsText } from "../../app/format";
import { NumberField } from "../../parts/NumberField";
import { RulerSlider } from "../../parts/RulerSlider";
import { Select } from "../../parts/Select";
import { AlsoFields } from "./AlsoFields";
import { figureAt, HANDLES, KINDS, type Kind, moved, type Piece, USUAL } from "./kinds";
import { PortionFields } from "./PortionFields";

interface PortionPanelProps {
  dough: Dough;
  setting: TraySetting;
  tray: Tray | undefined;
  kitchen: Kitchen;
  fault: (field: string) => string | undefined;
  onPiece: (change: (before: Piece) => Piece) => void;
  onEvenness: (evenness: TraySetting["evenness"]) => void;
  onKitchen: (change: (before: Kitchen) => Kitchen) => void;
  onAlso: (also: TraySetting["also"]) => void;
}

const TWO_SIZES: ReadonlySet<Kind> = new Set(["drop", "rolled", "sliced", "rope"]);

const round = (value: number) => Math.round(value * 10) / 10;

/** How the dough is portioned: its kind, the handles of that kind on rulers, and the rest. */
export function PortionPanel(props: PortionPanelProps) {
  const { dough, setting, tray, kitchen, fault, onPiece } = props;
  const { piece } = setting;
  const [first, ...more] = HANDLES[piece.kind];
  const set = (field: string) => (value: number) =>
    onPiece((before) => moved(before, field, value));
  const at = (field: string) => round(figureAt(piece, field, tray?.piece_g));
  return (
    <section aria-label="Portion" className="flex flex-col gap-3">
      <div>
        <h1 className="text-2xl leading-tight font-bold">{dough.card.name}</h1>
        <p className="text-soft">{gramsText(tray?.total_g ?? dough.weighed.total_g)} g of dough</p>
      </div>
      <Select<Kind>
        label="The dough is"
        value={piece.kind}
        options={KINDS}
        onChange={(kind) => onPiece(() => USUAL[kind])}
      />
      {first && (
        <div>
          <NumberField
            label={first.typed}
            unit={first.unit}
            value={at(first.field)}
            onChange={set(first.field)}
            fault={fault(first.field) ?? fault("piece")}
            step={first.step}
            className="h-14 w-32 text-4xl font-bold"
          />
          <RulerSlider {...first} value={at(first.field)} onChange={set(first.field)} />
        </div>
      )}
      {more.map((handle) => (
        <div key={handle.field}>
          <NumberField
            label={handle.typed}
            unit={handle.unit}
            value={at(handle.field)}
            onChange={set(handle.field)}
            fault={fault(handle.field)}
            step={handle.step}
            className="w-20 text-xl font-bold"
          />
          <RulerSlider {...handle} value={at(handle.field)} onChange={set(handle.field)} />
        </div>
      ))}
      <PortionFields
        piece={piece}
        tray={tray}
        kitchen={kitchen}
        evenness={setting.evenness}
        fault={fault}
        onPiece={onPiece}
        onEvenness={props.onEvenness}
        onKitchen={props.onKitchen}
      />
      {TWO_SIZES.has(piece.kind) && (
        <AlsoFields
          also={setting.also ?? null}
          found={tray?.also}
          fault={fault}
          onAlso={props.onAlso}
        />
      )}
    </section>
  );
}
