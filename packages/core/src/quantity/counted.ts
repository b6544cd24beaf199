/**
 * So many of something, in words: "1 pack", "0 packs", "4 boxes".
 * @param many the plural, where it is not the word with an s.
 * @example counted(1, 'pack') // '1 pack'
 */
export const counted = (n: number, one: string, many = `${one}s`): string => `${n} ${n === 1 ? one : many}`;
