import { useQuery } from "@tanstack/react-query";
import type { Schemas } from "../../api/client";
import { writeMoment } from "../../logic/moments";
import { copiesQuery, useMakeCopy } from "../../logic/queries";
import { Notice } from "../../parts/Notice";

type Copy = Schemas["Copy"];

const WHY: Record<Copy["why"], string> = {
  daily: "made by itself",
  before: "before an upgrade",
  asked: "asked for",
};

const sized = (bytes: number): string =>
  bytes < 1e6 ? `${Math.ceil(bytes / 1000)} kB` : `${(bytes / 1e6).toFixed(1)} MB`;

const held = (copy: Copy): string =>
  Object.entries(copy.holds)
    .filter(([, number]) => number > 0)
    .map(([what, number]) => `${number} ${what}`)
    .join(", ");

/** The copies of all that there is, to look at, to make and to take elsewhere. */
export function Copies() {
  const copies = useQuery(copiesQuery);
  const make = useMakeCopy();
  return (
    <section aria-label="Copies" className="flex flex-col gap-2">
      <h2 className="heading">Copies of all that you have</h2>
      <p>
        One a day is made by itself where something has changed; the last seven are kept, and one of
        each of four weeks before. Keep one on another disk, too.
      </p>
      {copies.data && copies.data.length > 0 && (
        <ul>
          {copies.data.map((copy) => (
            <li key={copy.name} className="flex items-center gap-x-3 border-b border-line py-1.5">
              <span className="min-w-0 flex-1">
                <strong>{writeMoment(copy.at)}</strong>, {WHY[copy.why]}, {sized(copy.size)}
                {held(copy) && `: ${held(copy)}`}
              </span>
              <a
                className="press min-h-9 flex-none"
                href={`/api/copies/${copy.name}`}
                aria-label={`Save the copy of ${writeMoment(copy.at)}`}
                download
              >
                Save
              </a>
            </li>
          ))}
        </ul>
      )}
      {copies.data?.length === 0 && (
        <p>There is none yet: the first is made a minute after a start.</p>
      )}
      <div>
        <button
          type="button"
          className="press"
          disabled={make.isPending}
          onClick={() => make.mutate()}
        >
          Make a copy now
        </button>
      </div>
      <p className="text-[0.9375rem] text-soft">
        To have one back: stop the app, then <code>finebatch restore FILE.zip</code>. What was there
        is moved aside, not thrown away.
      </p>
      <Notice problem={make.error ?? copies.error} />
    </section>
  );
}
