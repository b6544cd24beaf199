import fc from 'fast-check';
import { claimsIn } from './grammar';
import { cropped, type Grey, inkOf, levelling, turned, withoutRules } from './picture';
import { readLabel } from './reading';
import { settle } from './settle';
import { lookAlikes, numberIn, type PixelBox, type ReadLine } from './text';

const TODAY = '2026-11-27';

/** Lines as a reader gives them, one word after the other. */
const lines = (texts: readonly string[], confidence = 92): ReadLine[] =>
  texts.map((t, row) =>
    t.split(' ').map((text, i): ReadLine[number] => ({ text, confidence, box: [i * 100, row * 40, 90, 30] satisfies PixelBox })),
  );
const told = (texts: readonly string[]) => settle([lines(texts), lines(texts)], TODAY);
const said = (texts: readonly string[]) =>
  Object.fromEntries(told(texts).map((f) => [f.field, f.unit ? `${f.said} ${f.unit}` : f.said]));

test('labels of several makers and languages say the same fields', () => {
  const want = { nominalVoltage: '11.4 V', ratedCapacity: '4386 mAh', ratedEnergy: '50 Wh', limitedChargeVoltage: '13.05 V' };
  expect(
    said(['Rated voltage: 11.4 V[]', 'Rated capacity: 4386mAh/50Wh', 'Limited charge voltage: 13.05VDC', 'Li-ion 3ICP6/60/91']),
  ).toEqual({ ...want, chemistry: 'li-ion', designation: '3ICP6/60/91' });
  expect(said(['Nennspannung 11,4 V', 'Kapazität 4386 mAh', 'Energie 50 Wh', 'Ladeschlussspannung 13,05 V'])).toEqual(want);
  expect(
    said(['Tension nominale: 11,4 Vv', 'Capacité nominale 4386 mah', 'Énergie 50 wh', 'Tension de charge max.', '13,05 V']),
  ).toEqual(want);
});

test('a charger’s or an output’s voltage is none of the pack’s; typical capacity is not the rated one', () => {
  expect(said(['Input: 19.5 V', 'Discharge cut-off 9.0 V', '11.4 V 50.1 Wh'])).toEqual({
    nominalVoltage: '11.4 V',
    ratedEnergy: '50.1 Wh',
  });
  expect(said(['11.55 V', 'Typical capacity 4210 mAh 48.6 Wh', 'Rated capacity 4090 mAh'])).toMatchObject({
    typicalCapacity: '4210 mAh',
    ratedCapacity: '4090 mAh',
  });
});

test('rated and typical stand side by side, before or behind their numbers, each with an energy of its own', () => {
  const want = { nominalVoltage: '11.46 V', ratedCapacity: '3578 mAh', ratedEnergy: '41.0 Wh', typicalCapacity: '3665 mAh' };
  for (const texts of [
    ['11.46V = Min. 3578mAh/41.0Wh Typ. 3665mAh/42.0Wh'],
    ['11.46V 3578mAh 41.0Wh (Min.)', '3665mAh 42.0Wh (Typ.)'],
    ['TypicaI capacity 3665 mAh (42.0 Wh)', 'Rated capacity 3578 mAh (41.0 Wh)', 'Voltage 11.46 V'],
  ])
    expect(said(texts)).toEqual(want);
});

test('thousands that are set apart are one number, and a sentence goes on in the next line', () => {
  for (const q of ['4 400', '4,400', '4.400', '4400'])
    expect(said(['Tension nominale : 14,4 V', `Capacité : ${q} mAh`, 'Énergie : 63,36 Wh'])).toMatchObject({
      ratedCapacity: '4400 mAh',
    });
  expect(said(['11.4 V 4167 mAh, limited charge', 'voltage: 13.05 V'])).toMatchObject({ limitedChargeVoltage: '13.05 V' });
  expect(said(['11.4 V 4167 mAh, limited charge voltage', '13.05 V. Caution'])).toMatchObject({
    limitedChargeVoltage: '13.05 V',
  });
  expect(said(['Use with 19 V adapter', '11.4 V 4167 mAh'])).toMatchObject({ nominalVoltage: '11.4 V' });
  expect(said(['7 4V', 'Rated capacity 057 mAh'])).toEqual({});
});

test('letters among digits are what they look like; dates and designations as well, and no day that was not', () => {
  expect([numberIn('1O.8'), numberIn('l1,4'), numberIn('SO'), numberIn('11.4.2')]).toEqual([
    { digits: '10.8', changed: true },
    { digits: '11.4', changed: true },
    null,
    null,
  ]);
  expect(said(['21CP7/62/104', 'Mfg. date 2022-O6'])).toEqual({ designation: '2ICP7/62/104', madeOn: '2022-06' });
  expect(said(['Date 2022-13', 'Date 2022.02.30', 'Date 2031-01'])).toEqual({});
});

