const STEPS = [0, 1, 2];
const PIECES = [0, 1, 2, 3].flatMap((column) => [0, 1, 2].map((row) => [column, row] as const));

/** A job under way, in grey: its steps, its sheet, the oven's shelves with what is on them, Done. */
export function BakeExample() {
  return (
    <svg aria-hidden="true" viewBox="0 0 790 300" className="mt-2 w-full max-w-4xl">
      <rect x={1} y={6} width={90} height={26} className="fill-line" />
      <rect x={1} y={46} width={330} height={34} className="fill-soft" />
      <rect x={1} y={92} width={210} height={18} className="fill-line" />
      {STEPS.map((n) => (
        <g key={n}>
          <rect
            x={1.5}
            y={134.5 + n * 34}
            width={20}
            height={20}
            className="fill-none stroke-soft"
          />
          <rect
            x={34}
            y={138 + n * 34}
            width={[190, 150, 172][n]}
            height={12}
            className="fill-line"
          />
        </g>
      ))}
      <path d="M5 144 l5 6 l9 -11" className="fill-none stroke-soft" strokeWidth={2.5} />
      <rect x={270.5} y={128.5} width={216} height={112} className="fill-none stroke-soft" />
      {PIECES.map(([column, row]) => (
        <circle
          key={`${column} ${row}`}
          cx={300 + column * 52}
          cy={150 + row * 34}
          r={12}
          className="fill-line stroke-soft"
        />
      ))}
      <rect x={1} y={258} width={486} height={38} className="fill-soft" />
      {[0, 1].map((n) => (
        <g key={n}>
          <rect
            x={540.5}
            y={6.5 + n * 74}
            width={240}
            height={70}
            className="fill-none stroke-soft"
            strokeWidth={2}
          />
          <rect x={554} y={24 + n * 74} width={40} height={20} className="fill-soft" />
          <rect x={706} y={24 + n * 74} width={60} height={20} className="fill-soft" />
          <rect x={554} y={58 + n * 74} width={n ? 70 : 150} height={8} className="fill-soft" />
        </g>
      ))}
      {[0, 1, 2, 3].map((n) => (
        <g key={n}>
          <rect x={541} y={176 + n * 32} width={52} height={12} className="fill-soft" />
          <rect
            x={610}
            y={176 + n * 32}
            width={[120, 96, 140, 88][n]}
            height={12}
            className="fill-line"
          />
        </g>
      ))}
    </svg>
  );
}
