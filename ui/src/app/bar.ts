/** A line below the header that every screen has. */
export const BAR =
  "flex flex-wrap items-center gap-x-3 border-b border-line border-l-4 border-l-caution bg-sheet px-5 py-1.5 max-sm:px-3 print:hidden";
