import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { api, body, type Tray, type TraySetting } from "../../api/client";
import { dial, fineWords, wider, widerFigure } from "../../logic/format";
import { Notice } from "../../parts/Notice";
import { Term } from "../../parts/Term";

const MOST_SHOWN = 11;

interface MoversProps {
  tray: Tray;
  doughId: number;
  setting: TraySetting;
  tried: string[];
  onTry: (key: string, label: string) => void;
}

/** What moves the width most, in millimetres either way; press one to try a change of it. */
export function Movers({ tray, doughId, setting, tried, onTry }: MoversProps) {
  const [open, setOpen] = useState<string | null>(null);
  const offers = useMutation({
    mutationFn: (effect: string) =>
      body(
        api.POST("/api/doughs/{dough_id}/tries/{effect}", {
          params: { path: { dough_id: doughId, effect } },
          body: { ...setting, tried },
        }),
      ),
  });
  const press = (effect: string) => {
    if (open === effect) return setOpen(null);
    setOpen(effect);
    offers.mutate(effect);
  };
  const movers = tray.width.movers.filter((m) => Math.abs(m.mm) >= 0.05).slice(0, MOST_SHOWN);
  const most = Math.max(1, ...movers.map((m) => Math.abs(m.mm)));
  if (movers.length === 0) return null;
  return (
    <section aria-label="What moves it">
      <h2 className="heading">
        <Term of="moves">What moves it</Term>{" "}
        <span className="text-[0.9375rem] font-normal text-soft">{fineWords()} of width</span>
      </h2>
      <ul className="mt-2">
        {movers.map((mover) => (
          <li key={mover.key} data-mover={mover.key}>
            <button
              type="button"
              aria-expanded={open === mover.key}
              title="Try a change"
              className="grid w-full grid-cols-[8.5rem_1fr_3.25rem] items-center gap-2 py-0.5 text-left hover:bg-wash"
              onClick={() => press(mover.key)}
            >
              <span className="leading-tight underline decoration-line underline-offset-2">
                {mover.label}
              </span>
              <Bar mm={mover.mm} most={most} />
              <strong className="text-right">{widerFigure(mover.mm)}</strong>
            </button>
            {open === mover.key && (
              <ul className="mb-1 border-l-2 border-ink pl-2" aria-label={`Try: ${mover.label}`}>
                {offers.data?.map((offer) => (
                  <li key={offer.key}>
                    <button
                      type="button"
                      className="flex min-h-8 w-full items-baseline justify-between gap-2 text-left hover:bg-wash"
                      onClick={() => {
                        onTry(offer.key, offer.label);
                        setOpen(null);
                      }}
                    >
                      <span className="underline">Try {offer.label}</span>
                      <span className="flex-none">
                        {wider(offer.width_mm - tray.width.middle_mm)}
                      </span>
                    </button>
                  </li>
                ))}
                {offers.data?.length === 0 && (
                  <li className="text-[0.9375rem]">Nothing in this dough moves it by itself.</li>
                )}
                {offers.isPending && <li className="text-[0.9375rem]">One moment…</li>}
                <Notice problem={offers.error} />
              </ul>
            )}
          </li>
        ))}
      </ul>
      <p className="mt-1 text-[0.9375rem] text-soft">
        Against a plain butter dough at room temperature on parchment at {dial(180)}. Press one to
        try a change.
      </p>
    </section>
  );
}

function Bar({ mm, most }: { mm: number; most: number }) {
  return (
    <svg
      aria-hidden="true"
      viewBox="-50 0 100 10"
      preserveAspectRatio="none"
      className="h-4 w-full"
    >
      <rect
        x={mm < 0 ? (50 * mm) / most : 0}
        y={1}
        width={(50 * Math.abs(mm)) / most}
        height={8}
        className={mm < 0 ? "fill-enamel/45" : "fill-enamel"}
      />
      <line x1={0} x2={0} y1={0} y2={10} className="stroke-ink" vectorEffect="non-scaling-stroke" />
    </svg>
  );
}
