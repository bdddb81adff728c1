interface ToStandProps {
  /** What it looks like, in grey: without figures, for there are none yet. */
  example: React.ReactNode;
  /** What will stand here, in a sentence. */
  children: React.ReactNode;
  /** The press that fills it. */
  press?: React.ReactNode;
}

/** A place where nothing is yet: a drawn example of what will be, in words, and the way there. */
export function ToStand({ example, children, press }: ToStandProps) {
  return (
    <div className="min-w-0">
      <div aria-hidden="true" className="text-soft opacity-45">
        {example}
      </div>
      <div className="mt-3 flex flex-wrap items-center gap-x-4 gap-y-2">
        {press}
        <p className="max-w-prose text-soft">{children}</p>
      </div>
    </div>
  );
}
