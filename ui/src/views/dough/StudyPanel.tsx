import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import type { Dough, Study, TraySetting } from "../../api/client";
import { contains } from "../../logic/allergens";
import type { Card, Change } from "../../logic/draft";
import { dial, mass, percent, span } from "../../logic/format";
import { studyQuery, versionQuery, versionsQuery } from "../../logic/queries";
import { SideView } from "../../parts/SideView";
import { Balance, Consequences } from "./Balance";
import { Checks } from "./Checks";
import { Marks } from "./Marks";
import { RemoveDough } from "./RemoveDough";

interface StudyPanelProps {
  dough: Dough;
  study: Study | undefined;
  tray: TraySetting;
  card: Card;
  change: (change: Change) => void;
  onOven: (oven_c: number) => Promise<void>;
  onShow: (where: string) => void;
}

/** What follows from the card: its weight, one piece of it, its balance, what does not agree. */
export function StudyPanel(props: StudyPanelProps) {
  const { dough, study, tray, card, change, onOven, onShow } = props;
  const before = useBefore(dough.id, tray);
  return (
    <aside aria-label="What follows" className="flex min-w-0 flex-col gap-4">
      <div>
        <div className="flex flex-wrap items-center justify-between gap-2">
          <p className="flex items-baseline gap-2">
            <strong className="text-4xl font-bold" data-figure="total">
              {mass(study?.weighed.total_g ?? 0)}
            </strong>
            <span className="text-lg">of dough</span>
          </p>
          <Link to={`/tray/${dough.id}`} className="press press-main">
            Portion it
          </Link>
        </div>
        {study && <BaseNote weighed={study.weighed} />}
      </div>
      {study && <Piece study={study} tray={tray} />}
      {study && (
        <Checks checks={study.checks} card={card} change={change} onOven={onOven} onShow={onShow} />
      )}
      {study?.balance && (
        <section aria-label="Balance">
          <h2 className="heading mb-2">Balance</h2>
          <Balance balance={study.balance} before={before} />
          <Consequences balance={study.balance} piece={study.piece} family={card.family} />
        </section>
      )}
      {study && <Cautions study={study} />}
      <Marks dough={dough} />
      <RemoveDough id={dough.id} name={card.name} />
    </aside>
  );
}

/** The balance of the version before the one that is being made. */
function useBefore(doughId: number, tray: TraySetting) {
  const versions = useQuery(versionsQuery(doughId));
  const number = versions.data?.[1]?.number;
  const version = useQuery(versionQuery(doughId, number));
  const study = useQuery(studyQuery(version.data?.card, tray, null));
  return number === undefined ? null : study.data?.balance;
}

function BaseNote({ weighed }: { weighed: Study["weighed"] }) {
  if (weighed.base_g === 0) {
    return (
      <p className="mt-1 border-l-4 border-caution pl-3">
        <strong className="text-caution">No flour yet.</strong> Percentages are counted against
        flour, starch and grain: add one of them.
      </p>
    );
  }
  return (
    <p className="mt-1 text-[0.9375rem]">
      100 % is <strong>{mass(weighed.base_g)}</strong> of flour, starch and grain; the whole dough
      is {percent((100 * weighed.total_g) / weighed.base_g)} %.
    </p>
  );
}

function Piece({ study, tray }: { study: Study; tray: TraySetting }) {
  const { piece } = study;
  return (
    <section aria-label="One piece">
      <h2 className="heading mb-2">One piece of it</h2>
      {piece ? (
        <>
          <SideView tray={piece} />
          <p className="mt-1 text-lg" aria-live="polite">
            {mass(piece.raw.grams)} bakes to{" "}
            <strong className="whitespace-nowrap" data-figure="width">
              {span(piece.width.middle_mm)}
            </strong>
            , {piece.minutes} min at <span className="whitespace-nowrap">{dial(tray.oven_c)}</span>;{" "}
            <strong>{piece.pieces}</strong> pieces.
          </p>
        </>
      ) : (
        <p>{study.piece_fault || "Mend the lines that are marked, and a piece shows here."}</p>
      )}
    </section>
  );
}

function Cautions({ study }: { study: Study }) {
  return (
    <section aria-label="Cautions" className="text-[0.9375rem]">
      <h2 className="heading">Allergens and cautions</h2>
      {study.allergens.length > 0 && (
        <ul className="mt-2">
          {study.allergens.map((a) => (
            <li key={a.name}>
              <strong className="text-caution">{contains([a])}</strong>{" "}
              <span className="text-soft">({a.brought_by.join(", ")})</span>
            </li>
          ))}
        </ul>
      )}
      <ul className="mt-2 flex flex-col gap-1">
        {study.cautions.map((text) => (
          <li key={text}>
            <strong className="text-caution">Caution:</strong> {text}
          </li>
        ))}
      </ul>
      <p className="mt-2 text-soft">
        Traces differ: read the labels. Follow your local food authority and the appliance’s manual.
      </p>
    </section>
  );
}