const label = fc
  .record({
    series: fc.constantFrom(2, 3, 4),
    cell: fc.constantFrom([3.6, 4.2], [3.7, 4.2], [3.8, 4.35], [3.85, 4.4], [3.87, 4.45]),
    mAh: fc.integer({ min: 2000, max: 9000 }),
    places: fc.constantFrom(1, 2),
    inAh: fc.boolean(),
  })
  .map(({ series, cell, mAh, places, inAh }) => ({
    nominalVoltage: String(Math.round(series * cell[0]! * 100) / 100),
    ratedCapacity: inAh ? (mAh / 1000).toFixed(3) : String(mAh),
    unit: inAh ? 'Ah' : 'mAh',
    ratedEnergy: ((Math.round(series * cell[0]! * 100) * mAh) / 100_000).toFixed(places),
    limitedChargeVoltage: String(Math.round(series * cell[1]! * 100) / 100),
  }));
const FIELDS = ['nominalVoltage', 'ratedCapacity', 'ratedEnergy', 'limitedChargeVoltage'] as const;
type Printed = Record<(typeof FIELDS)[number] | 'unit', string>;
const print = (l: Printed) => [
  `Rated ${l.nominalVoltage} V ${l.ratedCapacity} ${l.unit}`,
  `${l.ratedEnergy} Wh`,
  `Limited charge voltage ${l.limitedChargeVoltage} V`,
];

test('what was read right is offered right; every figure but those that nothing confirms is sure', () => {
  let sure = 0;
  let all = 0;
  fc.assert(
    fc.property(label, (l) => {
      const found = told(print(l));
      for (const f of FIELDS) expect(found.find((x) => x.field === f)?.said).toBe(l[f]);
      all += FIELDS.length;
      sure += found.filter((f) => f.sure).length;
    }),
  );
  expect(sure / all).toBeGreaterThan(0.5);
});

test('with any one or two digits taken for others, or points lost, in every reading alike, nothing wrong is sure', () => {
  fc.assert(
    fc.property(
      label,
      fc.uniqueArray(fc.tuple(fc.constantFrom(...FIELDS), fc.nat()), { minLength: 1, maxLength: 2, selector: ([f]) => f }),
      fc.boolean(),
      (l, slips, points) => {
        const spoiled: Printed = { ...l };
        for (const [field, n] of slips) {
          const others = points ? [spoiled[field].replace('.', '')] : lookAlikes(spoiled[field]);
          if (others.length > 0) spoiled[field] = others[n % others.length]!;
        }
        for (const f of told(print(spoiled)))
          if (f.sure && (FIELDS as readonly string[]).includes(f.field))
            expect(f.said).toBe(l[f.field as (typeof FIELDS)[number]]);
      },
    ),
    { numRuns: 2000 },
  );
});

test('one reading alone is never sure, nor a figure that two readings tell differently', () => {
  const good = ['11.4 V 4386 mAh 50.0 Wh'];
  expect(settle([lines(good)], TODAY).some((f) => f.sure)).toBe(false);
  const other = settle([lines(good), lines(['11.1 V 4386 mAh 50.0 Wh'])], TODAY);
  expect(other.find((f) => f.field === 'nominalVoltage')).toMatchObject({ said: '11.4', sure: false });
});

test('a digit that makes the label add up is offered as mended, where only one does', () => {
  const [v] = told(['11.4 V 4386 mAh 56.0 Wh']).filter((f) => f.field === 'ratedEnergy');
  expect(v).toMatchObject({ said: '50.0', mended: true, sure: false });
  const [lost] = told(['Rated voltage 114 V', '4386 mAh 50.0 Wh']).filter((f) => f.field === 'nominalVoltage');
  expect(lost).toMatchObject({ said: '11.4', mended: true, sure: false });
});

/** Five lines of bars, as text lies on a label, in a light that falls off to one side. */
function page(dark: boolean): Grey {
  const [width, height] = [600, 400];
  const data = new Uint8Array(width * height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const ink = x > 140 && x < 460 && y > 110 && y < 290 && y % 36 < 14 && x % 11 < 6;
      data[y * width + x] = (ink !== dark ? 30 : 230) * (0.4 + (0.6 * x) / width);
    }
  return { width, height, data };
}

test('a picture is levelled to within half a degree, whatever the light, dark on light and light on dark', () => {
  fc.assert(
    fc.property(fc.double({ min: -15, max: 15, noNaN: true }), fc.boolean(), (degrees, dark) => {
      const askew = cropped(turned(page(dark), degrees), [110, 80, 420, 300]);
      expect(Math.abs(levelling(inkOf(askew, 14)) + degrees)).toBeLessThan(0.6);
    }),
    { numRuns: 6 },
  );
});

