import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Activity, BakingSession } from "../../api/client";
import { fine } from "../../logic/format";
import { AS_MEASURED, loadedWords, mean } from "../../logic/photo";
import { kindOf, kindsQuery, type PhotoOf } from "../../logic/queries";
import { DropFile } from "../../parts/DropFile";
import { Notice } from "../../parts/Notice";
import { PhotoDrawing } from "../../parts/photo/PhotoDrawing";
import { PhotoPresses } from "../../parts/photo/PhotoPresses";
import { useMeasured } from "../../parts/photo/useMeasured";

const LOADED = new Set<Activity["kind"]>(["portion", "load"]);

/** A loaded tray looked at by a photo, before it goes in: portions, gaps, what will touch. */
export function LoadedTray({ session, job }: { session: BakingSession; job: Activity }) {
  const kinds = useQuery(kindsQuery);
  const [photo, setPhoto] = useState<{ file: File; tray: string } | null>(null);
  const tray = session.trays.find((one) => one.name === job.tray);
  const dough = session.doughs.find((one) => one.letter === job.dough);
  if (!tray || dough?.dough_id == null || !LOADED.has(job.kind)) return null;
  if (!kindOf(kinds.data, dough.kind)?.says.by_photo) return null;
  const look = (file: File) => setPhoto({ file, tray: tray.name });
  return (
    <section aria-label="The loaded tray by a photo" className="border-y border-line py-2">
      <div className="flex flex-wrap items-center gap-3">
        <PhotoPresses onPhoto={look} />
        <DropFile says={`Drop the photo of tray ${tray.name}`} onFile={look} />
        <p className="text-soft">From straight above: are the portions even, will any touch?</p>
      </div>
      {photo?.tray === tray.name && (
        <Looked
          key={`${photo.file.name} ${photo.file.lastModified}`}
          of={{ doughId: dough.dough_id, sessionId: session.id, tray: tray.name, raw: true }}
          photo={photo.file}
        />
      )}
    </section>
  );
}

function Looked({ of, photo }: { of: PhotoOf; photo: File }) {
  const [picked, setPicked] = useState<string | null>(null);
  const { found, problem, isLooking, corners, setCorners } = useMeasured(of, photo, null);
  const one = found?.pieces.find((piece) => piece.piece.name === picked);
  const planned = found?.foreseen_mm ?? 0;
  return (
    <div className="flex flex-col gap-2 pt-2">
      <Notice problem={problem} />
      <div role="status" className="text-2xl max-sm:text-xl">
        {isLooking && <p>Looking for the sheet and its portions …</p>}
        {found && (
          <p>
            <strong>
              {found.pieces.length}
              {found.expected ? ` of ${found.expected}` : ""} portions
            </strong>
            {found.pieces.length > 0 &&
              `, ${fine(mean(found.pieces.map((piece) => piece.piece.width_mm)))} wide in the mean; planned are ${fine(planned)}.`}
          </p>
        )}
        {found?.raw && loadedWords(found.raw).map((words) => <p key={words}>{words}</p>)}
        {one && (
          <p>
            {one.piece.name}: {fine(one.piece.width_mm)} wide
            {one.gap_mm !== null && `, ${fine(one.gap_mm)} to the next`}.
          </p>
        )}
        {found && found.found !== "sure" && (
          <p>Drag the four marks to where the sheet's flat bottom ends.</p>
        )}
      </div>
      <PhotoDrawing
        photo={photo}
        measured={found}
        corners={corners}
        right={AS_MEASURED}
        picked={picked}
        onCorners={setCorners}
        onPick={setPicked}
      />
    </div>
  );
}
