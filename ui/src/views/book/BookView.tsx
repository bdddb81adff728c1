import { useQuery } from "@tanstack/react-query";
import { Tabs } from "radix-ui";
import { useState } from "react";
import { Link, useSearchParams } from "react-router";
import type { BakingSession, Dough } from "../../api/client";
import { span, spanBetween, wider } from "../../logic/format";
import {
  bakedSessionQuery,
  bakesQuery,
  bookWordsQuery,
  doughQuery,
  foreseenQuery,
  type PhotoOf,
} from "../../logic/queries";
import { PlotExample } from "../../parts/examples/PlotExample";
import { ToStand } from "../../parts/examples/ToStand";
import { Notice } from "../../parts/Notice";
import { Term } from "../../parts/Term";
import { BakeList } from "./BakeList";
import type { BookWords } from "./changes";
import { Lessons } from "./Lessons";
import { MeasuredPlot } from "./MeasuredPlot";
import { NextToClose } from "./NextToClose";
import { type ByPhoto, TrayByPhoto } from "./photo/TrayByPhoto";
import { RecordForm } from "./RecordForm";
import { SideBySide } from "./SideBySide";
import { TroubleFinder } from "./TroubleFinder";
import { usePair } from "./usePair";

export default function BookView({ doughId }: { doughId: number }) {
  const [params] = useSearchParams();
  const dough = useQuery(doughQuery(doughId));
  const words = useQuery(bookWordsQuery);
  const session = useQuery(bakedSessionQuery(doughId, Number(params.get("session")) || null));
  const problem = dough.error ?? session.error ?? words.error;
  if (problem && !(dough.data && words.data && session.data !== undefined)) {
    return (
      <div className="p-6">
        <Notice problem={problem} />
      </div>
    );
  }
  if (!dough.data || !words.data || session.data === undefined)
    return <p className="p-6 text-soft">One moment…</p>;
  // Another dough of a session begins with a form of its own.
  const of = `${doughId} ${session.data?.id}`;
  return <BookPage key={of} dough={dough.data} session={session.data} words={words.data} />;
}

const PAGES = [
  ["bakes", "Bakes"],
  ["trouble", "Trouble finder"],
  ["learnt", "What was learnt"],
] as const;

const TAB =
  "min-h-10 px-3 text-lg text-soft hover:text-ink data-[state=active]:bg-ink data-[state=active]:font-semibold data-[state=active]:text-paper";

interface BookPageProps {
  dough: Dough;
  session: BakingSession | null;
  words: BookWords;
}

function BookPage({ dough, session, words }: BookPageProps) {
  const bakes = useQuery(bakesQuery(dough.id));
  const ready = dough.card.lines.length > 0;
  const foreseen = useQuery(foreseenQuery(dough.id, dough.tray, [], ready));
  const width = foreseen.data?.width;
  const [photo, setPhoto] = useState<File | null>(null);
  const [photoOf, setPhotoOf] = useState<PhotoOf | null>(null);
  const [taken, setTaken] = useState<ByPhoto | null>(null);
  const [page, setPage] = useState<string>("bakes");
  const [trouble, setTrouble] = useState<string | null>(null);
  const [troubleBake, setTroubleBake] = useState<number | null>(null);
  const all = bakes.data ?? [];
  const { picked, pick, pair } = usePair(all);
  const why = (key: string, bakeId: number) => {
    setTrouble(key);
    setTroubleBake(bakeId);
    setPage("trouble");
    window.scrollTo({ top: 0 });
  };
  return (
    <div className="grid grid-cols-1 flex-1 content-start gap-x-8 gap-y-6 p-5 max-sm:p-3 lg:grid-cols-[25rem_minmax(0,1fr)]">
      <div className="flex flex-col gap-4">
        <div>
          <h1 className="text-2xl leading-tight font-bold">{dough.card.name}</h1>
          {width && (
            <p className="mt-1 text-lg" data-figure="next">
              Next time: <strong>{span(width.middle_mm)}</strong>,{" "}
              {spanBetween(width.low_mm, width.high_mm)} in <Term of="band">eight of ten</Term>.{" "}
              {width.bakes > 0
                ? `Shifted by ${wider(width.learnt_mm)} from ${width.bakes} of your bakes.`
                : "Nothing measured of this dough yet."}
            </p>
          )}
          <Notice problem={foreseen.error} />
        </div>
        <RecordForm
          dough={dough}
          session={session}
          words={words}
          photo={photo}
          taken={taken}
          onPhoto={(chosen, of) => {
            setTaken(null);
            setPhoto(chosen);
            setPhotoOf(chosen && of);
          }}
          onByHand={() => setTaken(null)}
          onTrouble={why}
        />
        {session && <NextToClose session={session} doughId={dough.id} />}
      </div>
      <div className="flex min-w-0 flex-col gap-4">
        {photo && photoOf && (
          <TrayByPhoto
            key={`${photo.name} ${photo.lastModified} ${photoOf.tray}`}
            of={photoOf}
            photo={photo}
            colours={words.colours}
            isHidden={taken !== null}
            onUse={setTaken}
            onClose={() => setPhotoOf(null)}
          />
        )}
        <Tabs.Root value={page} onValueChange={setPage}>
          <div className="flex flex-wrap items-center justify-between gap-x-4 border-b-2 border-ink">
            <Tabs.List aria-label="Of the book" className="flex flex-wrap gap-x-1">
              {PAGES.map(([key, label]) => (
                <Tabs.Trigger key={key} value={key} className={TAB}>
                  {label}
                </Tabs.Trigger>
              ))}
            </Tabs.List>
            <Link to="/book" className="underline">
              The whole book
            </Link>
          </div>
          <Tabs.Content value="bakes" className="flex flex-col gap-5 pt-4">
            <Notice problem={bakes.error} />
            {bakes.data?.length === 0 && (
              <ToStand example={<PlotExample />}>
                Each bake will stand here as a dot beside what was foreseen, and the band narrows as
                the book fills. Measure three or four pieces across with a ruler and write them
                down: the next prediction follows them.
              </ToStand>
            )}
            {pair && <SideBySide pair={pair} words={words} />}
            {all.length > 0 && (
              <>
                <MeasuredPlot bakes={all} />
                <BakeList bakes={all} words={words} picked={picked} onPick={pick} onTrouble={why} />
              </>
            )}
          </Tabs.Content>
          <Tabs.Content value="trouble" className="pt-4">
            <TroubleFinder
              dough={dough}
              bakes={all}
              words={words}
              trouble={trouble}
              bakeId={troubleBake}
              onTrouble={(key, bakeId) => {
                setTrouble(key);
                setTroubleBake(bakeId);
              }}
            />
          </Tabs.Content>
          <Tabs.Content value="learnt" className="pt-4">
            <Lessons />
          </Tabs.Content>
        </Tabs.Root>
      </div>
    </div>
  );
}
