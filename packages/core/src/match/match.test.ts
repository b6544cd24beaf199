import fc from 'fast-check';
import { condition } from '../condition/condition';
import type { Bodies, LabelBody, LoggedEntry } from '../logbook/entry';
import { DEFAULT_POLICY, foldPack } from '../logbook/fold';
import { ALL_GROUPS, entry, NOW, ON, PACK } from '../logbook/testing';
import { type Candidate, matchPacks } from './match';

const NEW = 'b0000000-0000-4000-8000-000000000002';
const mm = (digits: string) => ({ digits, unit: 'mm' as const });
const LABEL: LabelBody = {
  chemistry: 'li-ion',
  typeCode: 'AB-50',
  nominalVoltage: { digits: '11.4', unit: 'V' },
  ratedCapacity: { digits: '4386', unit: 'mAh' },
  ratedEnergy: { digits: '50', unit: 'Wh' },
  limitedChargeVoltage: { digits: '13.05', unit: 'V' },
  madeOn: '2025-05',
};
const FORM: Bodies['form-noted'] = {
  length: mm('210'),
  width: mm('98'),
  thickness: mm('5.0'),
  connector: 'side tabs',
  ears: 4,
  cable: 'with it',
};

/** A looked-at pack with a label and a form; `undefined` takes a field away. */
function pack(
  id: string,
  label: Partial<LabelBody> = {},
  form: Partial<Bodies['form-noted']> = {},
  more: LoggedEntry[] = [],
): Candidate {
  const clean = <T extends object>(o: T) => Object.fromEntries(Object.entries(o).filter(([, v]) => v !== undefined)) as T;
  const subjects = [`pack:${id}` as const];
  const entries = [
    entry('pack-added', { tag: 'P', use: 'spare' }, { subjects }),
    entry('label-read', clean({ ...LABEL, ...label }), { subjects }),
    entry('form-noted', clean({ ...FORM, ...form }), { subjects }),
    entry('looked', { groups: [...ALL_GROUPS] }, { subjects }),
    entry('gauge-read', { cellVoltages: ['3.80', '3.80', '3.80'].map((d) => ({ digits: d, unit: 'V' as const })) }, { subjects }),
    entry('evidence-stated', { typeTested: 'yes' }, { subjects }),
    ...more.map((e) => ({ ...e, subjects })),
  ];
  const facts = foldPack(id, entries)!;
  return { facts, judgement: condition(facts, DEFAULT_POLICY, NOW) };
}
const old = pack(PACK);
const match = (label: Partial<LabelBody> = {}, form: Partial<Bodies['form-noted']> = {}, more: LoggedEntry[] = []) =>
  matchPacks(old, pack(NEW, label, form, more), ON);
const at = (m: ReturnType<typeof match>, id: string) => m.criteria.find((c) => c.id === id)!;
const found = (code: string) => [entry('finding-recorded', { code })];

test('the same pack again fits', () => expect(match().verdict).toBe('fits'));
test('another type code is no bar, and a misread one is named', () => {
  expect(match({ typeCode: 'XY-9' }).verdict).toBe('fits');
  expect(at(match({ typeCode: 'A8-50' }), 'code').words).toMatch(/8 taken for B/);
});

