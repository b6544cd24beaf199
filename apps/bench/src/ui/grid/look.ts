/** Height of a row and width of the column that selects, px. */
export const ROW = 48;
export const CHECK = 52;

/** What stays at the left while the rest is scrolled. */
export const pinned = (left: number, backgroundColor: string) =>
  ({ position: 'sticky', left, zIndex: 1, backgroundColor }) as object;
