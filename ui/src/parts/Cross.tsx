/** The mark on a button that takes something out. */
export function Cross() {
  return (
    <svg aria-hidden="true" width="14" height="14" viewBox="0 0 14 14">
      <path d="M2 2l10 10M12 2L2 12" stroke="currentColor" strokeWidth="2" fill="none" />
    </svg>
  );
}
