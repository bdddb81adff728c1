import { ToggleGroup } from "radix-ui";
import { useId, useState } from "react";
import { VERDICTS } from "../../logic/verdicts";
import type { BookWords, Seen } from "./changes";

interface WordsProps {
  label: string;
  words: readonly (readonly [string, string])[];
  value: readonly string[];
  onChange: (value: string[]) => void;
  /** One of them alone, or several. */
  one?: boolean;
}

const WORD =
  "-mt-px -ml-px min-h-9 border border-line bg-sheet px-2.5 text-[0.9375rem] hover:bg-wash data-[state=on]:relative data-[state=on]:border-ink data-[state=on]:bg-ink data-[state=on]:font-semibold data-[state=on]:text-paper";

/** Words to press: what was seen, felt, tasted. */
export function WordPresses({ label, words, value, onChange, one = false }: WordsProps) {
  const id = useId();
  const items = words.map(([key, word]) => (
    <ToggleGroup.Item key={key} value={key} className={WORD}>
      {word}
    </ToggleGroup.Item>
  ));
  return (
    <div>
      <span id={id} className="text-[0.9375rem] text-soft">
        {label}
      </span>
      {one ? (
        <ToggleGroup.Root
          type="single"
          aria-labelledby={id}
          value={value[0] ?? ""}
          onValueChange={(next) => onChange(next ? [next] : [])}
          className="flex flex-wrap pt-px pl-px"
        >
          {items}
        </ToggleGroup.Root>
      ) : (
        <ToggleGroup.Root
          type="multiple"
          aria-labelledby={id}
          value={[...value]}
          onValueChange={onChange}
          className="flex flex-wrap pt-px pl-px"
        >
          {items}
        </ToggleGroup.Root>
      )}
    </div>
  );
}

const same = (words: readonly string[]) => words.map((word) => [word, word] as const);

interface SeenProps {
  words: BookWords;
  seen: Seen;
  onSeen: (part: Partial<Seen>) => void;
}

/** Edges, texture, taste: each a press, none of them needed. */
export function SeenFields({ words, seen, onSeen }: SeenProps) {
  const [own, setOwn] = useState("");
  const tastes = seen.tastes ?? [];
  const offered = [...words.tastes, ...tastes.filter((word) => !words.tastes.includes(word))];
  const addOwn = () => {
    const word = own.trim().slice(0, 30);
    if (word && !tastes.includes(word) && tastes.length < 12) onSeen({ tastes: [...tastes, word] });
    setOwn("");
  };
  return (
    <>
      <WordPresses
        label="Texture by touch"
        words={same(words.textures)}
        value={seen.texture ?? []}
        onChange={(next) => onSeen({ texture: next as NonNullable<Seen["texture"]> })}
      />
      <WordPresses
        label="Edges"
        one
        words={same(words.edges)}
        value={seen.edges ? [seen.edges] : []}
        onChange={([next]) => onSeen({ edges: (next as Seen["edges"]) ?? null })}
      />
      <div className="flex flex-wrap items-end gap-2">
        <WordPresses
          label="It tastes"
          words={same(offered)}
          value={tastes}
          onChange={(next) => onSeen({ tastes: next.slice(0, 12) })}
        />
        <input
          aria-label="A word of your own for the taste"
          placeholder="a word of your own"
          maxLength={30}
          value={own}
          onChange={(event) => setOwn(event.target.value)}
          onBlur={addOwn}
          onKeyDown={(event) => {
            if (event.key !== "Enter") return;
            event.preventDefault();
            addOwn();
          }}
        />
      </div>
    </>
  );
}

/** What went wrong, and whether it is baked again. */
export function WentWrong({ words, seen, onSeen }: SeenProps) {
  return (
    <>
      <WordPresses
        label="What went wrong"
        words={Object.entries(words.troubles)}
        value={seen.troubles ?? []}
        onChange={(troubles) => onSeen({ troubles })}
      />
      <WordPresses
        label="Next time"
        one
        words={VERDICTS}
        value={seen.verdict ? [seen.verdict] : []}
        onChange={([next]) => onSeen({ verdict: (next as Seen["verdict"]) ?? null })}
      />
    </>
  );
}
