/** How long an answer is kept that nobody looks at: one to each change of a figure comes by. */
export const A_WHILE_MS = 10_000;

/** An answer that does not change while the page is open. */
export const FOR_GOOD = Number.POSITIVE_INFINITY;