test('frames and ruled lines go, a little crooked too, and letters stay as they are', () => {
  const letters = page(false);
  const ruled = { ...letters, data: Uint8Array.from(letters.data) };
  for (let x = 90; x < 510; x++) for (const y of [90, 300]) ruled.data[(y + Math.floor(x / 140)) * 600 + x] = 20;
  for (let y = 90; y < 304; y++) for (const x of [90, 509]) ruled.data[y * 600 + x] = 20;
  const ink = (g: Grey) => inkOf(g, 14).data.reduce((n, d) => n + Number(d < 128), 0);
  const left = (g: Grey) => withoutRules(inkOf(g, 14), 70, 35).data.reduce((n, d) => n + Number(d < 128), 0);
  expect(ink(ruled)).toBeGreaterThan(ink(letters) + 800);
  expect(left(letters)).toBe(ink(letters));
  expect(Math.abs(left(ruled) - ink(letters))).toBeLessThan(20);
});

test('a label on its side or on its head is turned until it reads', async () => {
  const plain = page(false);
  const headed = { ...plain, data: Uint8Array.from(plain.data) };
  for (let y = 70; y < 84; y++) for (let x = 140; x < 240; x++) if (x % 11 < 6) headed.data[y * 600 + x] = 20;
  /** Its heading stands to the left above the other lines. */
  const reads = ({ width, height, data }: Grey) => {
    let [first, last] = [0, 0];
    for (let i = 0; i < data.length; i++) {
      if (data[i]! >= 128) continue;
      if (i % width < width / 2 && i < data.length / 2) first += 1;
      else if (i % width >= width / 2 && i >= data.length / 2) last += 1;
    }
    return width > height && first > last;
  };
  for (const quarter of [90, 180]) {
    let views = 0;
    const reading = await readLabel(
      turned(headed, quarter),
      (g) => {
        views += 1;
        const level = reads(g);
        const texts = level ? ['11.4V', '4386mAh', '50Wh', 'Li-ion'] : ['yyw', '9SBD', '99/6', 'Um'];
        const box: PixelBox = [g.width / 2 - 20, g.height / 2 - 10, 40, 20];
        return Promise.resolve([texts.map((text) => ({ text, confidence: level ? 92 : 75, box }))]);
      },
      TODAY,
    );
    expect(reading.figures.find((f) => f.field === 'ratedEnergy')?.said).toBe('50');
    expect(reading.quarter).toBe(360 - quarter);
    expect(views).toBeLessThanOrEqual(6);
  }
});

test('letters that fill the picture are read, though their strokes are as long as ruled lines', async () => {
  const large: Grey = { width: 600, height: 300, data: new Uint8Array(180_000).fill(230) };
  for (let y = 100; y < 190; y++) for (let x = 60; x < 540; x++) if (x % 60 < 9) large.data[y * 600 + x] = 20;
  const inkOfAll = (g: Grey) => g.data.reduce((n, d) => n + Number(d < 128), 0);
  const { figures } = await readLabel(
    large,
    (g) => {
      const whole = inkOfAll(g) > 5000;
      const box: PixelBox = [g.width / 4, g.height / 3, g.width / 8, g.height / 3];
      return Promise.resolve(whole ? [['11.4V', '4386mAh', '50Wh'].map((text) => ({ text, confidence: 92, box }))] : []);
    },
    TODAY,
  );
  expect(figures.find((f) => f.field === 'ratedEnergy')?.said).toBe('50');
});

test('where a figure was read is told on the picture as it was given, however it was turned and enlarged', async () => {
  const at: PixelBox = [230, 180, 60, 14];
  const seen: Grey[] = [];
  const askew = turned(page(false), -7);
  const reading = await readLabel(
    askew,
    (g) => {
      seen.push(g);
      // What lies level round the middle lies there in every view.
      const [w, h] = [g.width / 10, g.height / 20];
      const box: PixelBox = [g.width / 2 - w / 2, g.height / 2 - h / 2, w, h];
      return Promise.resolve(['11.4V', '4386mAh', '50Wh', 'Li-ion'].map((text) => [{ text, confidence: 90, box }]));
    },
    TODAY,
  );
  expect(seen.length).toBeGreaterThanOrEqual(2);
  const box = reading.figures.find((f) => f.field === 'ratedEnergy')!.box;
  const middle = [box[0] + box[2] / 2, box[1] + box[3] / 2];
  expect(Math.hypot(middle[0]! - askew.width / 2, middle[1]! - askew.height / 2)).toBeLessThan(Math.max(at[2], at[3]));
});

test('grain and an empty picture say nothing, and end', async () => {
  const noise: Grey = { width: 300, height: 200, data: Uint8Array.from({ length: 60_000 }, (_, i) => (i * 7919) % 256) };
  const none = await readLabel(noise, () => Promise.resolve([[{ text: 'EE', confidence: 20, box: [0, 0, 5, 5] }]]), TODAY);
  expect(none.figures).toEqual([]);
  expect(claimsIn([])).toEqual([]);
});
