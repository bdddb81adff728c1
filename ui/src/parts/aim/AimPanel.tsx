import { useQuery } from "@tanstack/react-query";
import type { Dough, TraySetting } from "../../api/client";
import { type Aim, isEmpty, NO_WISH, titled, type Way, withFigure } from "../../logic/aim";
import { aimQuery } from "../../logic/queries";
import { Notice } from "../Notice";
import { useRemembered } from "../useRemembered";
import { useSettled } from "../useSettled";
import { AimDrawing } from "./AimDrawing";
import { WayThere } from "./WayThere";
import { WishFields } from "./WishFields";

interface AimPanelProps {
  dough: Dough;
  setting: TraySetting;
  /** Whether a piece has a width of its own. */
  wide: boolean;
  press: string;
  busy: boolean;
  problem: Error | null;
  onTake: (way: Way, aim: Aim, said: string) => void;
}

/** So long a wish stands still before all the ways are looked for. */
const STILL_MS = 350;

const COLUMNS = ["", "", "sm:grid-cols-2", "sm:grid-cols-2 xl:grid-cols-3"];

/** From what shall come out back to the dough: what is wished, and the ways there. */
export function AimPanel(props: AimPanelProps) {
  const { dough, setting, wide, press, busy, problem, onTake } = props;
  const [aim, setAim] = useRemembered<Aim>(`aim ${dough.id}`, NO_WISH);
  const settled = useSettled(aim, STILL_MS);
  const coarse = useQuery(aimQuery(dough, setting, aim, true, true));
  const whole = useQuery(aimQuery(dough, setting, aim, false, settled === aim && !isEmpty(aim)));
  const isWhole = whole.isSuccess && !whole.isPlaceholderData && settled === aim;
  const found = isWhole && !isEmpty(aim) ? whole.data : coarse.data;
  const nearest = found?.ways[0];
  return (
    <section aria-label="Aim" className="flex flex-col gap-3">
      <h2 className="heading">What shall come out?</h2>
      <WishFields aim={aim} wide={wide} onAim={setAim} />
      <Notice problem={whole.error ?? coarse.error ?? problem} />
      {found && (
        <AimDrawing
          now={found.now}
          then={nearest?.comes ?? found.now}
          aim={aim}
          wide={wide}
          onFigure={(figure, value) => setAim((before) => withFigure(before, figure, value))}
        />
      )}
      <div aria-live="polite" className="flex flex-col gap-3">
        {isEmpty(aim) ? (
          <p className="text-lg text-soft">
            Drag the piece as wide and as high as it shall be, or fill in what matters. What is left
            empty stays as it comes.
          </p>
        ) : (
          <>
            {isWhole &&
              found?.why.map((why) => (
                <p key={why} className="text-lg font-semibold text-caution">
                  {why}
                </p>
              ))}
            {isWhole && found?.met && found.ways.length === 0 && (
              <p className="text-lg font-semibold">Nothing to change: it comes out so already.</p>
            )}
            {isWhole && !found?.met && nearest && (
              <p className="text-lg">The nearest that this dough comes to:</p>
            )}
          </>
        )}
      </div>
      {!isEmpty(aim) && found && (
        <div className={`grid grid-cols-1 gap-x-6 gap-y-5 ${COLUMNS[found.ways.length] ?? ""}`}>
          {titled(found.ways).map(({ way, title }) => (
            <WayThere
              key={title}
              way={way}
              title={title}
              now={found.now}
              aim={aim}
              wide={wide}
              press={press}
              busy={busy}
              onTake={() => {
                setAim(NO_WISH);
                onTake(way, aim, found.said);
              }}
            />
          ))}
        </div>
      )}
    </section>
  );
}
