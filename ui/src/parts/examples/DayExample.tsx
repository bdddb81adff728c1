const HANDS = [
  [70, 60],
  [150, 40],
  [250, 30],
  [330, 26],
  [420, 40],
  [560, 26],
  [640, 40],
] as const;
const OVEN = [
  [190, 110, 0],
  [300, 120, 20],
  [440, 110, 0],
  [570, 110, 20],
] as const;

/** What a day looks like, in grey: no figures, for there are none yet. */
export function DayExample() {
  return (
    <svg aria-hidden="true" viewBox="0 0 790 96" className="mt-2 w-full">
      {(["hands", "oven"] as const).map((label, n) => (
        <g key={label}>
          <text x={54} y={n === 0 ? 25 : 74} textAnchor="end" fontSize={14} className="fill-ink">
            {label}
          </text>
          <rect
            x={62}
            y={n === 0 ? 5 : 48}
            width={706}
            height={n === 0 ? 30 : 40}
            className="fill-none stroke-line"
          />
        </g>
      ))}
      {HANDS.map(([x, width]) => (
        <rect key={x} x={x} y={5} width={width} height={30} className="fill-soft" />
      ))}
      {OVEN.map(([x, width, down]) => (
        <rect key={x} x={x} y={48 + down} width={width} height={20} className="fill-soft" />
      ))}
    </svg>
  );
}
