interface ScoresProps {
  wide: number;
  tall: number;
  across: number;
  down: number;
}

/** A rectangle of dough with the lines along which it is scored. */
export function Scores({ wide, tall, across, down }: ScoresProps) {
  return (
    <g className="stroke-dark" strokeWidth={0.9}>
      <rect width={wide} height={tall} rx={3} className="fill-raw stroke-ink" strokeWidth={1.4} />
      {Array.from({ length: across - 1 }, (_, n) => ((n + 1) * wide) / across).map((x) => (
        <line key={x} x1={x} x2={x} y1={0} y2={tall} strokeDasharray="5 3" />
      ))}
      {Array.from({ length: down - 1 }, (_, n) => ((n + 1) * tall) / down).map((y) => (
        <line key={y} x1={0} x2={wide} y1={y} y2={y} strokeDasharray="5 3" />
      ))}
    </g>
  );
}
