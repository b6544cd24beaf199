import { parseGaugeText } from './gauge-text';

/** Made up, consistent in itself. */
const UEVENT = `POWER_SUPPLY_NAME=BAT0
POWER_SUPPLY_TYPE=Battery
POWER_SUPPLY_STATUS=Discharging
POWER_SUPPLY_PRESENT=1
POWER_SUPPLY_TECHNOLOGY=Li-ion
POWER_SUPPLY_CYCLE_COUNT=312
POWER_SUPPLY_VOLTAGE_MIN_DESIGN=11400000
POWER_SUPPLY_VOLTAGE_NOW=11538000
POWER_SUPPLY_POWER_NOW=8527200
POWER_SUPPLY_ENERGY_FULL_DESIGN=50160000
POWER_SUPPLY_ENERGY_FULL=42636000
POWER_SUPPLY_ENERGY_NOW=21318000
POWER_SUPPLY_CAPACITY=50
POWER_SUPPLY_MODEL_NAME=WKSHP50
POWER_SUPPLY_MANUFACTURER=TERNWORKS
POWER_SUPPLY_SERIAL_NUMBER= 1234`;
const line = (key: string, value: string) => UEVENT.replace(new RegExp(`POWER_SUPPLY_${key}=.*`), `POWER_SUPPLY_${key}=${value}`);
const one = (text: string) => parseGaugeText(text)[0]!;

test('uevent: energies in mWh, cycles, the design voltage under its other name, padded text', () => {
  const b = one(UEVENT);
  expect(b.gauge).toEqual({
    designCapacity: { digits: '50160', unit: 'mWh' },
    fullChargeCapacity: { digits: '42636', unit: 'mWh' },
    remainingCapacity: { digits: '21318', unit: 'mWh' },
    cycleCount: 312,
  });
  expect([b.nominal?.digits, b.volts?.digits, b.serial, b.shown, b.doubts]).toEqual(['11400', '11538', '1234', 50, []]);
});
test('charge family in mAh', () => {
  expect(one(UEVENT.replace(/ENERGY/g, 'CHARGE').replace(/=50160000/, '=4400000')).gauge.designCapacity).toEqual({
    digits: '4400',
    unit: 'mAh',
  });
});
test('two batteries stay two, and the charger is passed over', () => {
  const second = UEVENT.replace('BAT0', 'BAT1').replace('42636000', '40000000');
  const both = parseGaugeText(`POWER_SUPPLY_NAME=AC\nPOWER_SUPPLY_TYPE=Mains\nPOWER_SUPPLY_ONLINE=1\n${UEVENT}\n${second}`);
  expect(both.map((b) => [b.name, b.gauge.fullChargeCapacity?.digits])).toEqual([
    ['BAT0', '42636'],
    ['BAT1', '40000'],
  ]);
});

// Traps of gauge data as the kernel ABI and the ACPI specification leave them open; from memory.
test.each([
  ['a cycle count of 0 is nobody counting', line('CYCLE_COUNT', '0'), 'cycleCount', null],
  ['full 0 is no reading', line('ENERGY_FULL', '0'), 'fullChargeCapacity', /0: left out/],
  ['full over 115 % of design is no reading', line('ENERGY_FULL', '60000000'), 'fullChargeCapacity', /120 % of design/],
  ['more left than full', line('ENERGY_NOW', '50000000'), 'remainingCapacity', /more charge left/],
  ['an attribute that answers with an error', line('ENERGY_NOW', 'ENODATA'), 'remainingCapacity', null],
  ['all ones is unknown', line('ENERGY_FULL', '4294967295'), 'fullChargeCapacity', null],
])('%s', (_what, text, field, doubt) => {
  const b = one(text);
  expect(b.gauge).not.toHaveProperty(field);
  if (doubt) expect(b.doubts.join(';')).toMatch(doubt);
});
test('mWh that look like mAh are doubted, not corrected', () => {
  const b = one(line('ENERGY_FULL_DESIGN', '4400000').replace('42636000', '4000000').replace('21318000', '2000000'));
  expect(b.gauge.designCapacity).toEqual({ digits: '4400', unit: 'mWh' });
  expect(b.doubts.join()).toMatch(/looks like mAh/);
});

