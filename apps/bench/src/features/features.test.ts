import { DEFAULT_POLICY, foldPack, type LabelBody, type LoggedEntry, type PackFacts, type ShippingFacts } from '@gavrel/core';
import { rulingOf } from '../state/rulings';
import { travelWords } from '../ui/ruling-strip';
import { dayWords, dueWords, withDays } from '../ui/say';
import { labelDraft, labelDrafts } from '../entry/label-draft';
import { readingTask } from '../entry/tasks';
import { find } from '../stock/find';
import { stockDrafts, type StockLine } from './table/stock';

const PACK = 'b0000000-0000-4000-8000-000000000001';
const base = {
  v: 1,
  workshop: 'w',
  at: '2026-11-25T08:00:00.000Z',
  tz: 'UTC',
  by: 'p',
  device: 'd',
  hazard: false,
  seq: null,
  recordedAt: null,
  effectiveAt: null,
};
const facts = (...more: object[]): PackFacts =>
  foldPack(PACK, [
    { ...base, id: '1', subjects: [`pack:${PACK}`], kind: 'pack-added', body: { tag: 'P-1', use: 'removed' } },
    ...more.map((m, i) => ({ ...base, id: String(i + 2), subjects: [`pack:${PACK}`], ...m })),
  ] as LoggedEntry[])!;

describe('what a change of the label becomes', () => {
  const label = { kind: 'label-read', body: { nominalVoltage: { digits: '11.4', unit: 'V' } } };
  test('a new field is a reading of its own', () => {
    expect(labelDraft(facts(label), { typeCode: 'AB' })).toMatchObject({ kind: 'label-read', body: { typeCode: 'AB' } });
  });
  test('a field that is there is a correction of the entry that said it, and keeps the rest of it', () => {
    expect(labelDraft(facts(label), { nominalVoltage: { digits: '11.1', unit: 'V' } })).toMatchObject({
      kind: 'corrected',
      replaces: '2',
      body: { body: { nominalVoltage: { digits: '11.1', unit: 'V' } } },
    });
  });
  test('fields that several readings said are mended in each of them: none is left that says the old', () => {
    const two = facts(label, { kind: 'label-read', body: { typeCode: 'AB', chemistry: 'ni-mh' } });
    const seen = { nominalVoltage: { digits: '11.1', unit: 'V' }, chemistry: 'li-ion', madeOn: '2024' } as const;
    const now = Object.assign({}, ...two.labels.map((l) => l.body)) as LabelBody;
    expect(labelDrafts(two, now, seen).map((d) => [d.kind, d.replaces, d.body])).toEqual([
      ['corrected', '2', expect.objectContaining({ body: { nominalVoltage: seen.nominalVoltage } })],
      ['corrected', '3', expect.objectContaining({ body: { typeCode: 'AB', chemistry: 'li-ion' } })],
      ['label-read', undefined, { madeOn: '2024' }],
    ]);
  });
});

test('the keypad leads from point to point and ends', () => {
  const first = readingTask(facts(), 3, 'cell', ['1', '2']);
  expect(first.title).toBe('Cell 1');
  const second = first.next!()!;
  expect(second.title).toBe('Cell 2');
  expect(second.next).toBeUndefined();
  expect(second.draft({ digits: '3.81', unit: 'V' }, {})).toMatchObject({
    kind: 'reading-taken',
    body: { point: '2', quantity: 'cell-voltage' },
  });
});

test('a search forgives look-alikes and says which', () => {
  const line = {
    facts: facts(),
    condition: 'unproven' as const,
    columns: { tag: 'P-1', code: 'BH0C15S', keys: ['P-1', 'BH0C15S', 'SN-77'] },
    place: '',
  };
  expect(find([line], 'bhoc', null)).toMatchObject([{ forgave: ['O taken for 0'] }]);
  expect(find([line], 'p-1', null)).toMatchObject([{ forgave: [] }]);
  expect(find([line], 'sn77', null)).toHaveLength(1);
  expect(find([line], '', 'damaged')).toEqual([]);
  expect(find([line], 'zzz', null)).toEqual([]);
});

test('a day is told one way, in a sentence too; what is no whole day stays as it was printed', () => {
  expect(withDays('in box B since 2026-09-28: it leaves by 2026-12-20')).toBe(
    'in box B since Mon 28 Sep 2026: it leaves by Sun 20 Dec 2026',
  );
  for (const as of ['2021', '2021-05', '']) expect(dayWords(as)).toBe(as);
});

test('words: due days as people say them, and the way it travels', () => {
  expect(dueWords('2026-11-27', '2026-11-25')).toBe('due in 2 days, Fri 27 Nov');
  expect(dueWords('2026-11-24', '2026-11-25')).toBe('1 day late, Tue 24 Nov');
  expect(travelWords(rulingOf(facts({ kind: 'finding-recorded', body: { code: 'swollen' } }), DEFAULT_POLICY, 'UTC').cells)).toBe(
    'road and air: hold',
  );
});

describe('a table taken in as stock', () => {
  const line = (tag: string, more: object, bad = false) => ({ line: 1, tag, bad, facts: more as ShippingFacts, printed: {} });
  const WORKSHOP = '7e2f9a54-0c1d-4a58-9a63-2d6f5b7c8e10';
  const take = (...lines: StockLine[]) => stockDrafts(lines, WORKSHOP, () => false);
  test('what speaks against a pack comes with it; a clearing, "nothing found" and "tested" do not', () => {
    const { drafts } = take(
      line('A', {
        nominalVoltage: 11.4,
        findings: ['swollen', 'purple'],
        cleared: true,
        typeTested: 'yes',
        conditionKnown: true,
      }),
      line('B', { findings: [], typeTested: 'no' }),
    );
    expect(drafts.map((d) => [d.kind, (d.body as { code?: string }).code])).toEqual([
      ['pack-added', undefined],
      ['label-read', undefined],
      ['finding-recorded', 'swollen'],
      ['finding-recorded', 'cannot-examine'],
      ['pack-added', undefined],
      ['evidence-stated', undefined],
    ]);
  });
  test('a tag twice is one pack, whatever its case, and a figure stays as it was printed', () => {
    const printed = { ratedCapacity: { digits: '5000', unit: 'mAh' }, nominalVoltage: { digits: '11400', unit: 'mV' } };
    const { drafts, taken } = take(
      { ...line('LD-04', { ratedCapacity: 5, nominalVoltage: 11.4, series: 3 }), printed },
      line(' ld-04', { parallel: 2 }),
    );
    expect(taken.map((x) => x.words)).toEqual(['taken in', 'tag stands in the table before']);
    expect(drafts.map((d) => d.body)).toMatchObject([
      { tag: 'LD-04' },
      { ratedCapacity: { digits: '5000', unit: 'mAh' }, nominalVoltage: { digits: '11.4', unit: 'V' }, series: 3 },
    ]);
    expect(drafts).toHaveLength(2);
  });
  test('a tag that is here, a line without one and a bad line are reported and left out', () => {
    const { drafts, taken } = stockDrafts([line('A', {}), line('', {}), line('C', {}, true)], WORKSHOP, () => true);
    expect(drafts).toEqual([]);
    expect(taken.map((x) => x.words)).toEqual(['tag is here already', 'no tag', 'mend the line first']);
  });
});
