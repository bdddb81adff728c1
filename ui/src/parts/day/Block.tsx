import { hatchOf, hueOf } from "../DoughMark";

interface BlockProps {
  from: number;
  to: number;
  top: number;
  height: number;
  /** What may stand in it, the longest first; the first that fits does. */
  texts: string[];
  letter: string;
  second?: string;
  heavy?: boolean;
  quiet?: boolean;
}

export const wide = (text: string, size: number): number => text.length * size * 0.56 + 6;

/** A block of time; its words stand in it only where they fit. */
export function Block(props: BlockProps) {
  const { from, to, top, height, texts, letter, second, heavy, quiet } = props;
  const width = Math.max(to - from, 2);
  const size = Math.min(13, height - 1);
  const text = texts.find((t) => width >= wide(t, size));
  const two = text !== undefined && second !== undefined && width >= wide(second, 12);
  const ink = quiet ? "fill-ink" : "fill-paper";
  const halo = quiet ? undefined : hueOf(letter);
  return (
    <g>
      <rect
        x={from}
        y={top}
        width={width}
        height={height}
        fill={quiet ? hueOf(letter) : hatchOf(letter)}
        fillOpacity={quiet ? 0.22 : 1}
        className={heavy ? "stroke-ink" : undefined}
        strokeWidth={heavy ? 2.5 : 0}
      />
      {text !== undefined && (
        <text
          x={from + width / 2}
          y={top + (two ? height * 0.42 : height / 2 + size * 0.36)}
          textAnchor="middle"
          fontSize={size}
          fontWeight={650}
          className={ink}
          stroke={halo}
          strokeWidth={2.5}
          paintOrder="stroke"
        >
          {text}
        </text>
      )}
      {two && (
        <text
          x={from + width / 2}
          y={top + height * 0.82}
          textAnchor="middle"
          fontSize={12.5}
          className={ink}
          stroke={halo}
          strokeWidth={2.5}
          paintOrder="stroke"
        >
          {second}
        </text>
      )}
    </g>
  );
}
