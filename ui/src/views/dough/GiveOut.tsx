import { Link } from "react-router";
import type { Dough } from "../../api/client";

const FORMATS = [
  ["jsonld", "Recipe file", "schema.org Recipe as JSON-LD: comes back in without loss"],
  ["csv", "Table", "the formula as CSV: a row a line, comes back in"],
  ["md", "Markdown", "the card with its grams, for a notebook"],
  ["txt", "Plain text", "the card as text: can be pasted in again"],
] as const;

/** The dough as files in open formats, and as a printed card. */
export function GiveOut({ dough, name }: { dough: Dough; name: string }) {
  return (
    <div className="flex flex-col gap-3">
      <p>
        Files of “{name}” as it was last kept. They are open formats: other tools read them, and
        Fine Batch reads them back.
      </p>
      <ul className="border-t border-line">
        {FORMATS.map(([format, label, what]) => (
          <li key={format} className="flex items-center gap-4 border-b border-line py-2">
            <a className="press min-w-40" href={`/api/doughs/${dough.id}/card.${format}`} download>
              {label}
            </a>
            <span>{what}</span>
          </li>
        ))}
        <li className="flex items-center gap-4 border-b border-line py-2">
          <Link className="press min-w-40" to={`/print/${dough.id}`}>
            Print the card
          </Link>
          <span>the dough on one page: amounts, grams, percent, steps, cautions</span>
        </li>
      </ul>
    </div>
  );
}
