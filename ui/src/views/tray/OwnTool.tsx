import { useId, useState } from "react";
import { toolName } from "../../logic/toolNames";

interface OwnToolProps {
  /** What is kept or taken out: “cutter”, “scoop”. */
  what: string;
  /** The tool's name when the kitchen has it. */
  named: string | undefined;
  suggested: string;
  onKeep: (name: string) => void;
  onForget: (name: string) => void;
}

/** Keep the tool that is set in the kitchen under a name, or take it out again. */
export function OwnTool({ what, named, suggested, onKeep, onForget }: OwnToolProps) {
  const id = useId();
  const [name, setName] = useState<string | null>(null);
  if (named)
    return (
      <button
        type="button"
        className="self-end pb-2 text-[0.9375rem] underline"
        onClick={() => onForget(named)}
      >
        Take this {what} out of the kitchen
      </button>
    );
  return (
    <form
      className="flex w-full items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        onKeep((name ?? suggested).trim() || suggested);
        setName(null);
      }}
    >
      <label htmlFor={id} className="flex min-w-0 flex-1 flex-col text-[0.9375rem] text-soft">
        Name of this {what}
        <input
          id={id}
          className="w-full text-ink"
          maxLength={40}
          value={name ?? toolName(suggested)}
          onChange={(event) => setName(event.target.value)}
        />
      </label>
      <button type="submit" className="press min-h-9 flex-none px-2">
        Keep it
      </button>
    </form>
  );
}
