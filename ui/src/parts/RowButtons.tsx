import { Cross } from "./Cross";

interface RowButtonsProps {
  /** What the row is called: “line 3”. */
  name: string;
  first: boolean;
  last: boolean;
  onMove: (by: -1 | 1) => void;
  onRemove: () => void;
  className?: string;
}

/** Up, down, and out: the buttons at the end of a row. */
export function RowButtons({ name, first, last, onMove, onRemove, className }: RowButtonsProps) {
  return (
    <span className={`flex justify-end ${className ?? ""}`}>
      <button
        type="button"
        className="icon-press"
        aria-label={`Move ${name} up`}
        disabled={first}
        onClick={() => onMove(-1)}
      >
        <Arrow up />
      </button>
      <button
        type="button"
        className="icon-press"
        aria-label={`Move ${name} down`}
        disabled={last}
        onClick={() => onMove(1)}
      >
        <Arrow />
      </button>
      <button
        type="button"
        className="icon-press"
        aria-label={`Take ${name} out`}
        onClick={onRemove}
      >
        <Cross />
      </button>
    </span>
  );
}

function Arrow({ up = false }: { up?: boolean }) {
  return (
    <svg aria-hidden="true" width="14" height="14" viewBox="0 0 14 14">
      <path
        d={up ? "M7 12V2M2.5 6.5L7 2l4.5 4.5" : "M7 2v10M2.5 7.5L7 12l4.5-4.5"}
        stroke="currentColor"
        strokeWidth="2"
        fill="none"
      />
    </svg>
  );
}
