import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link } from "react-router";
import { api, body, isElsewhere } from "../../api/client";
import { ringingQuery } from "../../logic/queries";
import { namesApart } from "../../logic/screenName";
import { MannerPresses, useRefused } from "../../parts/calling/MannerPresses";
import { useManner } from "../../parts/calling/manner";
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
  const [refused, setRefused] = useRefused();
  return (
    <section aria-label="Manner" className="flex flex-wrap items-end gap-2">
      <button type="button" className="press min-h-11" onClick={onWhole}>
        {whole ? "Leave the whole screen" : "Whole screen"}
      </button>
      <MannerPresses onRefused={setRefused} />
      <WhoRings />
      {isElsewhere() && (
        <Link to="/network" className="press min-h-11">
          This device
        </Link>
      )}
      <button type="button" className="press min-h-11" onClick={onGiveUp}>
        Give this session up
      </button>
      <p role="status" className="w-full text-[0.9375rem] text-soft">
        {manner.sound && !audible && "Silent until something is pressed in this window. "}
        {refused}
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
