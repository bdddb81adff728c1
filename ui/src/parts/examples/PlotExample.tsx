const BANDS = [
  [56, 150, 120],
  [76, 140, 92],
  [84, 118, 100],
  [88, 106, 96],
  [90, 100, 94],
] as const;

/** Bakes beside what was foreseen, in grey: a dot each, and the band that narrows. */
export function PlotExample() {
  return (
    <svg aria-hidden="true" viewBox="0 0 700 190" className="mt-2 w-full max-w-3xl">
      {[30, 80, 130].map((y) => (
        <line key={y} x1={40} x2={690} y1={y} y2={y} className="stroke-line" />
      ))}
      <line x1={40} x2={690} y1={176} y2={176} className="stroke-soft" />
      {BANDS.map(([top, bottom, dot], n) => (
        <g key={top}>
          <rect
            x={90 + n * 125}
            y={top - 20}
            width={28}
            height={bottom - top}
            className="fill-line"
          />
          <circle cx={104 + n * 125} cy={dot - 20} r={7} className="fill-soft" />
          <line x1={104 + n * 125} x2={104 + n * 125} y1={176} y2={182} className="stroke-soft" />
        </g>
      ))}
    </svg>
  );
}
