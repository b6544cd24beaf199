import {
  canonical,
  DAY_MS,
  type FormBody,
  formOf,
  mergeLabels,
  NEW_THICKNESS_HALF,
  type PackFacts,
  type ReadingBody,
  typeKey,
  value,
} from '@gavrel/core';

/** Something that was said of another pack and may hold of this one, with the tag of that pack. */
export interface Known<T> {
  readonly from: string;
  readonly said: T;
}

const codeOf = (p: PackFacts): string | null => {
  const { typeCode } = mergeLabels(p.labels).all;
  return typeCode ? typeKey(typeCode) : null;
};

const newestFirst = (a: PackFacts, b: PackFacts): number =>
  a.lastAt < b.lastAt ? 1 : a.lastAt > b.lastAt ? -1 : a.id < b.id ? -1 : 1;

/** Other packs of the same type code, the newest first; none where this one's is not known or in doubt. */
function othersOfType(packs: readonly PackFacts[], about: PackFacts): PackFacts[] {
  const code = codeOf(about);
  if (code === null || about.labels.some((l) => l.doubted)) return [];
  return packs.filter((p) => p.id !== about.id && codeOf(p) === code && !p.labels.some((l) => l.doubted)).sort(newestFirst);
}

/**
 * Outline, connector and ears of packs of the type, where nothing was said of this one's; null where none has all of it, or two differ:
 * somebody misread one of them.
 */
export function knownForm(packs: readonly PackFacts[], about: PackFacts): Known<FormBody> | null {
  const own = formOf(about);
  if (own.length || own.width || own.connector) return null;
  const all = othersOfType(packs, about).flatMap((p): Known<FormBody>[] => {
    const { length, width, connector, ears } = formOf(p);
    return length && width && connector
      ? [{ from: p.tag, said: { length, width, connector, ...(ears !== undefined && { ears }) } }]
      : [];
  });
  const [first] = all;
  if (!first) return null;
  const apart = (a: FormBody, b: FormBody) =>
    canonical([a.length, a.width, a.connector]) !== canonical([b.length, b.width, b.connector]) ||
    (a.ears !== undefined && b.ears !== undefined && a.ears !== b.ears);
  return all.some((k) => apart(k.said, first.said)) ? null : first;
}

/**
 * How thick packs of the type are when new, by a data sheet or a new part that was measured; null where nobody knows, or where two are further
 * apart than either may be off. Never from a thickness that was read on a used pack.
 */
export function knownNewThickness(packs: readonly PackFacts[], about: PackFacts): Known<ReadingBody> | null {
  if (about.readings.some((r) => r.body.quantity === 'new-thickness')) return null;
  const all = othersOfType(packs, about).flatMap((p): Known<ReadingBody>[] => {
    const read = p.readings.filter((r) => r.body.quantity === 'new-thickness' && !r.doubted).pop()?.body;
    return read && (read.source === 'data-sheet' || read.source === 'measured-new') ? [{ from: p.tag, said: read }] : [];
  });
  const half = ({ said }: Known<ReadingBody>) => NEW_THICKNESS_HALF[said.source as 'data-sheet'];
  const [first] = all;
  if (!first) return null;
  const apart = all.some((k) => Math.abs(value(k.said.figure) - value(first.said.figure)) > half(k) + half(first) + 1e-9);
  if (apart) return null;
  const { figure, source, quantity } = first.said;
  return { from: first.from, said: { quantity, figure, ...(source && { source }) } };
}

/** Days for which the last delivery is likely to be this one. */
const DELIVERY_DAYS = 7;

/** Where the pack came from that was received last, for one of which nothing was said. @param today YYYY-MM-DD. */
export function lastSource(packs: readonly PackFacts[], about: PackFacts, today: string): Known<PackFacts['source']> | null {
  if (about.source.school || about.source.supplier) return null;
  const age = (day: string) => (Date.parse(today) - Date.parse(day)) / DAY_MS;
  const [last] = packs
    .flatMap((p) => {
      const { school, supplier, receivedOn, lot } = p.source;
      if (p.id === about.id || !school || !supplier || !receivedOn) return [];
      return age(receivedOn) >= 0 && age(receivedOn) <= DELIVERY_DAYS ? [{ p, school, supplier, receivedOn, lot }] : [];
    })
    .sort((a, b) => (a.receivedOn < b.receivedOn ? 1 : a.receivedOn > b.receivedOn ? -1 : newestFirst(a.p, b.p)));
  if (!last) return null;
  const { p, school, supplier, lot, receivedOn } = last;
  // A lot is the same only within one delivery.
  return { from: p.tag, said: { school, supplier, ...(lot && receivedOn === today && { lot }) } };
}
