import type { Tray, TraySetting } from "../../api/client";
import { mass, span } from "../../logic/format";
import { NumberField } from "../../parts/NumberField";
import { Select } from "../../parts/Select";

type Also = NonNullable<TraySetting["also"]>;

interface AlsoFieldsProps {
  also: Also | null;
  found: Tray["also"] | undefined;
  /** To what else they may be bent; empty for what is no rope. */
  forms: readonly (readonly [string, string])[];
  fault: (field: string) => string | undefined;
  onAlso: (also: Also | null) => void;
}

const USUAL: Also = { pieces: 6, times: 1.5 };

/** Some pieces of another size: they bake differently, so they get trays of their own. */
export function AlsoFields({ also, found, forms, fault, onAlso }: AlsoFieldsProps) {
  return (
    <section aria-label="Another size" className="border-t border-line pt-2">
      <label className="flex items-center gap-2 font-semibold">
        <input
          type="checkbox"
          checked={also !== null}
          onChange={(event) => onAlso(event.target.checked ? USUAL : null)}
        />
        Some in another size{forms.length > 0 && " or form"}
      </label>
      {also && (
        <>
          <div className="mt-1 flex flex-wrap gap-x-3">
            <NumberField
              label="How many"
              step={1}
              className="w-[4.75rem] font-semibold"
              value={also.pieces}
              fault={fault("pieces")}
              onChange={(pieces) => onAlso({ ...also, pieces: Math.round(pieces) })}
            />
            <NumberField
              label="Each"
              unit="times the mass"
              step={0.1}
              className="w-[4.75rem] font-semibold"
              value={also.times}
              fault={fault("times")}
              onChange={(times) => onAlso({ ...also, times })}
            />
            {forms.length > 0 && (
              <Select
                label="Bent to"
                value={also.form ?? ""}
                options={[["", "the same"] as const, ...forms]}
                onChange={(form) =>
                  onAlso({
                    ...also,
                    form: form === "" ? null : (form as NonNullable<Also["form"]>),
                  })
                }
              />
            )}
          </div>
          {fault("also") && <p className="text-caution">{fault("also")}</p>}
          {found && (
            <p className="mt-1 text-[0.9375rem]" data-figure="also">
              {found.pieces} of <strong>{mass(found.piece_g)}</strong>, baked{" "}
              <strong>{span(found.width.middle_mm)}</strong> in{" "}
              <strong>{found.whole_minutes} min</strong>, on {found.trays.length}{" "}
              {found.trays.length === 1 ? "tray of their own" : "trays of their own"}.
            </p>
          )}
        </>
      )}
    </section>
  );
}
