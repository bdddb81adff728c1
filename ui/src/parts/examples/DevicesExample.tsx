/** What scale and thermometer show, in grey: a figure on its plate, an oven that swings about its dial. */
export function DevicesExample() {
  return (
    <svg aria-hidden="true" viewBox="0 0 900 200" className="mt-2 w-full max-w-5xl">
      <rect x={30} y={24} width={300} height={12} className="fill-soft" />
      <rect
        x={60.5}
        y={36.5}
        width={240}
        height={110}
        className="fill-none stroke-soft"
        strokeWidth={2}
      />
      <rect x={110} y={70} width={140} height={44} className="fill-soft" />
      <line x1={420} x2={880} y1={70} y2={70} className="stroke-line" strokeDasharray="6 5" />
      <line x1={420.5} x2={420.5} y1={20} y2={176} className="stroke-soft" />
      <line x1={420} x2={880} y1={176} y2={176} className="stroke-soft" />
      <path
        d="M420 170 C 470 150, 500 40, 540 48 S 590 96, 620 90 S 670 50, 700 54 S 750 90, 780 84 S 840 58, 880 64"
        className="fill-none stroke-soft"
        strokeWidth={3}
      />
    </svg>
  );
}
