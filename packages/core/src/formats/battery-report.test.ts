import fc from 'fast-check';
import { groupedWhole, reportText } from './battery-report';
import { parseGaugeText } from './gauge-text';

// Shapes of the reports from memory; the figures are made up, consistent in themselves.
const cell = (c: string) => `<td>${c}</td>`;
const row = (label: string, ...cells: string[]) =>
  `<tr><td><span class="label">${label}</span></td>${cells.map(cell).join('')}</tr>`;
const HTML = `<!DOCTYPE html><html><head><style>td { color: #333 }</style><script>var rows = "<tr><td>DESIGN CAPACITY</td><td>1 mWh</td></tr>"</script></head><body>
<h1>Battery report</h1><table><tr><td class="label">COMPUTER NAME</td><td>BENCH-4</td></tr></table>
<h2>Installed batteries</h2><table><thead><tr><td> </td><td>BATTERY 1</td><td>BATTERY 2</td></tr></thead>
${row('NAME', 'WKSHP50', 'WKSHP20')}${row('MANUFACTURER', 'Tern &amp; Works', 'Tern')}${row('SERIAL NUMBER', '1234', '88')}
${row('CHEMISTRY', 'LiP', 'NiMH')}${row('DESIGN CAPACITY', '50,160 mWh', '20 160 mWh')}<tr style="height:0.4em;"></tr>
${row('FULL CHARGE CAPACITY', '42,636 mWh', '0 mWh')}${row('CYCLE COUNT', '312', '-')}</table>
<h2>Recent usage</h2><table>${row('2026-11-02', 'Active', 'Battery', '85 %', '36,000 mWh')}</table>
<h2>Battery capacity history</h2><table><tr><td>PERIOD</td><td>FULL CHARGE CAPACITY</td><td>DESIGN CAPACITY</td></tr></table></body></html>`;

const summary = (text: string) =>
  parseGaugeText(text).map((b) => [
    b.name,
    b.model,
    b.gauge.designCapacity?.digits,
    b.gauge.fullChargeCapacity?.digits,
    b.gauge.cycleCount,
  ]);

test('the battery report as HTML, as its rows copied off it, and as XML say the same; two batteries stay two', () => {
  expect(summary(HTML)).toEqual([
    ['BATTERY 1', 'WKSHP50', '50160', '42636', 312],
    ['BATTERY 2', 'WKSHP20', '20160', undefined, undefined],
  ]);
  expect(summary(reportText(HTML))).toEqual(summary(HTML));
  expect(reportText(HTML)).not.toMatch(/36,000|color/);
  const [first, second] = parseGaugeText(HTML);
  expect([first!.maker, first!.doubts, second!.doubts]).toEqual([
    'Tern & Works',
    [],
    ['technology NiMH: not lithium-ion', 'full-charge capacity 0: left out'],
  ]);
  const xml = (relative: number) => `<?xml version="1.0"?><BatteryReport><Batteries><Battery><Id>WKSHP50</Id>
    <Manufacturer>Tern</Manufacturer><SerialNumber>1234</SerialNumber><Chemistry>LION</Chemistry><RelativeCapacity>${relative}</RelativeCapacity>
    <DesignCapacity>50160</DesignCapacity><FullChargeCapacity>42636</FullChargeCapacity><CycleCount>312</CycleCount></Battery></Batteries></BatteryReport>`;
  expect(summary(xml(0))).toEqual([['battery 1', 'WKSHP50', '50160', '42636', 312]]);
  expect(parseGaugeText(xml(1))[0]).toMatchObject({
    gauge: { cycleCount: 312 },
    doubts: ['capacities are parts of full, not mWh: left out'],
  });
});

test('grouped thousands of any country are one number; what may be something else is none', () => {
  fc.assert(
    fc.property(fc.nat(999_999_999), fc.constantFrom(',', '.', ' ', '\u00a0', '\u202f', '’', "'", ''), (n, mark) => {
      expect(groupedWhole(String(n).replace(/\B(?=(\d{3})+$)/g, mark))).toBe(String(n));
    }),
  );
  for (const odd of ['', '-', '1,5', '1.2345', '12,345.678', '1,234 567', '-5', '1e4']) expect(groupedWhole(odd)).toBeNull();
});

