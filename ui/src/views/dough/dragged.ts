/** The kind of data under which a line is dragged. */
export const DRAGGED = "application/x-fine-batch-line";
