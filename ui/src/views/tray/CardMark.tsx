import type { Schemas, TraySetting } from "../../api/client";
import { onCard } from "../../logic/fromCard";

interface CardMarkProps {
  begun: Schemas["Started"] | undefined;
  setting: TraySetting;
  field: string;
  onSetting: (change: (before: TraySetting) => TraySetting) => void;
}

/** Beside a figure: that it is the card's, or what the card says in its place, to be taken. */
export function CardMark({ begun, setting, field, onSetting }: CardMarkProps) {
  const found = begun && onCard(begun, setting, field);
  if (!found) return null;
  if (found.stands) return "from the card";
  return (
    <button
      type="button"
      className="min-h-6 underline"
      onClick={() => onSetting(() => found.taken)}
    >
      the card: {found.said}
    </button>
  );
}
