/** A table that is wider than a phone, moved sideways within itself: by finger or by keyboard. */
export function Scrolled({ label, children }: { label: string; children: React.ReactNode }) {
  return (
    // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls is reached by keyboard
    <section aria-label={label} tabIndex={0} className="overflow-x-auto">
      {children}
    </section>
  );
}
