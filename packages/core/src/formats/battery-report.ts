import { type Figure, parseDigits, type VoltUnit } from '../quantity/figure';
import { type Amount, doubtChemistry, judged, type ReportedBattery } from './reported';

/*
 * Battery reports of desktop systems, all from memory: the battery report as HTML, as rows copied off it, or as XML; the listing of the
 * device registry, as text or property list; and the text of the power daemon's tool.
 */

const ENTITIES: Readonly<Record<string, string>> = { amp: '&', lt: '<', gt: '>', quot: '"', nbsp: ' ', '#160': ' ', '#39': '’' };
const plain = (html: string): string =>
  html
    .replace(/<[^>]*>/g, '')
    .replace(/&(#?\w+);/g, (all, name: string) => ENTITIES[name.toLowerCase()] ?? all)
    .replace(/\s+/g, ' ')
    .trim();

/** Where the part on batteries ends. */
const AFTER = /^(recent usage|battery usage|usage history)/i;

/**
 * What of a long report concerns its batteries: of HTML the rows, their cells apart by tabs, of XML the part on batteries; any other text as
 * it stands. Thousands of lines of usage need not be kept.
 */
export function reportText(text: string): string {
  const batteries = /<Batteries\b[^>]*>[\s\S]*?<\/Batteries>/i.exec(text);
  if (batteries) return batteries[0];
  if (!/<t[rd][\s>]/i.test(text)) return text;
  const body = text.replace(/<(style|script|head)\b[\s\S]*?<\/\1>/gi, '');
  const rows = [...body.matchAll(/<h[1-6]\b[^>]*>([\s\S]*?)<\/h[1-6]>|<tr\b[^>]*>([\s\S]*?)<\/tr>/gi)].map(
    ([, heading, row = '']) =>
      heading === undefined
        ? [...row.matchAll(/<t[dh]\b[^>]*>([\s\S]*?)<\/t[dh]>/gi)].map(([, cell = '']) => plain(cell)).join('\t')
        : plain(heading),
  );
  const end = rows.findIndex((r) => AFTER.test(r));
  return rows.slice(0, end < 0 ? undefined : end).join('\n');
}

/** A whole number that a country may group: 49,985 and 49.985 and 49 985 are the same; null for anything else. */
export function groupedWhole(text: string): string | null {
  const digits = text.trim();
  if (/^\d+$/.test(digits)) return digits;
  return /^\d{1,3}(?:([.,\s'’])\d{3})(?:\1\d{3})*$/.test(digits) ? digits.replace(/\D/g, '') : null;
}

const none = { volts: null, nominal: null, shown: null } as const;

/** An amount of the battery report: a grouped whole number and its unit. */
function reportAmount(text: string, what: string, doubts: string[]): Amount | null {
  const [, number = '', unit = ''] = /^(.*\d)\s*(mWh|mAh)$/i.exec(text.trim()) ?? [];
  const digits = groupedWhole(number);
  if (digits) return { digits, unit: unit.toLowerCase() === 'mah' ? 'mAh' : 'mWh' };
  if (text.trim() !== '' && text.trim() !== '-') doubts.push(`${what} “${text.trim()}” cannot be read: left out`);
  return null;
}

function fromReport(name: string, at: (key: ReportKey) => string, relative: boolean): ReportedBattery {
  const doubts: string[] = [];
  doubtChemistry(at('CHEMISTRY'), doubts);
  if (relative) doubts.push('capacities are parts of full, not mWh: left out');
  const amount = (key: ReportKey) => (relative ? null : reportAmount(at(key), key.toLowerCase(), doubts));
  const cycles = Number(groupedWhole(at('CYCLE COUNT')) ?? Number.NaN);
  return {
    name,
    maker: at('MANUFACTURER'),
    model: at('NAME'),
    serial: at('SERIAL NUMBER'),
    gauge: judged(
      { design: amount('DESIGN CAPACITY'), full: amount('FULL CHARGE CAPACITY'), now: null },
      Number.isNaN(cycles) ? null : cycles,
      doubts,
    ),
    ...none,
    doubts,
  };
}

/** Rows with a column for each battery. */
function fromRows(lines: readonly string[]): ReportedBattery[] {
  const rows = new Map<string, readonly string[]>();
  for (const line of lines) {
    const [label = '', ...cells] = line.split('\t').map((c) => c.trim());
    const key = label.toUpperCase();
    if (AFTER.test(key)) break;
    if (cells.length > 0 && !rows.has(key)) rows.set(key, cells);
  }
  const columns = Math.max(0, ...['DESIGN CAPACITY', 'FULL CHARGE CAPACITY'].map((k) => rows.get(k)?.length ?? 0));
  return Array.from({ length: columns }, (_, i) =>
    fromReport(rows.get('')?.[i] || `battery ${i + 1}`, (key) => rows.get(key)?.[i] ?? '', false),
  );
}

const XML_NAMES = {
  NAME: 'Id',
  MANUFACTURER: 'Manufacturer',
  'SERIAL NUMBER': 'SerialNumber',
  CHEMISTRY: 'Chemistry',
  'DESIGN CAPACITY': 'DesignCapacity',
  'FULL CHARGE CAPACITY': 'FullChargeCapacity',
  'CYCLE COUNT': 'CycleCount',
} as const;
type ReportKey = keyof typeof XML_NAMES;

function fromXml(text: string): ReportedBattery[] {
  return [...text.matchAll(/<Battery\b[^>]*>([\s\S]*?)<\/Battery>/gi)].map(([, inner = ''], i) => {
    const tag = (name: string) => plain(new RegExp(`<${name}\\b[^>]*>([^<]*)<`, 'i').exec(inner)?.[1] ?? '');
    return fromReport(
      `battery ${i + 1}`,
      (key) => {
        const text = tag(XML_NAMES[key]);
        return text !== '' && key.endsWith('CAPACITY') ? `${text} mWh` : text;
      },
      tag('RelativeCapacity') === '1',
    );
  });
}

/** Pairs of the registry: `"Key" = value` lines, or the keys of a property list. */
function registryPairs(text: string): ReadonlyMap<string, string> {
  const pairs = new Map<string, string>();
  const put = (key: string, v: string) => {
    // The system's own name stands before what a key means.
    const k = key.replace(/^\w+?(?=Raw[A-Z])/, '');
    if (!pairs.has(k)) pairs.set(k, v.trim());
  };
  for (const [, key = '', v = ''] of text.matchAll(/^[\s|]*"(\w+)"\s*=\s*(.+)$/gm)) put(key, v.replace(/^"(.*)"$/, '$1'));
  // Some say it only within the battery's own data, all on one line.
  for (const [, key = '', v = ''] of text.matchAll(/"(\w+)"=(\d+)/g)) put(key, v);
  for (const [, key = '', v = ''] of text.matchAll(/<key>(\w+)<\/key>\s*<(?:integer|string)>([^<]*)</g)) put(key, v);
  return pairs;
}

function fromRegistry(text: string, name: string): ReportedBattery {
  const pairs = registryPairs(text);
  const doubts: string[] = [];
  const whole = (...keys: string[]): number | null => {
    const found = keys.map((k) => pairs.get(k)).find((v) => v !== undefined && /^\d+$/.test(v));
    return found === undefined ? null : Number(found);
  };
  const mAh = (x: number | null): Amount | null => (x === null ? null : { digits: String(x), unit: 'mAh' });
  const most = whole('MaxCapacity');
  // Newer systems give these two in %.
  const percent = most !== null && most <= 100;
  const full = whole('RawMaxCapacity', 'NominalChargeCapacity') ?? (percent ? null : most);
  if (full === null && percent) doubts.push('full-charge capacity in % only: left out');
  if (pairs.get('BatteryInstalled') === 'No') doubts.push('reported as not there');
  const failed = (whole('PermanentFailureStatus') ?? 0) !== 0;
  if (failed) doubts.push('the gauge reports a permanent failure');
  const cells = /"?CellVoltage"?\s*=\s*\(([\d,\s]*)\)/.exec(text)?.[1]?.split(',').map(Number) ?? [];
  const cellsRead = cells.length > 0 && cells.every((c) => c > 0);
  if (cells.length > 0 && !cellsRead) doubts.push('a cell at 0 mV among the cell voltages: left out, measure the cells');
  const volts = whole('RawBatteryVoltage', 'Voltage');
  return {
    name,
    maker: pairs.get('Manufacturer') ?? '',
    model: pairs.get('DeviceName') ?? '',
    serial: pairs.get('Serial') ?? pairs.get('BatterySerialNumber') ?? '',
    gauge: {
      ...judged(
        {
          design: mAh(whole('DesignCapacity')),
          full: mAh(full),
          now: mAh(whole('RawCurrentCapacity') ?? (percent ? null : whole('CurrentCapacity'))),
        },
        whole('CycleCount'),
        doubts,
      ),
      ...(cellsRead && { cellVoltages: cells.map((c): Figure<VoltUnit> => ({ digits: String(c), unit: 'mV' })) }),
      ...(failed && { permanentFailure: true }),
    },
    shown: percent ? whole('CurrentCapacity') : null,
    volts: volts ? { digits: String(volts), unit: 'mV' } : null,
    nominal: null,
    doubts,
  };
}

/** One device of the power daemon: `key: value unit` lines, the decimal mark as the country writes it. */
function fromDaemon(block: string): ReportedBattery | null {
  const at = (key: string) => new RegExp(`^[ \\t]*${key}:[ \\t]*(.*)$`, 'm').exec(block)?.[1]?.trim() ?? '';
  // A mouse has a battery too; the sum over all batteries is none.
  if (at('power supply') === 'no' || at('native-path') === '' || /DisplayDevice/.test(block)) return null;
  const figure = <U extends string>(key: string, unit: U): Figure<U> | null => {
    const m = /^(\S+)\s*(\w+)$/.exec(at(key));
    const digits = m && m[2] === unit ? parseDigits(m[1]!) : null;
    return digits === null ? null : { digits, unit };
  };
  const [design, full] = [figure('energy-full-design', 'Wh'), figure('energy-full', 'Wh')];
  if (!design && !full) return null;
  const doubts: string[] = [];
  doubtChemistry(at('technology').replace('lithium', 'Li'), doubts);
  if (at('present') === 'no') doubts.push('reported as not there');
  const shown = parseDigits(at('percentage').replace(/\s*%.*$/, ''));
  return {
    name: at('native-path'),
    maker: at('vendor'),
    model: at('model'),
    serial: at('serial'),
    gauge: judged({ design, full, now: figure('energy', 'Wh') }, Number(groupedWhole(at('charge-cycles'))) || null, doubts),
    shown: shown === null ? null : Number(shown),
    volts: figure('voltage', 'V'),
    nominal: figure('voltage-min-design', 'V'),
    doubts,
  };
}

/** Reads one of these reports. @returns null where the text is none of them, and no battery where there is none in it. */
export function parseBatteryReport(text: string): ReportedBattery[] | null {
  if (/<Battery\b[^>]*>/i.test(text)) return fromXml(text);
  if (/"\w*DesignCapacity"\s*=|<key>\w*DesignCapacity<\/key>/.test(text)) {
    const blocks = text.split(/(?=\+-o )/).filter((b) => /DesignCapacity/.test(b));
    return blocks.map((b, i) => fromRegistry(b, `battery ${i + 1}`));
  }
  if (/^[ \t]*(energy-full(-design)?|native-path):/m.test(text)) {
    const blocks = text.split(/^(?=Device:)/m).flatMap((b) => (/^Device:/.test(b) ? [b] : b.split(/^(?=[ \t]*native-path:)/m)));
    return blocks.flatMap((b) => fromDaemon(b) ?? []);
  }
  const lines = reportText(text).split(/\r?\n/);
  return lines.some((l) => /^\s*(design|full charge) capacity\t/i.test(l)) ? fromRows(lines) : null;
}
