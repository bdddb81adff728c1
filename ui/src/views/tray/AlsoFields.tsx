import type { Tray, TraySetting } from "../../api/client";
import { fine, mass, span } from "../../logic/format";
import { NumberField } from "../../parts/NumberField";
import { Select } from "../../parts/Select";

type Also = TraySetting["also"][number];

interface AlsoFieldsProps {
  also: Also[];
  found: Tray["also"];
  /** To what else they may be bent; empty for what is no rope. */
  forms: readonly (readonly [string, string])[];
  fault: (field: string) => string | undefined;
  onAlso: (also: Also[]) => void;
}

const USUAL: Also = { pieces: 6, times: 1.5 };

/** Some pieces of other sizes or forms: they bake differently, so they get trays of their own. */
export function AlsoFields({ also, found, forms, fault, onAlso }: AlsoFieldsProps) {
  const next: Also = forms.length > 0 && also.length > 0 ? { pieces: 6, times: 1 } : USUAL;
  return (
    <section aria-label="Another size" className="border-t border-line pt-2">
      <label className="flex items-center gap-2 font-semibold">
        <input
          type="checkbox"
          checked={also.length > 0}
          onChange={(event) => onAlso(event.target.checked ? [USUAL] : [])}
        />
        Some in another size{forms.length > 0 && " or form"}
      </label>
      {also.map((one, n) => (
        <Other
          // biome-ignore lint/suspicious/noArrayIndexKey: others have no other name
          key={n}
          also={one}
          found={found[n]}
          number={n}
          forms={forms}
          fault={(field) => fault(`also.${n}.${field}`)}
          onAlso={(part) => onAlso(also.with(n, { ...one, ...part }))}
          onAway={also.length > 1 ? () => onAlso(also.toSpliced(n, 1)) : undefined}
        />
      ))}
      {fault("also") && <p className="text-caution">{fault("also")}</p>}
      {also.length > 0 && (
        <button
          type="button"
          className="press mt-1 min-h-9"
          onClick={() => onAlso([...also, next])}
        >
          And others
        </button>
      )}
    </section>
  );
}

interface OtherProps {
  also: Also;
  found: Tray["also"][number] | undefined;
  number: number;
  forms: AlsoFieldsProps["forms"];
  fault: (field: string) => string | undefined;
  onAlso: (part: Partial<Also>) => void;
  onAway: (() => void) | undefined;
}

function Other({ also, found, number, forms, fault, onAlso, onAway }: OtherProps) {
  const which = number > 0 ? ` ${number + 1}` : "";
  return (
    <div className="mt-1 flex flex-wrap items-end gap-x-3">
      <NumberField
        label={`How many${which}`}
        step={1}
        className="w-[4.75rem] font-semibold"
        value={also.pieces}
        fault={fault("pieces")}
        onChange={(pieces) => onAlso({ pieces: Math.round(pieces) })}
      />
      <NumberField
        label={`Each${which}`}
        unit="times the mass"
        step={0.1}
        className="w-[4.75rem] font-semibold"
        value={also.times}
        fault={fault("times")}
        onChange={(times) => onAlso({ times })}
      />
      {forms.length > 0 && (
        <Select
          label={`Bent to${which}`}
          value={also.form ?? ""}
          options={[["", "the same"] as const, ...forms]}
          onChange={(form) =>
            onAlso({ form: form === "" ? null : (form as NonNullable<Also["form"]>) })
          }
        />
      )}
      {onAway && (
        <button
          type="button"
          className="press min-h-9"
          aria-label={`Take these away${which}`}
          onClick={onAway}
        >
          ✕
        </button>
      )}
      {found && (
        <p className="mt-1 w-full text-[0.9375rem]" data-figure="also">
          {found.pieces} of <strong>{mass(found.piece_g)}</strong>, baked{" "}
          <strong>{span(found.width.middle_mm)}</strong> and {fine(found.height_mm, 1)} high in{" "}
          <strong>{found.whole_minutes} min</strong>, on {found.trays.length}{" "}
          {found.trays.length === 1 ? "tray of their own" : "trays of their own"}.
        </p>
      )}
    </div>
  );
}
