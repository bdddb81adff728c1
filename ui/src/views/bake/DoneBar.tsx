/** The presses that are wanted all the time, in the same place all the time: at the foot of the screen. */
export function DoneBar({ children }: { children: React.ReactNode }) {
  return (
    <div
      data-done-bar=""
      className="sticky bottom-0 z-10 mt-auto flex flex-wrap gap-3 border-t-2 border-ink bg-paper py-3"
    >
      {children}
    </div>
  );
}
