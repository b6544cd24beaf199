import { execFileSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { healthOf, value } from '@gavrel/core';
import { parseGaugeText } from '@gavrel/core/job';

/** Debian's `acpi` reads a mocked sysfs; the same figures as uevent text go through our parser. Invented batteries. */
let folder: string;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'gavrel-sysfs-'));
});
afterEach(() => rmSync(folder, { recursive: true, force: true }));

type Attributes = Readonly<Record<string, string | number>>;

function both(attributes: Attributes) {
  const bat = join(folder, 'power_supply/BAT0');
  mkdirSync(bat, { recursive: true });
  for (const [k, v] of Object.entries(attributes)) writeFileSync(join(bat, k), `${v}\n`);
  const acpi = execFileSync('acpi', ['-b', '-i', '-d', folder], { encoding: 'utf8' });
  const uevent = [
    'POWER_SUPPLY_NAME=BAT0',
    ...Object.entries(attributes).map(([k, v]) => `POWER_SUPPLY_${k.toUpperCase()}=${v}`),
  ];
  return { acpi, ours: parseGaugeText(uevent.join('\n'))[0]! };
}

const BASE = {
  type: 'Battery',
  status: 'Discharging',
  present: 1,
  technology: 'Li-ion',
  capacity: 50,
  voltage_min_design: 11400000,
};

test.each<[string, Attributes]>([
  [
    'energies',
    {
      ...BASE,
      voltage_now: 11538000,
      power_now: 8527200,
      energy_full_design: 50160000,
      energy_full: 42636000,
      energy_now: 21318000,
    },
  ],
  [
    'charges',
    {
      ...BASE,
      voltage_now: 11400000,
      current_now: 740000,
      charge_full_design: 4400000,
      charge_full: 3300000,
      charge_now: 1650000,
    },
  ],
])('%s: capacity, wear and charge as acpi gives them', (_what, attributes) => {
  const { acpi, ours } = both(attributes);
  const { designCapacity: d, fullChargeCapacity: f, remainingCapacity: r } = ours.gauge;
  const shown = /design capacity (\d+) mAh, last full capacity (\d+) mAh = (\d+)%/.exec(acpi)!;
  const percent = Number(/ (\d+)%/.exec(acpi)![1]);
  // acpi turns energies into charges with the present voltage, and cuts decimals off.
  const amps = (x: number, unit: string) => (unit.endsWith('Wh') ? x / (Number(attributes.voltage_now) / 1e6) : x) * 1000;
  expect(Math.abs(amps(value(d!), d!.unit) - Number(shown[1]))).toBeLessThanOrEqual(1);
  expect(Math.abs(amps(value(f!), f!.unit) - Number(shown[2]))).toBeLessThanOrEqual(1);
  expect(Math.abs(healthOf(value(f!), value(d!))!.percent - Number(shown[3]))).toBeLessThanOrEqual(1);
  expect(Math.abs((100 * value(r!)) / value(f!) - percent)).toBeLessThanOrEqual(1);
  // What it prints is read as well, with a word on where its figures may come from.
  const [printed] = parseGaugeText(acpi);
  expect([printed!.gauge.designCapacity, printed!.gauge.fullChargeCapacity, printed!.shown]).toEqual([
    { digits: shown[1], unit: 'mAh' },
    { digits: shown[2], unit: 'mAh' },
    percent,
  ]);
  expect(printed!.doubts.join()).toMatch(/made of mWh/);
});
