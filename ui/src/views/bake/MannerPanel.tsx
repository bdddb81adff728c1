import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, body } from "../../api/client";
import { ringingQuery } from "../../logic/queries";
import { namesApart } from "../../logic/screenName";
import { askForNotices, setManner, useManner } from "../../parts/calling/manner";
import { useAudible } from "../../parts/calling/sounds";
import { thisScreen } from "../../parts/calling/thisScreen";
import { Select } from "../../parts/Select";

interface MannerPanelProps {
  whole: boolean;
  onWhole: () => void;
  onGiveUp: () => void;
}

/** How this screen makes itself heard and seen, and the end of it all. */
export function MannerPanel({ whole, onWhole, onGiveUp }: MannerPanelProps) {
  const manner = useManner();
  const audible = useAudible();
  const [refused, setRefused] = useState(false);
  const turnNotices = () => {
    if (manner.notices) setManner({ notices: false });
    else void askForNotices().then((allowed) => setRefused(!allowed));
  };
  return (
    <section aria-label="Manner" className="flex flex-wrap items-end gap-2">
      <button type="button" className="press min-h-11" onClick={onWhole}>
        {whole ? "Leave the whole screen" : "Whole screen"}
      </button>
      <button
        type="button"
        className="press min-h-11"
        aria-pressed={manner.sound}
        onClick={() => setManner({ sound: !manner.sound })}
      >
        {manner.sound ? "Sound is on" : "Sound is off"}
      </button>
      <button
        type="button"
        className="press min-h-11"
        aria-pressed={manner.voice}
        onClick={() => setManner({ voice: !manner.voice })}
      >
        {manner.voice ? "It speaks" : "It does not speak"}
      </button>
      <button
        type="button"
        className="press min-h-11"
        aria-pressed={manner.notices}
        onClick={turnNotices}
      >
        {manner.notices ? "Notices are on" : "Notices are off"}
      </button>
      <WhoRings />
      <button type="button" className="press min-h-11" onClick={onGiveUp}>
        Give this session up
      </button>
      <p role="status" className="w-full text-[0.9375rem] text-soft">
        {manner.sound && !audible && "Silent until something is pressed in this window. "}
        {refused &&
          "The browser shows no notices of this address: allow them in its settings, then press again."}
      </p>
    </section>
  );
}

const EVERY = "";

/** Which of the screens that are open rings; nothing where there is but this one. */
function WhoRings() {
  const queries = useQueryClient();
  const { id } = thisScreen();
  const asked = ringingQuery(thisScreen());
  const { data } = useQuery({ ...asked, enabled: false });
  const choose = useMutation({
    mutationFn: (screen: string) =>
      body(api.PUT("/api/ringing", { body: { screen: screen === EVERY ? null : screen } })),
    onSuccess: (ringing) => queries.setQueryData(asked.queryKey, ringing),
  });
  if (!data || (data.screens.length < 2 && data.chosen === null)) return null;
  const names = namesApart(data.screens).map(
    ([screen, name]) =>
      [screen, screen === id ? `Only this one, ${name}` : `Only ${name}`] as const,
  );
  return (
    <Select
      label="Which screen rings"
      className="min-h-11"
      value={data.chosen ?? EVERY}
      options={[[EVERY, "Every one"], ...names]}
      onChange={(screen) => choose.mutate(screen)}
    />
  );
}