// Common practice, no source, unless said: hard criteria of a refit.
test.each<[string, Partial<LabelBody>, Partial<Bodies['form-noted']>, string]>([
  ['a lower charge limit would be overcharged', { limitedChargeVoltage: { digits: '12.6', unit: 'V' } }, {}, 'limit'],
  ['another connector', {}, { connector: 'flap' }, 'connector'],
  ['1 mm too long', {}, { length: mm('211') }, 'length'],
  ['too thick', {}, { thickness: mm('5.6') }, 'thickness'],
  ['ears that do not line up', {}, { ears: 3 }, 'ears'],
  ['another chemistry', { chemistry: 'ni-mh' }, {}, 'chemistry'],
])('does not fit: %s', (_what, label, form, id) => {
  const m = match(label, form);
  expect(m.verdict).toBe('does not fit');
  expect(at(m, id).result).toBe('differs');
});
test('a higher charge limit is warned of, and fits', () => {
  const m = match({ nominalVoltage: { digits: '11.55', unit: 'V' }, limitedChargeVoltage: { digits: '13.2', unit: 'V' } });
  expect([m.verdict, at(m, 'limit').result, at(m, 'nominal').result]).toEqual(['fits', 'warn', 'warn']);
});
test('100 Wh is not crossed, 100.01 is', () => {
  const wh = (digits: string) => at(match({ ratedEnergy: { digits, unit: 'Wh' }, ratedCapacity: undefined }), 'energy').result;
  expect([wh('100'), wh('100.01')]).toEqual(['note', 'warn']);
});
test('a label that promises more than its size can hold is warned of', () => {
  const m = match({ ratedEnergy: { digits: '90', unit: 'Wh' }, ratedCapacity: undefined });
  expect(at(m, 'per-litre')).toMatchObject({ result: 'warn', words: expect.stringMatching(/more than its size/) as string });
});
test.each(['recelled', 'swollen', 'worn-out', 'dropped'])('a pack that is %s does not go into a machine', (code) =>
  expect(match({}, {}, found(code)).verdict).toBe('does not fit'),
);
test('a swollen old pack does not lend its thickness to the bay', () => {
  const grown = pack(PACK, {}, { thickness: undefined }, [
    entry('reading-taken', { quantity: 'new-thickness', figure: mm('5.00'), source: 'data-sheet' }),
    entry('reading-taken', { quantity: 'thickness', figure: mm('8.00'), point: 'centre' }),
  ]);
  expect(at(matchPacks(grown, pack(NEW, {}, { thickness: mm('7.9') }), ON), 'thickness').result).toBe('differs');
  // Where two say how thick it was when new, the bay is no deeper than the thinner one.
  const two = (said: string, stated: string) =>
    pack(PACK, {}, { thickness: mm(said) }, [
      entry('reading-taken', { quantity: 'new-thickness', figure: mm(stated), source: 'data-sheet' }),
    ]);
  for (const a of [two('8.0', '5.00'), two('5.0', '8.00')])
    expect(at(matchPacks(a, pack(NEW, {}, { thickness: mm('7.9') }), ON), 'thickness').result).toBe('differs');
});

const HARD: readonly (readonly ['label', keyof LabelBody] | readonly ['form', keyof Bodies['form-noted']])[] = [
  ['label', 'chemistry'],
  ['label', 'limitedChargeVoltage'],
  ['label', 'nominalVoltage'],
  ['form', 'connector'],
  ['form', 'length'],
  ['form', 'width'],
  ['form', 'thickness'],
  ['form', 'ears'],
];
test.each(HARD)('missing is unknown: without its %s %s it does not fit yet, on either side', (where, field) => {
  const without = { [field]: undefined };
  const args: [Partial<LabelBody>, Partial<Bodies['form-noted']>] = where === 'label' ? [without, {}] : [{}, without];
  expect(match(...args).verdict).toBe('not known yet');
  const m = matchPacks(pack(PACK, ...args), pack(NEW), ON);
  expect(m.verdict).toBe('not known yet');
});

test('a different series count never matches, whatever else is said', () => {
  const volts = fc.constantFrom('3.7', '7.4', '7.6', '11.1', '11.4', '14.8', '15.2');
  fc.assert(
    fc.property(volts, volts, fc.boolean(), fc.boolean(), (a, b, limit, code) => {
      const n = (v: string) => Math.round(Number(v) / 3.7);
      const label = (v: string) => ({
        nominalVoltage: { digits: v, unit: 'V' as const },
        ratedEnergy: undefined,
        limitedChargeVoltage: limit ? { digits: (n(v) * 4.2).toFixed(1), unit: 'V' as const } : undefined,
        ...(code && { typeCode: 'SAME' }),
      });
      const m = matchPacks(pack(PACK, label(a)), pack(NEW, label(b)), ON);
      if (n(a) !== n(b)) expect(m.verdict).toBe('does not fit');
    }),
    { numRuns: 60 },
  );
});
