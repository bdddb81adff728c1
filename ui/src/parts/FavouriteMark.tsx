/** A small tag on a card's corner: folded where the dough is a favourite. */
export function FavouriteMark({ on }: { on: boolean }) {
  return (
    <svg aria-hidden="true" width="20" height="22" viewBox="0 0 20 22">
      <path
        d="M3.5 1.5h13v18.5l-6.5-5-6.5 5z"
        className={on ? "fill-enamel stroke-enamel" : "fill-none stroke-current"}
        strokeWidth="1.5"
        strokeLinejoin="round"
      />
    </svg>
  );
}
