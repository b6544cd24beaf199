import { type Amount, judged, type ReportedBattery } from './reported';

/*
 * What people copy besides whole reports, all from memory: files of the kernel's power supplies read one by one, the two lines a battery of the
 * `acpi` command, the system profile of a desktop, and the properties of its management service.
 */

const SUPPLY_FILE =
  /^(?:(\S*)\/)?((?:charge|energy)_(?:full|full_design|now)|cycle_count|voltage_(?:now|min_design)|capacity|manufacturer|model_name|serial_number|technology|type|present)\s*[:=]\s*(.*)$/;
/** `head` and `tail` print the name of a file above what is in it. */
const FILE_HEADING = /^==>\s*(\S+)\s*<==$/;

/** Files of power supplies as lines of `uevent`, a block a supply; null where there are none. */
export function supplyFiles(lines: readonly string[]): string[] | null {
  let above: string | null = null;
  const supplies: { readonly folder: string; readonly said: Map<string, string> }[] = [];
  for (const l of lines) {
    const heading = FILE_HEADING.exec(l);
    const m = SUPPLY_FILE.exec(heading || above === null || l === '' ? l : `${above}:${l}`);
    if (heading || l !== '') above = heading?.[1] ?? null;
    if (!m) continue;
    const folder = m[1] ?? '';
    const open = supplies.filter((s) => s.folder === folder).pop();
    // What is said again is said of another one.
    if (open && !open.said.has(m[2]!)) open.said.set(m[2]!, m[3]!);
    else supplies.push({ folder, said: new Map([[m[2]!, m[3]!]]) });
  }
  const hasFull = ({ said }: (typeof supplies)[number]) => [...said.keys()].some((k) => /_full/.test(k));
  if (!supplies.some(hasFull)) return null;
  // A mouse tells its charge as well, and no more.
  const told = supplies.filter((s) => s.said.has('type') || hasFull(s));
  return told.flatMap(({ folder, said }) => [
    `POWER_SUPPLY_NAME=${folder.split('/').pop() || 'battery'}`,
    ...(said.has('type') ? [] : ['POWER_SUPPLY_TYPE=Battery']),
    ...[...said].map(([key, v]) => `POWER_SUPPLY_${key.toUpperCase()}=${v}`),
  ]);
}

/** A whole number as printed; undefined for anything else. */
const digitsOf = (text: string | undefined): string | undefined => (text !== undefined && /^\d+$/.test(text) ? text : undefined);
const amount = (text: string | undefined, unit: 'mAh' | 'mWh'): Amount | null => {
  const digits = digitsOf(text);
  return digits === undefined ? null : { digits, unit };
};
const whole = (text: string | undefined): number | null => (digitsOf(text) === undefined ? null : Number(text));

/** The `acpi` command: a line on the charge, a line on the capacities. It makes mAh out of mWh with the voltage of the moment, and does not say so. */
function fromCommand(lines: readonly string[]): ReportedBattery[] {
  return lines.flatMap((line) => {
    const m = /^Battery (\d+): design capacity (\d+) mAh, last full capacity (\d+) mAh/.exec(line);
    if (!m) return [];
    const charge = lines
      .map((l) => new RegExp(`^Battery ${m[1]}: [A-Z][\\w ]*, (\\d+)%`).exec(l)?.[1])
      .find((x) => x !== undefined);
    const doubts = [
      'mAh may be made of mWh with the voltage of the moment: how much is left of the design holds, the figures may not',
    ];
    return [
      {
        name: `battery ${m[1]}`,
        maker: '',
        model: '',
        serial: '',
        gauge: judged({ design: amount(m[2], 'mAh'), full: amount(m[3], 'mAh'), now: null }, null, doubts),
        shown: whole(charge),
        volts: null,
        nominal: null,
        doubts,
      },
    ];
  });
}

/** `Key: value` or `Key = value`, keys in small letters without blanks; of one that stands twice the first. */
function pairsOf(lines: readonly string[]): ReadonlyMap<string, string> {
  const pairs = new Map<string, string>();
  for (const line of lines) {
    const [, key, said] = /^([^:=]+?)\s*[:=]\s*(.*)$/.exec(line) ?? [];
    const k = key?.toLowerCase().replace(/\s/g, '');
    if (k !== undefined && !pairs.has(k)) pairs.set(k, said!.trim());
  }
  return pairs;
}

const SOUND = /^(normal|good|ok)$/i;

/** The system profile: charges in mAh, or in newer ones parts of full alone. */
function fromProfile(lines: readonly string[]): ReportedBattery[] {
  const at = pairsOf(lines);
  const full = amount(at.get('fullchargecapacity(mah)'), 'mAh');
  const part = at.get('maximumcapacity');
  if (!full && !(part?.endsWith('%') && at.has('cyclecount'))) return [];
  const doubts: string[] = [];
  if (!full) doubts.push('full-charge capacity in % only: left out');
  const condition = at.get('condition') ?? '';
  if (condition !== '' && !SOUND.test(condition)) doubts.push(`the system says of it: ${condition}`);
  if (/^no$/i.test(at.get('batteryinstalled') ?? '')) doubts.push('reported as not there');
  const volts = digitsOf(at.get('voltage(mv)'));
  return [
    {
      name: 'battery 1',
      maker: at.get('manufacturer') ?? '',
      model: at.get('devicename') ?? '',
      serial: at.get('serialnumber') ?? '',
      gauge: judged(
        { design: null, full, now: amount(at.get('chargeremaining(mah)'), 'mAh') },
        whole(at.get('cyclecount')),
        doubts,
      ),
      shown: whole(at.get('stateofcharge(%)')),
      volts: volts === undefined ? null : { digits: volts, unit: 'mV' },
      nominal: null,
      doubts,
    },
  ];
}

/** Properties of the management service, mWh. */
function fromService(lines: readonly string[]): ReportedBattery[] {
  const starts = lines.flatMap((l, i) => (/^DesignedCapacity\s*[:=]/i.test(l) ? [i] : []));
  // Which full charge belongs to which design cannot be told.
  if (starts.length > 1) return [];
  const at = pairsOf(lines);
  const [design, full] = [amount(at.get('designedcapacity'), 'mWh'), amount(at.get('fullchargedcapacity'), 'mWh')];
  if (!design && !full) return [];
  const doubts: string[] = [];
  return [
    {
      name: at.get('instancename') || 'battery 1',
      maker: at.get('manufacturename') ?? '',
      model: at.get('devicename') ?? '',
      serial: at.get('serialnumber') ?? '',
      gauge: judged({ design, full, now: amount(at.get('remainingcapacity'), 'mWh') }, whole(at.get('cyclecount')), doubts),
      shown: whole(at.get('estimatedchargeremaining')),
      volts: null,
      nominal: null,
      doubts,
    },
  ];
}

/** Reads one of these texts; no battery where it is none of them. @param lines without blanks at their ends. */
export function parseSystemText(lines: readonly string[]): ReportedBattery[] {
  for (const read of [fromCommand, fromProfile, fromService]) {
    const found = read(lines);
    if (found.length > 0) return found;
  }
  return [];
}
