import { useId, useRef, useState } from "react";
import type { Ingredient } from "../api/client";

interface PickerProps {
  ingredients: Ingredient[];
  value: string | null;
  onChange: (key: string) => void;
  label: string;
  fault?: string | undefined;
}

const MOST_SHOWN = 8;

/** Ingredients whose name holds every word typed; those that start with it come first. */
export function matching(ingredients: Ingredient[], typed: string): Ingredient[] {
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
  const found = ingredients.filter((i) => words.every((w) => i.name.toLowerCase().includes(w)));
  const starts = (i: Ingredient) => (i.name.toLowerCase().startsWith(words[0] ?? "") ? 0 : 1);
  return found.sort((a, b) => starts(a) - starts(b)).slice(0, MOST_SHOWN);
}

/** Find an ingredient of the larder by typing some of its name. */
export function IngredientPicker({ ingredients, value, onChange, label, fault }: PickerProps) {
  const id = useId();
  const field = useRef<HTMLInputElement>(null);
  const [typed, setTyped] = useState<string | null>(null);
  const [open, setOpen] = useState(false);
  const [active, setActive] = useState(0);
  const chosen = ingredients.find((i) => i.key === value);
  const found = open ? matching(ingredients, typed ?? "") : [];

  const choose = (ingredient: Ingredient | undefined) => {
    if (!ingredient) return;
    onChange(ingredient.key);
    setTyped(null);
    setOpen(false);
  };

  const onKeyDown = (event: React.KeyboardEvent) => {
    if (event.key === "ArrowDown" || event.key === "ArrowUp") {
      event.preventDefault();
      if (!open) setOpen(true);
      else {
        const step = event.key === "ArrowDown" ? 1 : -1;
        setActive((found.length + active + step) % Math.max(found.length, 1));
      }
    } else if (event.key === "Enter" && open) {
      event.preventDefault();
      choose(found[active]);
    } else if (event.key === "Escape" && open) {
      event.preventDefault();
      setTyped(null);
      setOpen(false);
    }
  };

  return (
    <div className="relative">
      <input
        ref={field}
        role="combobox"
        aria-label={label}
        aria-expanded={open}
        aria-controls={`${id}-list`}
        aria-autocomplete="list"
        aria-activedescendant={open && found[active] ? `${id}-${found[active].key}` : undefined}
        aria-invalid={Boolean(fault)}
        autoComplete="off"
        className="w-full border-transparent hover:border-line"
        placeholder="type a name"
        value={typed ?? chosen?.name ?? ""}
        onChange={(event) => {
          setTyped(event.target.value);
          setOpen(true);
          setActive(0);
        }}
        onFocus={(event) => event.target.select()}
        onKeyDown={onKeyDown}
        onBlur={() => {
          // What names nothing in the larder stays as typed, for the baker to mend.
          if (typed === "") setTyped(null);
          else if (found.length === 1) choose(found[0]);
          setOpen(false);
        }}
      />
      {open && (
        <div
          id={`${id}-list`}
          role="listbox"
          aria-label={`${label}: found`}
          className="absolute inset-x-0 top-full z-10 border border-ink bg-sheet"
        >
          {found.map((ingredient, n) => (
            // biome-ignore lint/a11y/useFocusableInteractive: see above
            // biome-ignore lint/a11y/useKeyWithClickEvents: keys are handled in the field
            <div
              key={ingredient.key}
              id={`${id}-${ingredient.key}`}
              role="option"
              aria-selected={n === active}
              className="px-2 py-1.5 hover:bg-wash aria-selected:bg-ink aria-selected:text-paper"
              onPointerDown={(event) => event.preventDefault()}
              onClick={() => choose(ingredient)}
            >
              {ingredient.name}
            </div>
          ))}
          {found.length === 0 && (
            <p className="px-2 py-1.5 text-soft">Nothing in the larder has that name.</p>
          )}
        </div>
      )}
    </div>
  );
}
