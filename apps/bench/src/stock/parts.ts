/** An entry names at most 64 things: what concerns more packs is written in several. */
const MOST = 60;

/** The packs of a place in parts that one entry each may name; one empty part where nothing lies there. */
export function inParts(packs: readonly string[]): (readonly string[])[] {
  const out: (readonly string[])[] = packs.length === 0 ? [[]] : [];
  for (let i = 0; i < packs.length; i += MOST) out.push(packs.slice(i, i + MOST));
  return out;
}
