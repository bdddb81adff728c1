import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { api, body, type Dough, type Tray, type TraySetting } from "../../api/client";
import { fine } from "../../logic/format";
import { MM_IN } from "../../logic/inches";
import { units } from "../../logic/kitchenUnits";
import { Choice } from "../../parts/Choice";
import { Notice } from "../../parts/Notice";
import { Select } from "../../parts/Select";

interface PrintPanelProps {
  dough: Dough;
  setting: TraySetting;
  tried: string[];
  tray: Tray | undefined;
}

type Form = "pdf" | "svg";
type What = "sheet" | "slab";

const PAPERS = [
  ["A4", "A4"],
  ["Letter", "Letter"],
] as const;

/** Paper templates at 1 : 1 and the tray card. */
export function PrintPanel({ dough, setting, tried, tray }: PrintPanelProps) {
  const [paper, setPaper] = useState<"A4" | "Letter">("A4");
  const [place, setPlace] = useState("0");
  const make = useMutation({
    mutationFn: async ({ what, form }: { what: What; form: Form }) => {
      const file = await body(
        api.POST("/api/doughs/{dough_id}/template", {
          params: { path: { dough_id: dough.id } },
          body: { ...setting, tried, what, form, paper, tray: Number(place) },
          parseAs: "blob",
        }),
      );
      save(file as unknown as Blob, `${fileName(dough.card.name)}-${what}.${form}`);
    },
  });
  const layouts = tray?.layouts ?? [];
  const has = { sheet: layouts.length > 0, slab: tray?.says.slab ?? false };
  return (
    <section aria-label="Print" className="flex flex-col gap-4">
      <div className="flex flex-wrap items-end gap-4">
        <Choice label="Paper" value={paper} options={PAPERS} onChange={setPaper} />
        {layouts.length > 1 && (
          <Select
            label="Tray with"
            value={place}
            options={layouts.map(
              (layout, n) => [String(n), `${layout.centres.length} pieces`] as const,
            )}
            onChange={setPlace}
          />
        )}
      </div>
      {has.sheet && (
        <Files
          label="The sheet with its pieces"
          said="To slide under the parchment: each piece goes on its inner outline."
          onMake={(form) => make.mutate({ what: "sheet", form })}
        />
      )}
      {has.slab && (
        <Files
          label="The slab with its cuts"
          said="To lay under the paper that the dough is rolled on."
          onMake={(form) => make.mutate({ what: "slab", form })}
        />
      )}
      {!has.sheet && !has.slab && (
        <p>A pan needs no template: score it along a ruler, as its drawing says.</p>
      )}
      <Notice problem={make.error} />
      <div className="flex flex-wrap items-center justify-between gap-3 border-t border-line pt-3">
        <p className="text-lg">
          <strong>The tray card</strong>, on one page: portion, pattern, distances, minutes.
        </p>
        <Link to={`/print/tray/${dough.id}`} className="press">
          Print the tray card
        </Link>
      </div>
      <p className="text-[0.9375rem] text-soft">
        Templates are tiled over sheets of paper with a strip of {fine(10)} to stick on, dashed, and
        a line of {fine(units().length === "metric" ? 100 : 4 * MM_IN)} on each: measure it before
        you trust the page.
      </p>
    </section>
  );
}

interface FilesProps {
  label: string;
  said: string;
  onMake: (form: Form) => void;
}

function Files({ label, said, onMake }: FilesProps) {
  return (
    <div className="flex flex-wrap items-center justify-between gap-3 border-t border-line pt-3">
      <p className="text-lg">
        <strong>{label}</strong> at 1 : 1. {said}
      </p>
      <span className="flex gap-2">
        <button
          type="button"
          className="press"
          aria-label={`${label} as PDF`}
          onClick={() => onMake("pdf")}
        >
          PDF
        </button>
        <button
          type="button"
          className="press"
          aria-label={`${label} as SVG`}
          onClick={() => onMake("svg")}
        >
          SVG
        </button>
      </span>
    </div>
  );
}

const fileName = (name: string): string =>
  name
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, "-")
    .replace(/^-|-$/g, "") || "template";

function save(file: Blob, name: string) {
  const address = URL.createObjectURL(file);
  const link = document.createElement("a");
  link.href = address;
  link.download = name;
  link.click();
  URL.revokeObjectURL(address);
}
