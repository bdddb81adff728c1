import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import {
  api,
  body,
  type CardBody,
  type Schemas,
  type TraySetting,
  type Words,
} from "../../api/client";
import { clock, date, span } from "../../logic/format";
import { compareQuery, versionQuery, versionsQuery } from "../../logic/queries";
import { forget } from "../../logic/remembered";
import { Notice } from "../../parts/Notice";
import { Select } from "../../parts/Select";
import { useRemembered } from "../../parts/useRemembered";
import { SideBySide } from "./Difference";

type Version = Schemas["VersionShown"];

interface VersionsPanelProps {
  doughId: number;
  card: CardBody;
  tray: TraySetting;
  words: Words;
  onBack: (before: CardBody, reason: string) => void;
}

/** What this dough was: any two versions beside each other, and the way back to one. */
export function VersionsPanel({ doughId, card, tray, words, onBack }: VersionsPanelProps) {
  const versions = useQuery(versionsQuery(doughId));
  const all = versions.data ?? [];
  const newest = all[0]?.number ?? 1;
  const [left, setLeft] = useState<number | null>(null);
  const [right, setRight] = useState<number>(0);
  const one = left ?? all[1]?.number ?? newest;
  return (
    <div className="flex flex-col gap-5">
      <Notice problem={versions.error} />
      <ol aria-label="Versions" className="border-t-2 border-ink">
        {all.map((version) => (
          <VersionRow
            key={version.number}
            doughId={doughId}
            version={version}
            newest={version.number === newest}
            onBack={onBack}
          />
        ))}
      </ol>
      {all.length > 0 && (
        <section aria-label="Side by side" className="flex flex-col gap-3">
          <div className="flex flex-wrap items-end gap-4">
            <Select
              label="Beside each other"
              value={String(one)}
              options={all.map((v) => [String(v.number), `version ${v.number}`] as const)}
              onChange={(n) => setLeft(Number(n))}
            />
            <Select
              label="and"
              value={String(right)}
              options={[
                ["0", "as it is now"] as const,
                ...all.map((v) => [String(v.number), `version ${v.number}`] as const),
              ]}
              onChange={(n) => setRight(Number(n))}
            />
          </div>
          <Pair doughId={doughId} left={one} right={right} card={card} tray={tray} words={words} />
        </section>
      )}
    </div>
  );
}

interface VersionRowProps {
  doughId: number;
  version: Version;
  newest: boolean;
  onBack: (before: CardBody, reason: string) => void;
}

function VersionRow({ doughId, version, newest, onBack }: VersionRowProps) {
  const queries = useQueryClient();
  const path = { dough_id: doughId, number: version.number };
  const typed = `version ${doughId} ${version.number}`;
  const [reason, setReason] = useRemembered(typed, version.reason);
  const give = useMutation({
    mutationFn: () =>
      body(
        api.PUT("/api/doughs/{dough_id}/versions/{number}", { params: { path }, body: { reason } }),
      ),
    onSuccess: () => {
      forget(typed);
      return queries.invalidateQueries({
        queryKey: versionsQuery(doughId).queryKey,
        exact: true,
      });
    },
  });
  const back = useMutation({
    mutationFn: () =>
      body(api.GET("/api/doughs/{dough_id}/versions/{number}", { params: { path } })),
    onSuccess: (found) => onBack(found.card, `Back to version ${version.number}`),
  });
  return (
    <li className="grid grid-cols-[2.5rem_7rem_minmax(0,1fr)_auto] items-center gap-x-3 gap-y-1 border-b border-line py-2 max-sm:grid-cols-[2.5rem_minmax(0,1fr)]">
      <strong className="text-2xl">{version.number}</strong>
      <span className="text-[0.9375rem] text-soft">
        {date(version.at)}, {clock(version.at)}
      </span>
      <span className="max-sm:col-start-2">
        {version.said || (version.number === 1 ? "As first written" : "")}
        {version.baked && (
          <span className="block text-[0.9375rem] text-soft">
            {version.baked.bakes === 1 ? "1 bake" : `${version.baked.bakes} bakes`}
            {version.baked.width_mm !== null && `, ${span(version.baked.width_mm)} measured`}
          </span>
        )}
        <input
          aria-label={`Why version ${version.number}`}
          className="block min-h-8 w-full border-transparent px-1 text-[0.9375rem] hover:border-line"
          placeholder="why? (if you like)"
          value={reason}
          maxLength={200}
          onChange={(event) => setReason(event.target.value)}
          onBlur={() => reason !== version.reason && give.mutate()}
        />
        <Notice problem={give.error ?? back.error} />
      </span>
      {newest ? (
        <span className="max-sm:col-start-2">the latest</span>
      ) : (
        <button
          type="button"
          className="press min-h-9 max-sm:col-start-2"
          onClick={() => back.mutate()}
        >
          Back to {version.number}
        </button>
      )}
    </li>
  );
}

interface PairProps {
  doughId: number;
  left: number;
  right: number;
  card: CardBody;
  tray: TraySetting;
  words: Words;
}

function Pair({ doughId, left, right, card, tray, words }: PairProps) {
  const one = useQuery(versionQuery(doughId, left));
  const other = useQuery(versionQuery(doughId, right || undefined));
  const before = one.data?.card;
  const after = right ? other.data?.card : card;
  const found = useQuery(compareQuery(before, after, tray, doughId));
  const versions = useQuery(versionsQuery(doughId)).data ?? [];
  const baked = [left, right].map((n) => versions.find((v) => v.number === n)?.baked);
  const names: [string, string] = [`version ${left}`, right ? `version ${right}` : "as it is now"];
  return (
    <>
      <Notice problem={one.error ?? other.error ?? found.error} />
      {found.data && (
        <>
          <p>
            {found.data.said.length === 0
              ? "They bake the same."
              : found.data.said.slice(0, 6).join("; ")}
          </p>
          <SideBySide found={found.data} words={words} names={names} baked={[baked[0], baked[1]]} />
        </>
      )}
    </>
  );
}
