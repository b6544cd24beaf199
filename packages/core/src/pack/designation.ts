/** IEC 61960-3 designation of lithium cells and batteries (scheme from memory). Dimensions are rounded up to whole mm. */
export interface Designation {
  readonly series: number | null;
  readonly anode: 'I' | 'L' | 'T' | 'X';
  readonly cathode: 'C' | 'F' | 'Fp' | 'N' | 'M' | 'Mp' | 'T' | 'V' | 'X';
  readonly shape: 'round' | 'prismatic';
  /** True thickness or diameter lies in (lo, hi] mm. */
  readonly thickness: { readonly lo: number; readonly hi: number };
  readonly width: { readonly lo: number; readonly hi: number } | null;
  readonly height: { readonly lo: number; readonly hi: number };
  readonly parallel: number;
  /** Characters read as others to make sense of the print. */
  readonly forgave: readonly string[];
}

const FORM = /^(\d+)?([ILTX])(Fp|Mp|[CFNMTVX])([RP])(t?\d+)(?:\/(t?\d+))?\/(t?\d+)(?:-(\d+))?$/;

const size = (text: string) => {
  const tenths = text.startsWith('t');
  const n = Number(text.replace('t', ''));
  return tenths ? { lo: (n - 1) / 10, hi: n / 10 } : { lo: n - 1, hi: n };
};

function strict(text: string, forgave: string[]): Designation | null {
  const m = FORM.exec(text);
  if (!m) return null;
  const [, n1, anode, cathode, shape, n2, n3, n4, n5] = m;
  if ((shape === 'P') !== (n3 !== undefined)) return null;
  const series = n1 === undefined ? null : Number(n1);
  if (series !== null && (series < 1 || series > 6)) return null;
  return {
    series,
    anode: anode as Designation['anode'],
    cathode: cathode as Designation['cathode'],
    shape: shape === 'R' ? 'round' : 'prismatic',
    thickness: size(n2 as string),
    width: n3 === undefined ? null : size(n3),
    height: size(n4 as string),
    parallel: n5 === undefined ? 1 : Number(n5),
    forgave,
  };
}

/**
 * Reads a designation; repairs the common misread of I as 1 ("41CP5/57/101") and says so.
 * @returns null when the text is not of the slashed form.
 */
export function parseDesignation(text: string): Designation | null {
  const t = text.trim();
  const direct = strict(t, []);
  if (direct) return direct;
  const repaired = t.replace(/^(\d?)[1l](?=[CFNM])/, '$1I');
  return repaired === t ? null : strict(repaired, ['I read as 1']);
}

export interface TradeSize {
  readonly thickness: number;
  readonly width: number;
  readonly height: number;
}

/**
 * Unslashed trade codes such as "606168" (6.0 x 61 x 68 mm): all readings with thickness 2 to 12 mm and width and height 20 to
 * 160 mm. Common practice, no source; more than one result means it is undecidable without the pack.
 */
export function parseTradeSize(code: string): TradeSize[] {
  const digits = /(\d{6,8})$/.exec(code.trim())?.[1];
  if (!digits) return [];
  const splits: Record<number, readonly (readonly [number, number, number])[]> = {
    6: [[2, 2, 2]],
    7: [
      [2, 2, 3],
      [2, 3, 2],
      [3, 2, 2],
    ],
    8: [
      [2, 3, 3],
      [3, 2, 3],
    ],
  };
  const out: TradeSize[] = [];
  for (const [a, b, c] of splits[digits.length] ?? []) {
    const thickness = Number(digits.slice(0, a)) / 10;
    const width = Number(digits.slice(a, a + b));
    const height = Number(digits.slice(a + b, a + b + c));
    const fits = (x: number) => x >= 20 && x <= 160;
    if (thickness >= 2 && thickness <= 12 && fits(width) && fits(height)) out.push({ thickness, width, height });
  }
  return out;
}

/** IEC 60086 coin cell code (from memory): CR2032 is Li-MnO2, round, 20 mm across, 3.2 mm high, 3 V. */
export function parseCoin(code: string): { system: 'CR' | 'BR'; diameter: number; height: number; nominal: number } | null {
  const m = /^(CR|BR)(\d{2})(\d{2})$/.exec(code.trim().toUpperCase());
  if (!m) return null;
  return { system: m[1] as 'CR' | 'BR', diameter: Number(m[2]), height: Number(m[3]) / 10, nominal: 3 };
}
