import type { Carry } from './carry';

/** Letter heights, mm. ADR/RID 5.2.1.9, IMDG 5.2.1.10, ICAO TI 5;2.4.16, 49 CFR 173.185: from memory. */
const LETTERS = { usual: 12, text: 6 } as const;

/** Something that is drawn at true size and put on a package. */
export type Mark =
  /** Battery mark: 100 x 100 mm, hatching 5 mm, UN number in letters of 12 mm. */
  | { readonly kind: 'battery'; readonly un: string }
  /** Class 9A label, 100 x 100 mm, with UN number and name of everything in the package beside it. */
  | { readonly kind: 'class 9A'; readonly goods: readonly string[] }
  /** Cargo aircraft only, 120 x 110 mm. */
  | { readonly kind: 'cargo aircraft' }
  | { readonly kind: 'words'; readonly words: string; readonly letterMm: number };

/** Proper shipping names (Dangerous Goods List, from memory). */
const NAMES: Readonly<Record<string, string>> = {
  'UN 3480': 'LITHIUM ION BATTERIES',
  'UN 3481': 'LITHIUM ION BATTERIES CONTAINED IN EQUIPMENT or LITHIUM ION BATTERIES PACKED WITH EQUIPMENT',
  'UN 3090': 'LITHIUM METAL BATTERIES',
  'UN 3091': 'LITHIUM METAL BATTERIES CONTAINED IN EQUIPMENT or LITHIUM METAL BATTERIES PACKED WITH EQUIPMENT',
  'UN 3551': 'SODIUM ION BATTERIES WITH ORGANIC ELECTROLYTE',
  'UN 3552':
    'SODIUM ION BATTERIES CONTAINED IN EQUIPMENT, WITH ORGANIC ELECTROLYTE or SODIUM ION BATTERIES PACKED WITH EQUIPMENT, WITH ORGANIC ELECTROLYTE',
};

/** The proper shipping name of a UN number, of the two of equipment the one that fits; empty where we know none. */
export function shippingName(un: string | null, inside: boolean): string {
  const [contained, packed] = (NAMES[un ?? ''] ?? '').split(' or ');
  return (inside ? contained : (packed ?? contained)) ?? '';
}

/** Where nobody says which, both words are drawn and one is put on. */
const choices = (words: string): string[] => words.split(' or ').map((w) => w.trim());

/** What is in the package, as the marks tell it. */
interface Marked {
  readonly uns: readonly string[];
  readonly netKg: number;
  /** Packs lie in their machines. */
  readonly inside: boolean;
}

/** One line of what goes on a package, as what is drawn; nothing for what its weight does not ask. */
function drawn(line: string, of: Marked): Mark[] {
  const heavy = /^over (\d+) kg of packs in it: (.+)$/.exec(line);
  if (heavy) return of.netKg > Number(heavy[1]) ? drawn(heavy[2]!, of) : [];
  if (line.startsWith('battery mark')) return of.uns.map((un) => ({ kind: 'battery', un }));
  if (line.startsWith('class 9A label'))
    return [
      { kind: 'class 9A', goods: of.uns.map((un) => `${un} ${shippingName(un, of.inside)}`.trim()) },
      // The number itself stands on the package in letters of their own height: ADR/RID 5.2.1.1, 49 CFR 172.301(a)(1), from memory.
      ...of.uns.map((un): Mark => ({ kind: 'words', words: un, letterMm: LETTERS.usual })),
    ];
  if (line.startsWith('cargo-aircraft label')) return [{ kind: 'cargo aircraft' }];
  const mark = /^mark "?([^",]+)"?/.exec(line)?.[1];
  if (mark) return choices(mark).map((words) => ({ kind: 'words', words, letterMm: LETTERS.usual }));
  const text = /^text ([^,]+)/.exec(line)?.[1];
  return text ? [{ kind: 'words', words: text, letterMm: LETTERS.text }] : [];
}

/**
 * What is drawn for a package: the marks its provision asks for, with every UN number in it (ADR/RID 5.2.1.9.2, from memory).
 * @param netKg of packs in it. @param inside packs lie in their machines.
 */
export function marksOf(carry: Pick<Carry, 'marks'>, uns: readonly string[], netKg: number, inside: boolean): Mark[] {
  return carry.marks.flatMap((m) => drawn(m, { uns, netKg, inside }));
}
