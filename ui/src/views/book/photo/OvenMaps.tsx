import { useQuery } from "@tanstack/react-query";
import type { Schemas } from "../../../api/client";
import { signed } from "../../../logic/format";
import { kitchenQuery, ovenMapsQuery } from "../../../logic/queries";
import { Notice } from "../../../parts/Notice";
import { useAtTheOven } from "../../../parts/useAtTheOven";
import { useTakeMap } from "../changes";

type OvenMap = Schemas["OvenMap"];

/** So many steps darker or paler a field is drawn at its strongest. */
const MOST_STEPS = 1.5;
const ROWS = ["at the back", "in the middle", "at the door"];
const PLACES = ["left", "middle", "right"];

/** Where each oven browns and spreads most, by the photographed trays. */
export function OvenMaps() {
  const maps = useQuery(ovenMapsQuery);
  const kitchen = useQuery(kitchenQuery);
  const take = useTakeMap();
  const atTheOven = useAtTheOven();
  const planning = kitchen.data?.planning;
  return (
    <section aria-labelledby="oven-map" className="flex flex-col gap-2">
      <h2 id="oven-map" className="heading">
        The oven's map
      </h2>
      <Notice problem={maps.error ?? take.error} />
      {maps.data?.length === 0 && (
        <p className="text-soft">
          Measure a tray by its photo under What came out: which side browns and spreads more is
          drawn here, over all trays that were not turned half-way.
        </p>
      )}
      {maps.data?.map((map) => {
        const nature = map.oven === 1 ? planning?.oven : planning?.second?.nature;
        const isKnown =
          nature?.hot_side === map.hot_side &&
          (!map.hot_corners || map.oven !== 1 || kitchen.data?.hot_corners === true);
        return (
          <div key={map.oven} className="flex flex-wrap items-start gap-x-6 gap-y-3">
            <MapDrawing map={map} />
            <div className="flex min-w-60 max-w-md flex-1 flex-col items-start gap-2">
              <p className="text-lg">
                {maps.data.length > 1 && `The ${map.oven === 1 ? "first" : "second"} oven. `}
                <strong>{browns(map)}</strong>
              </p>
              <p className="text-soft">
                From {map.trays} {map.trays === 1 ? "tray" : "trays"} by photo, each piece beside
                the others of its tray. Steps are those of the colour strip.
              </p>
              {isKnown && <p>The kitchen knows: trays are turned and placed by it.</p>}
              {!isKnown && !atTheOven && (
                <button
                  type="button"
                  className="press"
                  disabled={take.isPending || (map.oven === 2 && !planning?.second)}
                  onClick={() => take.mutate(map.oven)}
                >
                  Turn and place trays by this
                </button>
              )}
            </div>
          </div>
        );
      })}
    </section>
  );
}

function browns(map: OvenMap): string {
  const corners = map.hot_corners
    ? " Its four corners brown first: they are better left free."
    : "";
  if (map.hot_side === "even") return `No side of it browns before the others.${corners}`;
  const where = map.hot_side === "front" ? "at the door" : `at the ${map.hot_side}`;
  return `It browns first ${where}: ${map.hot_side_steps.toFixed(1)} steps before the other side.${corners}`;
}

/** The oven's floor from above, its door below: darker where pieces come out darker. */
function MapDrawing({ map }: { map: OvenMap }) {
  return (
    <table className="border-2 border-ink text-center">
      <caption className="sr-only">
        Steps darker and percent wider than the tray, from above
      </caption>
      <thead>
        <tr>
          <td />
          {PLACES.map((place) => (
            <th
              key={place}
              scope="col"
              className="px-2 py-1 text-[0.9375rem] font-normal text-soft"
            >
              {place}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {map.fields.map((row, y) => (
          <tr key={ROWS[y]}>
            <th scope="row" className="px-2 text-right text-[0.9375rem] font-normal text-soft">
              {ROWS[y]}
            </th>
            {row.map((field, x) => (
              <td key={PLACES[x]} className="h-20 w-24 border border-line bg-sheet p-1">
                {field.pieces === 0 ? (
                  <span className="text-soft">no piece</span>
                ) : (
                  <>
                    <svg viewBox="0 0 100 12" aria-hidden="true" className="mb-1 h-3 w-full">
                      <rect x={49} y={0} width={2} height={12} className="fill-line" />
                      <rect
                        x={50 + Math.min(bar(field.steps), 0)}
                        y={2}
                        width={Math.abs(bar(field.steps))}
                        height={8}
                        className={field.steps > 0 ? "fill-brown" : "fill-pale"}
                      />
                    </svg>
                    <strong className="block text-lg leading-tight">{signed(field.steps)}</strong>
                    <span className="block text-[0.9375rem] leading-tight">
                      {signed(field.wider_pct)} % wide
                    </span>
                  </>
                )}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

const bar = (steps: number): number => 48 * Math.min(Math.max(steps / MOST_STEPS, -1), 1);
