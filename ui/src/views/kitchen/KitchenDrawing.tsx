import type { Kitchen } from "../../api/client";

const WIDTH = 560;
const HEIGHT = 190;
const MM = 0.16;

/** The kitchen to the same scale: ovens with their shelves, and the sheets that go in. */
export function KitchenDrawing({ kitchen }: { kitchen: Kitchen }) {
  const ovens = [kitchen.shelves, kitchen.planning.second_oven].filter((n) => n > 0);
  const wide = kitchen.sheet_width_mm * MM;
  const deep = kitchen.sheet_depth_mm * MM;
  const box = Math.max(wide + 30, 110);
  const sheetsX = ovens.length * (box + 24) + 10;
  return (
    <svg
      role="img"
      aria-label={`${ovens.length === 1 ? "One oven" : "Two ovens"} with ${ovens.join(" and ")} shelves, and ${kitchen.sheets} sheets of ${kitchen.sheet_width_mm} by ${kitchen.sheet_depth_mm} mm.`}
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="w-full max-w-2xl"
    >
      {ovens.map((shelves, n) => {
        const x = n * (box + 24) + 2;
        return (
          // biome-ignore lint/suspicious/noArrayIndexKey: an oven is its place
          <g key={n}>
            <rect
              x={x}
              y={10}
              width={box}
              height={150}
              className="fill-wash stroke-ink"
              strokeWidth={2.5}
            />
            {Array.from({ length: shelves }, (_, k) => {
              const y = 10 + ((k + 1) * 150) / (shelves + 1);
              return (
                // biome-ignore lint/suspicious/noArrayIndexKey: a shelf is its place
                <g key={k}>
                  <line x1={x + 6} x2={x + box - 6} y1={y} y2={y} className="stroke-ink" />
                  <rect
                    x={x + (box - wide) / 2}
                    y={y - 6}
                    width={wide}
                    height={5}
                    className="fill-enamel"
                  />
                </g>
              );
            })}
            <text x={x + box / 2} y={180} textAnchor="middle" fontSize={14} className="fill-ink">
              {shelves} {shelves === 1 ? "shelf" : "shelves"}
            </text>
          </g>
        );
      })}
      {Array.from({ length: kitchen.sheets }, (_, n) => (
        <rect
          // biome-ignore lint/suspicious/noArrayIndexKey: like sheets
          key={n}
          x={sheetsX + n * 12}
          y={24 + n * 8}
          width={wide}
          height={deep}
          className="fill-sheet stroke-ink"
        />
      ))}
      <text
        x={sheetsX + ((kitchen.sheets - 1) * 12 + wide) / 2}
        y={180}
        textAnchor="middle"
        fontSize={14}
        className="fill-ink"
      >
        {kitchen.sheets} {kitchen.sheets === 1 ? "sheet" : "sheets"}, {kitchen.sheet_width_mm / 10}{" "}
        × {kitchen.sheet_depth_mm / 10} cm
      </text>
    </svg>
  );
}
