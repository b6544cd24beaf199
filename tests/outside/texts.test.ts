import {
  beyondWords,
  classify,
  DEFAULT_POLICY,
  factWords,
  FINDINGS,
  foldPack,
  type LoggedEntry,
  PROVISIONS,
  provisionWords,
  rule,
} from '@gavrel/core';
import { carryOf, waysToYes } from '@gavrel/core/dispatch';
import fc from 'fast-check';
import { entry, NOW, ON, PACK } from '../../packages/core/src/logbook/testing';
import { facts, route } from './random-packs';

/** What a program says to itself and people must never read: no value, a name with a capital inside, a provision in one word. */
const INNER = /NaN|undefined|Infinity|\[object|\bnull\b|\b[a-z]+[A-Z]\w*|\b(?:PI|SP)\d{3}|\b\w+\.[a-z]+[A-Z]/;
/** Units are the only words with a capital inside. */
const bare = (text: string) => text.replace(/\b(?:m|k)(?:Ah|Wh|V|Ω)\b/g, '').replace(/\bpH\b/g, '');
const CODES = new RegExp(
  `\\b(?:${FINDINGS.map((f) => f.code)
    .filter((c) => c.includes('-'))
    .join('|')})\\b`,
);
const readable = (texts: readonly string[]) => texts.filter((t) => INNER.test(bare(t)) || CODES.test(t));

test('what is said of any package is in words', () => {
  fc.assert(
    fc.property(facts, route, (f, r) => {
      const c = classify(f, r);
      const carry = r.mode && f.placement ? carryOf(c, { placement: f.placement, mode: r.mode }) : null;
      const said = [
        ...c.notes,
        ...c.missing.map(factWords),
        ...c.contradictions.flatMap((x) => [x.sentence, ...x.fields.map(factWords)]),
        provisionWords(c.provision),
        ...(carry ? [...carry.packaging, ...carry.marks, ...carry.papers, carry.trained] : []),
        ...(c.outcome === 'hold' ? waysToYes(f, r).map((w) => w.words) : []),
      ];
      expect(readable(said)).toEqual([]);
    }),
    { numRuns: 3000, seed: 20261126 },
  );
});

const volts = (digits: string) => ({ digits, unit: 'V' as const });
const digits = (...from: string[]) => fc.option(fc.constantFrom(...from), { nil: undefined });
const minutes = fc.integer({ min: 0, max: 200 });

/** One statement about a pack, as careless hands make them: some cannot be, some contradict others. */
const statement: fc.Arbitrary<LoggedEntry> = fc.oneof(
  fc
    .record({
      v: digits('11.4', '15.2', '3.7', '9.6', '0.5'),
      q: digits('5', '4.4', '1234.5'),
      e: digits('57', '48', '99.9', '1', '999999999'),
      limit: digits('12.6', '13.05', '17.4', '2'),
      designation: digits('3ICP5/57/101', '4ICP5/57/101', 'INR 18/65', '??'),
      series: fc.option(fc.integer({ min: 1, max: 6 }), { nil: undefined }),
      chemistry: fc.option(fc.constantFrom('li-ion' as const, 'ni-mh' as const, 'li-metal' as const, 'na-ion' as const), {
        nil: undefined,
      }),
      minutes,
    })
    .map((l) =>
      entry(
        'label-read',
        {
          ...(l.v && { nominalVoltage: volts(l.v) }),
          ...(l.q && { ratedCapacity: { digits: l.q, unit: 'Ah' } }),
          ...(l.e && { ratedEnergy: { digits: l.e, unit: 'Wh' } }),
          ...(l.limit && { limitedChargeVoltage: volts(l.limit) }),
          ...(l.designation && { designation: l.designation }),
          ...(l.series && { series: l.series }),
          ...(l.chemistry && { chemistry: l.chemistry }),
        },
        { minutes: l.minutes },
      ),
    ),
  fc
    .record({
      quantity: fc.constantFrom(
        'pack-voltage' as const,
        'cell-voltage' as const,
        'thickness' as const,
        'new-thickness' as const,
        'surface-temperature' as const,
        'room-temperature' as const,
        'mass' as const,
      ),
      x: fc.constantFrom('0', '0.001', '2', '3.4', '3.95', '5.2', '12.55', '17.9', '45', '61', '600'),
      point: fc.constantFrom('1', '2', 'centre'),
      rest: fc.constantFrom(undefined, 0, 10, 300),
      of: fc.constantFrom(undefined, 1, 3, 4),
      minutes,
    })
    .map((r) =>
      entry(
        'reading-taken',
        {
          quantity: r.quantity,
          figure: {
            digits: r.x,
            unit: r.quantity.includes('voltage') ? 'V' : r.quantity.includes('temp') ? '°C' : r.quantity === 'mass' ? 'kg' : 'mm',
          },
          point: r.point,
          ...(r.rest !== undefined && { restMinutes: r.rest }),
          ...(r.of && { set: { id: `e0000000-0000-4000-8000-00000000000${r.of}`, of: r.of } }),
        },
        { minutes: r.minutes },
      ),
    ),
  fc
    .record({
      f: digits('0', '4.1', '41', '57'),
      d: digits('0', '5', '57'),
      r: digits('0', '1.2', '60'),
      unit: fc.constantFrom('Ah' as const, 'Wh' as const),
      minutes,
    })
    .map((g) =>
      entry(
        'gauge-read',
        {
          ...(g.f && { fullChargeCapacity: { digits: g.f, unit: g.unit } }),
          ...(g.d && { designCapacity: { digits: g.d, unit: g.unit } }),
          ...(g.r && { remainingCapacity: { digits: g.r, unit: 'Ah' } }),
        },
        { minutes: g.minutes },
      ),
    ),
  fc
    .record({ code: fc.constantFrom(...FINDINGS.map((f) => f.code), 'purple'), minutes })
    .map((f) => entry('finding-recorded', { code: f.code }, f)),
  minutes.map((m) => entry('looked', { groups: ['shape', 'smell', 'heat', 'wet', 'mechanical', 'electrical'] }, { minutes: m })),
  minutes.map((m) => entry('topped-up', { to: 50 }, { minutes: m })),
);

test('what is said of any pack is in words, whatever was typed', () => {
  fc.assert(
    fc.property(fc.array(statement, { minLength: 1, maxLength: 9 }), (said) => {
      const facts = foldPack(PACK, [entry('pack-added', { tag: 'T-1', use: 'removed' }), ...said])!;
      const r = rule(facts, DEFAULT_POLICY, NOW, ON);
      const { judgement: j } = r;
      const texts = [
        ...j.open,
        ...j.asked,
        ...j.notExcluded,
        ...j.contradictions.map((c) => c.sentence),
        ...j.findings.map((f) => f.words),
        ...j.nature.notes,
        r.electrical.whyNot ?? '',
        ...r.next.flatMap((n) => [n.words, n.decides]),
        r.stream.why,
        ...r.storage.steps,
        ...r.limits.flatMap((l) => [l.label, String(l.value), String(l.u), beyondWords(l), l.between]),
        ...r.cells.flatMap((c) => c.result.notes),
      ];
      expect(readable(texts)).toEqual([]);
    }),
    { numRuns: 2000, seed: 20261126 },
  );
});

test('every provision is cited as it is printed', () => {
  expect(readable(PROVISIONS.map(provisionWords))).toEqual([]);
  expect(
    ['PI965-IB', 'PI967-II', 'SP188', 'SP376-P908', 'SP670b', '173.185(c)'].map((p) => provisionWords(p as 'SP188')),
  ).toEqual(['PI 965, Section IB', 'PI 967, Section II', 'SP 188', 'SP 376, P908', 'SP 670(b)', '49 CFR 173.185(c)']);
});
