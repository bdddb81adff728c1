import { type Aim, type Comes, sureness, type Way } from "../../logic/aim";
import { fine, span } from "../../logic/format";

interface WayThereProps {
  way: Way;
  title: string;
  now: Comes;
  aim: Aim;
  wide: boolean;
  /** What the press says, and whether it is pressed already. */
  press: string;
  busy: boolean;
  onTake: () => void;
}

/** One way: what it changes, what comes of it beside what it was, and what it costs elsewhere. */
export function WayThere({ way, title, now, aim, wide, press, busy, onTake }: WayThereProps) {
  return (
    <article aria-label={title} className="flex flex-col gap-2 border-t-4 border-enamel pt-2">
      <div className="flex flex-wrap items-center justify-between gap-2">
        <h3 className="text-xl font-bold">{title}</h3>
        <button
          type="button"
          className="press press-main min-h-9"
          aria-label={`${press}: ${title}`}
          disabled={busy}
          onClick={onTake}
        >
          {press}
        </button>
      </div>
      <div className="flex flex-wrap gap-x-8 gap-y-2">
        <ul className="min-w-0 grow basis-48 text-lg leading-snug font-semibold">
          {way.changes.map((change) => (
            <li key={change} className="border-b border-line py-0.5">
              {change}
            </li>
          ))}
        </ul>
        <div className="min-w-0 grow basis-48">
          <BeforeAfter now={now} then={way.comes} aim={aim} wide={wide} />
          {wide && (
            <p className="text-[0.9375rem]">
              {aim.width_mm && way.comes.likely !== null
                ? `Eight in ten between ${span(way.comes.low_mm)} and ${span(way.comes.high_mm)}: ${sureness(way.comes.likely)}.`
                : `Eight in ten between ${span(way.comes.low_mm)} and ${span(way.comes.high_mm)}.`}
            </p>
          )}
        </div>
      </div>
      {way.costs.length > 0 && (
        <div className="text-[0.9375rem]">
          <h4 className="text-soft">Elsewhere</h4>
          <ul className="list-disc pl-5">
            {way.costs.map((cost) => (
              <li key={cost}>{cost}</li>
            ))}
          </ul>
        </div>
      )}
    </article>
  );
}

interface BeforeAfterProps {
  now: Comes;
  then: Comes;
  aim: Aim;
  wide: boolean;
}

/** The figures as they are and as they would be; those that are wished stand out. */
function BeforeAfter({ now, then, aim, wide }: BeforeAfterProps) {
  const rows: [label: string, was: string, is: string, wished: boolean][] = [
    ["Wide", span(now.width_mm), span(then.width_mm), Boolean(aim.width_mm)],
    ["High", fine(now.height_mm, 1), fine(then.height_mm, 1), Boolean(aim.height_mm)],
    ["Minutes", minutes(now), minutes(then), Boolean(aim.minutes)],
    ["Sugar, baked", percent(now), percent(then), aim.sugar_pct != null],
    ["Keeps", days(now), days(then), aim.keeps_days != null],
  ];
  return (
    <table className="w-full text-[0.9375rem]">
      <thead className="sr-only">
        <tr>
          <th scope="col">What</th>
          <th scope="col">now</th>
          <th scope="col">then</th>
        </tr>
      </thead>
      <tbody>
        {rows
          .filter(([label]) => wide || label !== "Wide")
          .map(([label, was, is, asked]) => (
            <tr key={label} className={was === is ? "text-soft" : ""}>
              <th scope="row" className="text-left font-normal">
                {label}
              </th>
              <td className="text-right whitespace-nowrap">{was}</td>
              <td className={`pl-3 text-right whitespace-nowrap ${asked ? "font-bold" : ""}`}>
                {was === is ? "same" : is}
              </td>
            </tr>
          ))}
      </tbody>
    </table>
  );
}

const minutes = (comes: Comes): string => `${Math.round(comes.minutes)} min`;
const percent = (comes: Comes): string => `${Math.round(comes.sugar_pct)} %`;
const days = (comes: Comes): string => `${Math.round(comes.keeps_days)} days`;
