/** What a log has of each moment. */
export type Field = 'time' | 'volts' | 'amperes' | 'celsius';

export interface Column {
  readonly at: number;
  /** What a figure is multiplied by to be in seconds, volts, amperes, degrees Celsius. */
  readonly factor: number;
  /** Thousands are set apart by commas here. */
  readonly grouped?: true;
  /** Where the day stands, where it has a column of its own. */
  readonly dayAt?: number;
}

export interface Columns {
  readonly time: Column;
  readonly volts: Column;
  readonly amperes: Column;
  readonly celsius?: Column;
}

/** Words before a name that leave it the pack's: "pack voltage", "measured current"; never "cell 1" or "set". */
const OF_PACK = String.raw`(?:(?:pack|total|battery|bat|terminal|measured|actual|load|discharge)\s)?`;
const NAMES: readonly (readonly [Field, RegExp])[] = [
  [
    'time',
    /^(time|timestamp|date|datetime|date time|day|datum|tag|uhrzeit|clock|elapsed|elapsed time|test time|seconds|t|zeit|sec|s|epoch|unix|unix time)$/,
  ],
  ['volts', new RegExp(`^${OF_PACK}(volts?|voltage|u|v|spannung|ubat|vbat)$`)],
  ['amperes', new RegExp(`^${OF_PACK}(amperes?|amps?|current|i|a|strom|ibat)$`)],
  ['celsius', new RegExp(`^${OF_PACK}(temperature|temp|celsius|temperatur|t bat)$`)],
];
/** Named by its unit alone: "Pack (V)". */
const WHOLE = /^(pack|total|battery|bat)$/;
const DAY = /^(date|day|datum|tag)$/;
const FACTORS: Readonly<Record<string, readonly [Field, number]>> = {
  ms: ['time', 0.001],
  s: ['time', 1],
  sec: ['time', 1],
  seconds: ['time', 1],
  min: ['time', 60],
  minutes: ['time', 60],
  h: ['time', 3600],
  hours: ['time', 3600],
  mv: ['volts', 0.001],
  v: ['volts', 1],
  ma: ['amperes', 0.001],
  a: ['amperes', 1],
  c: ['celsius', 1],
  '°c': ['celsius', 1],
};

/** What a figure in this unit is multiplied by; null where it is no unit of this field. */
export function factorOf(unit: string, field: Field): number | null {
  const found = FACTORS[unit.toLowerCase()];
  return found && found[0] === field ? found[1] : null;
}

/** A heading as a column: "Voltage (mV)", "current_mA", "time/s". */
function headingOf(heading: string): { field: Field; factor: number; day: boolean } | null {
  const text = heading.trim().toLowerCase();
  const [, words = text, unit = ''] =
    /^(.*?)[\s_/([]+(ms|s|sec|seconds|min|minutes|h|hours|mv|v|ma|a|°?c)\s*[)\]]?$/.exec(text) ?? [];
  const plain = (words.trim() || text).replace(/[_/()[\]]+/g, ' ').trim();
  const named = NAMES.find(([, r]) => r.test(plain))?.[0];
  const field = named ?? FACTORS[WHOLE.test(plain) ? unit : plain]?.[0];
  if (!field) return null;
  return { field, factor: factorOf(unit, field) ?? factorOf(plain, field) ?? 1, day: DAY.test(plain) };
}

/** What a log must have. */
const NEEDED = ['time', 'volts', 'amperes'] as const;

/** What a log must have and a row does not name. */
export function missingIn(row: readonly string[]): Field[] {
  const fields = new Set(row.map((cell) => headingOf(cell)?.field));
  return NEEDED.filter((f) => !fields.has(f));
}

/** Which columns hold what. @returns null where a row is no heading of a log. */
export function columnsOf(row: readonly string[]): Columns | null {
  const found = row.map(headingOf);
  const first = (fits: (c: NonNullable<(typeof found)[number]>) => boolean): Column | undefined => {
    const at = found.findIndex((c) => c !== null && fits(c));
    return at < 0 ? undefined : { at, factor: found[at]!.factor };
  };
  const [day, clock] = [first((c) => c.day), first((c) => c.field === 'time' && !c.day)];
  const time = clock && day ? { ...clock, dayAt: day.at } : (clock ?? day);
  const [volts, amperes, celsius] = (['volts', 'amperes', 'celsius'] as const).map((f) => first((c) => c.field === f));
  return time && volts && amperes ? { time, volts, amperes, ...(celsius && { celsius }) } : null;
}
