import { rulerMarks } from "../logic/marks";

interface RulerProps {
  /** Length in mm; numbers are centimetres, or inches. */
  length: number;
  down?: boolean;
  fontSize?: number;
}

/** A ruler in user units of a millimetre, its marks away from the drawing. */
export function Ruler({ length, down = false, fontSize = 13.5 }: RulerProps) {
  const marks = rulerMarks(length, "coarse");
  return (
    <g className="stroke-ink" strokeWidth={0.7}>
      {marks.map(({ mm, number }) => {
        const tick = number === null ? 4 : 8;
        return down ? (
          <line key={mm} x1={-3} x2={-3 - tick} y1={mm} y2={mm} />
        ) : (
          <line key={mm} x1={mm} x2={mm} y1={-3} y2={-3 - tick} />
        );
      })}
      {marks
        .filter(({ number }) => number !== null)
        .map(({ mm, number }) => (
          <text
            key={mm}
            x={down ? -13 : mm}
            y={down ? mm + fontSize * 0.35 : -14}
            textAnchor={down ? "end" : "middle"}
            fontSize={fontSize}
            stroke="none"
            className="fill-ink"
          >
            {number}
          </text>
        ))}
    </g>
  );
}

interface DimensionProps {
  from: [number, number];
  to: [number, number];
  text: string;
  fontSize?: number;
}

/** A dimension line along an edge, across or down, with its figure in the middle. */
export function Dimension({ from, to, text, fontSize = 13.5 }: DimensionProps) {
  const down = from[0] === to[0];
  const [mx, my] = [(from[0] + to[0]) / 2, (from[1] + to[1]) / 2];
  const half = (text.length * fontSize * 0.56) / 2 + 2;
  const span = down ? Math.abs(to[1] - from[1]) : Math.abs(to[0] - from[0]);
  const inside = !down && span > 2 * half + 6;
  return (
    <g className="stroke-enamel" strokeWidth={0.9}>
      {inside ? (
        <>
          <line x1={from[0]} y1={from[1]} x2={mx - half} y2={my} />
          <line x1={mx + half} y1={my} x2={to[0]} y2={to[1]} />
        </>
      ) : (
        <line x1={from[0]} y1={from[1]} x2={to[0]} y2={to[1]} />
      )}
      {[from, to].map(([x, y]) => (
        <line
          key={`${x} ${y}`}
          x1={down ? x - 4 : x}
          x2={down ? x + 4 : x}
          y1={down ? y : y - 4}
          y2={down ? y : y + 4}
        />
      ))}
      <text
        x={down ? mx + 5 : mx}
        y={inside || down ? my + fontSize * 0.35 : my + fontSize + 3}
        textAnchor={down ? "start" : "middle"}
        fontSize={fontSize}
        fontWeight={650}
        stroke="none"
        className="fill-enamel"
      >
        {text}
      </text>
    </g>
  );
}
