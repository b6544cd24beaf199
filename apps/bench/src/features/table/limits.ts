/** Most lines that are taken in as stock at once. */
export const MOST_STOCK = 2000;
