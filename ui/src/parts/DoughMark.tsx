/** How each dough of a session is told from the others: a hue, a letter and a hatch. */

const HUES = 8;
const place = (letter: string): number => Math.max(letter.charCodeAt(0) - 65, 0);

export const hueOf = (letter: string): string => `var(--color-dough-${(place(letter) % HUES) + 1})`;

const HATCHES = [
  "M0 8 L8 0",
  "M0 0 L8 8",
  "M0 4 H8",
  "M4 0 V8",
  "M0 8 L8 0 M0 0 L8 8",
  "M4 3 v2 M0 7 v1 M0 0 v1 M8 7 v1",
];

export const hatchOf = (letter: string): string => `url(#hatch-${letter})`;

/** The hatches of these doughs, for an SVG's definitions. */
export function Hatches({ letters }: { letters: string[] }) {
  return (
    <defs>
      {letters.map((letter) => (
        <pattern
          key={letter}
          id={`hatch-${letter}`}
          width="8"
          height="8"
          patternUnits="userSpaceOnUse"
        >
          <rect width="8" height="8" style={{ fill: hueOf(letter) }} />
          <path
            d={HATCHES[place(letter) % HATCHES.length]}
            className="stroke-paper"
            strokeWidth="1.1"
            opacity="0.3"
          />
        </pattern>
      ))}
    </defs>
  );
}

/** A dough's letter on its hue and hatch. */
export function DoughMark({ letter, size = 28 }: { letter: string; size?: number }) {
  return (
    <svg aria-hidden="true" width={size} height={size} viewBox="0 0 28 28" className="flex-none">
      <Hatches letters={[letter]} />
      <rect width="28" height="28" fill={hatchOf(letter)} />
      <text
        x="14"
        y="20"
        textAnchor="middle"
        fontSize="17"
        fontWeight="700"
        className="fill-paper"
        stroke={hueOf(letter)}
        strokeWidth="3"
        paintOrder="stroke"
      >
        {letter}
      </text>
    </svg>
  );
}
