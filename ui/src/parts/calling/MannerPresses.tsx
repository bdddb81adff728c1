import { useState } from "react";
import { askForNotices, canNotice, setManner, useManner } from "./manner";

/** How this screen makes itself heard and seen: by sound, by voice, by notices of the machine. */
export function MannerPresses({ onRefused }: { onRefused: (refused: boolean) => void }) {
  const manner = useManner();
  const turnNotices = () => {
    if (manner.notices) setManner({ notices: false });
    else void askForNotices().then((allowed) => onRefused(!allowed));
  };
  return (
    <>
      <Press
        on={manner.sound}
        words={["Sound is on", "Sound is off"]}
        onPress={() => setManner({ sound: !manner.sound })}
      />
      <Press
        on={manner.voice}
        words={["It speaks", "It does not speak"]}
        onPress={() => setManner({ voice: !manner.voice })}
      />
      <Press
        on={manner.notices}
        words={["Notices are on", "Notices are off"]}
        onPress={turnNotices}
      />
    </>
  );
}

/** Whether the browser refused its notices just now, and what is said of that. */
export function useRefused(): [string, (refused: boolean) => void] {
  const [refused, setRefused] = useState(false);
  return [refused ? (canNotice() ? NOT_ALLOWED : NONE) : "", setRefused];
}

const NOT_ALLOWED =
  "The browser shows no notices of this address: allow them in its settings, then press again.";
const NONE = "This browser shows no notices.";

interface PressProps {
  on: boolean;
  words: readonly [string, string];
  onPress: () => void;
}

const Press = ({ on, words, onPress }: PressProps) => (
  <button type="button" className="press min-h-11" aria-pressed={on} onClick={onPress}>
    {words[on ? 0 : 1]}
  </button>
);
