import type { BakingSession } from "../../api/client";

const STATE: Record<BakingSession["sheets_now"][number]["state"], string> = {
  free: "free",
  filled: "filled with",
  oven: "in the oven with",
  cooling: "cooling under",
};

/** Where each sheet is. */
export function Sheets({ session }: { session: BakingSession }) {
  return (
    <section aria-label="Sheets">
      <h2 className="heading">Sheets</h2>
      <ul>
        {session.sheets_now.map((sheet) => (
          <li key={sheet.name} className="flex gap-3 border-b border-line py-1 text-lg">
            <span className="w-32">{sheet.name}</span>
            <span>
              {STATE[sheet.state]} {sheet.tray && <strong>{sheet.tray}</strong>}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