const REGISTRY = `+-o SmartBattery  <class SmartBattery, id 0x1000002, registered, matched, active>
    {
      "ExternalConnected" = No
      "MaxCapacity" = 100
      "CurrentCapacity" = 63
      "DesignCapacity" = 4382
      "AnyRawMaxCapacity" = 3740
      "AnyRawCurrentCapacity" = 2356
      "Voltage" = 11823
      "CycleCount" = 312
      "PermanentFailureStatus" = 0
      "Serial" = "TW1234"
      "BatteryData" = {"CellVoltage"=(3941,3940,3942),"DesignCapacity"=4382}
    }`;

test('the registry listing: raw figures before the ones in %, cells, a permanent failure, and the same as a property list', () => {
  const [b] = parseGaugeText(REGISTRY);
  expect(b).toMatchObject({ serial: 'TW1234', shown: 63, volts: { digits: '11823', unit: 'mV' }, doubts: [] });
  expect(b!.gauge).toEqual({
    designCapacity: { digits: '4382', unit: 'mAh' },
    fullChargeCapacity: { digits: '3740', unit: 'mAh' },
    remainingCapacity: { digits: '2356', unit: 'mAh' },
    cycleCount: 312,
    cellVoltages: ['3941', '3940', '3942'].map((digits) => ({ digits, unit: 'mV' })),
  });
  const list = REGISTRY.replace(/"(\w+)" = (\d+)/g, '<key>$1</key>\n<integer>$2</integer>').split('"BatteryData"')[0]!;
  const { cellVoltages: _cells, ...others } = b!.gauge;
  expect(parseGaugeText(list)[0]!.gauge).toEqual(others);
  const failed = REGISTRY.replace('FailureStatus" = 0', 'FailureStatus" = 4').replace('3940', '0');
  expect(parseGaugeText(failed)[0]).toMatchObject({ gauge: { permanentFailure: true } });
  expect(parseGaugeText(failed)[0]!.gauge).not.toHaveProperty('cellVoltages');
  expect(parseGaugeText(REGISTRY.replace(/.*Raw.*\n/g, ''))[0]!.gauge).not.toHaveProperty('fullChargeCapacity');
});

const daemon = (path: string, mark: string, supply = 'yes') => `Device: /org/power/devices/battery_${path}
  native-path:          ${path}
  vendor:               Tern
  model:                WKSHP50
  power supply:         ${supply}
  battery
    present:             yes
    energy:              21${mark}3 Wh
    energy-full:         42${mark}6 Wh
    energy-full-design:  50${mark}2 Wh
    voltage:             11${mark}54 V
    charge-cycles:       312
    percentage:          50%
    technology:          lithium-ion
`;

test('the daemon’s text: either decimal mark, figures as printed; a mouse and the sum of all are no packs', () => {
  const sum = daemon('X', '.')
    .replace('battery_X', 'DisplayDevice')
    .replace(/.*native-path.*\n/, '');
  const found = parseGaugeText(daemon('BAT0', ',') + daemon('BAT1', '.') + daemon('hidpp', '.', 'no') + sum);
  expect(found.map((b) => b.name)).toEqual(['BAT0', 'BAT1']);
  for (const b of found)
    expect(b).toMatchObject({
      gauge: {
        designCapacity: { digits: '50.2', unit: 'Wh' },
        fullChargeCapacity: { digits: '42.6', unit: 'Wh' },
        remainingCapacity: { digits: '21.3', unit: 'Wh' },
        cycleCount: 312,
      },
      shown: 50,
      doubts: [],
    });
  expect(() => parseGaugeText(sum)).toThrow(/no battery found/);
});

test('whatever is pasted, it is read or refused in words; a cut report never gives more than the whole one', () => {
  const whole = [HTML, REGISTRY, daemon('BAT0', '.')];
  fc.assert(
    fc.property(fc.constantFrom(...whole), fc.nat(2000), fc.string(), (text, at, odd) => {
      const cut = text.slice(0, at) + odd;
      try {
        for (const b of parseGaugeText(cut))
          for (const key of ['designCapacity', 'fullChargeCapacity', 'remainingCapacity'] as const)
            if (b.gauge[key]) expect(Number(b.gauge[key].digits)).toBeGreaterThan(0);
      } catch (e) {
        expect((e as Error).message).toMatch(/no battery found|charger/);
      }
    }),
  );
});