test('ACPI lines, information and state in one paste', () => {
  const b = one(
    'present: yes\ndesign capacity: 4400 mAh\nlast full capacity: 3740 mAh\ndesign voltage: 11400 mV\nremaining capacity: 1870 mAh\npresent voltage: 11538 mV',
  );
  expect(b.gauge).toMatchObject({
    designCapacity: { digits: '4400', unit: 'mAh' },
    fullChargeCapacity: { digits: '3740', unit: 'mAh' },
    remainingCapacity: { digits: '1870', unit: 'mAh' },
  });
});
test('two batteries in one ACPI paste stay two, also where they are alike', () => {
  const bat = (left: string) =>
    `present: yes\ndesign capacity: 4400 mAh\nlast full capacity: 3740 mAh\nremaining capacity: ${left} mAh`;
  const left = (text: string) => parseGaugeText(text).map((b) => b.gauge.remainingCapacity?.digits);
  expect(left(`${bat('1870')}\n${bat('3700')}`)).toEqual(['1870', '3700']);
  expect(left(`${bat('1870')}\n${bat('1870')}`)).toEqual(['1870', '1870']);
  expect(left(`BAT0:\n${bat('1870')}\nBAT1:\n${bat('3700')}`)).toEqual(['1870', '3700']);
});
test.each([
  ['a charger', 'POWER_SUPPLY_NAME=AC\nPOWER_SUPPLY_TYPE=Mains', /charger, not a battery/],
  ['something else', 'hello', /no battery found/],
  ['nothing', '', /no battery found/],
])('%s is refused with what to paste', (_what, text, message) => expect(() => parseGaugeText(text)).toThrow(message));

// Shapes from memory; the figures are made up.
const told = (text: string) =>
  parseGaugeText(text).map(({ name, gauge: g, shown, doubts }) => [
    name,
    g.designCapacity && `${g.designCapacity.digits} ${g.designCapacity.unit}`,
    g.fullChargeCapacity && `${g.fullChargeCapacity.digits} ${g.fullChargeCapacity.unit}`,
    g.cycleCount,
    shown,
    doubts.length,
  ]);
const FOLDER = '/sys/class/power_supply/BAT0/';

test.each<[string, string, ReturnType<typeof told>]>([
  [
    'files of the kernel, with their folders',
    [...['charge_full:3800000', 'charge_full_design:4400000', 'cycle_count:211', 'type:Battery']]
      .map((l) => FOLDER + l)
      .join('\n'),
    [['BAT0', '4400 mAh', '3800 mAh', 211, null, 0]],
  ],
  [
    'the same without, of two batteries one after the other',
    'energy_full=42636000\nenergy_full_design=50160000\nenergy_full=20000000\nenergy_full_design=24000000',
    [
      ['battery', '50160 mWh', '42636 mWh', undefined, null, 0],
      ['battery', '24000 mWh', '20000 mWh', undefined, null, 0],
    ],
  ],
  [
    'the same with a name above each',
    `==> ${FOLDER}charge_full <==\n3800000\n\n==> ${FOLDER}charge_full_design <==\n4400000\n`,
    [['BAT0', '4400 mAh', '3800 mAh', undefined, null, 0]],
  ],
  [
    'the system profile',
    'Battery Information:\n  Charge Information:\n    Charge Remaining (mAh): 3500\n    Full Charge Capacity (mAh): 4012\n  Cycle Count: 123\n  Condition: Normal',
    [['battery 1', undefined, '4012 mAh', 123, null, 0]],
  ],
  [
    'a newer one, that warns',
    'State of Charge (%): 87\nCycle Count: 923\nCondition: Service Recommended\nMaximum Capacity: 78%',
    [['battery 1', undefined, undefined, 923, 87, 2]],
  ],
  [
    'the management service',
    'DesignedCapacity    : 50160\nFullChargedCapacity : 42636\nCycleCount : 312',
    [['battery 1', '50160 mWh', '42636 mWh', 312, null, 0]],
  ],
])('%s', (_what, text, expected) => expect(told(text)).toEqual(expected));

test('two designs of the management service are not put together', () => {
  expect(() => parseGaugeText('DesignedCapacity: 50160\nDesignedCapacity: 20000\nFullChargedCapacity: 19000')).toThrow(
    /no battery found/,
  );
});
