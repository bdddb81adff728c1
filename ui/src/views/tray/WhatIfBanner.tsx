interface WhatIfBannerProps {
  tries: { key: string; label: string }[];
  saving: boolean;
  onKeep: () => void;
  onLeave: () => void;
}

/** What is being tried, on top of the dough as it is kept; keep it as a version, or leave it. */
export function WhatIfBanner({ tries, saving, onKeep, onLeave }: WhatIfBannerProps) {
  if (tries.length === 0) return null;
  return (
    <section
      aria-label="Being tried"
      className="flex flex-wrap items-center justify-between gap-x-4 gap-y-1 border-2 border-ink bg-sheet px-3 py-2"
    >
      <p className="text-lg">
        Trying: <strong>{tries.map(({ label }) => label).join(", ")}</strong>. The dough is as it
        was.
      </p>
      <span className="flex gap-2">
        <button
          type="button"
          className="press press-main min-h-9"
          disabled={saving}
          onClick={onKeep}
        >
          Keep as a new version
        </button>
        <button type="button" className="press min-h-9" onClick={onLeave}>
          Leave it
        </button>
      </span>
    </section>
  );
}
