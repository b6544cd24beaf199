import fc from 'fast-check';
import { RANK } from '../condition/ladder';
import { type LoggedEntry, SUMMARY_ITEMS, type SummaryItem } from '../logbook/entry';
import { DEFAULT_POLICY, foldPack, foldPolicy, type PolicyFacts } from '../logbook/fold';
import { entry, NOW, ON, PACK, soundPack } from '../logbook/testing';
import { INSTRUMENTS } from '../quantity/uncertainty';
import { duesOf } from './due';
import { flipWords } from './flip';
import { summaryOn } from './matrix';
import { isMilder, previewRuling, rule } from './ruling';

const ruling = (entries: readonly LoggedEntry[]) => rule(foldPack(PACK, entries)!, DEFAULT_POLICY, NOW, ON);
const reading = (quantity: 'thickness' | 'cell-voltage' | 'surface-temperature', x: number, point = '1') => {
  const by = {
    thickness: ['mm', 2, INSTRUMENTS.calliper],
    'cell-voltage': ['V', 3, INSTRUMENTS.multimeter],
    'surface-temperature': ['°C', 1, INSTRUMENTS.contactProbe],
  } as const;
  const [unit, decimals, instrument] = by[quantity];
  return entry('reading-taken', { quantity, figure: { digits: x.toFixed(decimals), unit }, point, instrument, restMinutes: 200 });
};
const t0 = () =>
  entry('reading-taken', { quantity: 'new-thickness', figure: { digits: '5.00', unit: 'mm' }, source: 'measured-new' });
const word = (r: ReturnType<typeof ruling>, mode: string, placement: string, purpose = 'use') =>
  r.cells.find((c) => c.mode === mode && c.placement === placement && c.purpose === purpose)!.word;

describe('one pack from label to ruling', () => {
  test('sound: shelf, travels, reuse', () => {
    const r = ruling(soundPack());
    expect(r.judgement.condition).toBe('sound');
    expect(r.storage.places).toContain('shelf');
    expect([
      word(r, 'road', 'loose'),
      word(r, 'air-cargo', 'loose'),
      word(r, 'air-passenger', 'loose'),
      word(r, 'air-passenger', 'in-equipment'),
    ]).toEqual(['yes', 'yes', 'no', 'yes']);
    expect(word(r, 'air-cargo', 'loose', 'recycling')).toBe('approval');
    expect(r.stream.stream).toBe('reuse');
    expect(r.rules).toEqual(expect.arrayContaining(['road.188', 'air.965-IB', 'air.965-charge']));
  });
  test('the charge counts at its upper end: 20 of 50 Ah with U 5 points is 23 % of rated', () => {
    expect(ruling(soundPack()).electrical.charge!.ofRated.hi).toBeCloseTo(23, 6);
  });
  test('a charge older than a week is no evidence for dispatch, nor is a look', () => {
    const later = new Date('2026-12-03T12:00:00Z');
    const r = rule(foldPack(PACK, soundPack())!, DEFAULT_POLICY, later, '2026-12-03');
    expect(r.judgement.condition).toBe('sound');
    expect(word(r, 'road', 'loose')).toBe('hold');
  });
  describe('a test summary filed once for its type code', () => {
    const untested = soundPack().filter((e) => e.kind !== 'evidence-stated');
    const coded = [...untested, entry('label-read', { typeCode: 'QX 0B5' })];
    const filed = (items: readonly SummaryItem[], typeCode = 'qx0b5') =>
      foldPolicy([entry('summary-filed', { typeCode, items }, { subjects: ['policy:w'] })]);
    const road = (entries: readonly LoggedEntry[], policy: PolicyFacts) =>
      word(rule(foldPack(PACK, entries)!, policy, NOW, ON), 'road', 'loose');
    test('counts for every pack of the code once it says everything', () => {
      expect(road(coded, DEFAULT_POLICY)).toBe('hold');
      expect(road(coded, filed(SUMMARY_ITEMS))).toBe('yes');
      expect(road(coded, filed(SUMMARY_ITEMS.slice(1)))).toBe('hold');
      expect(summaryOn('QX 0B5', filed(SUMMARY_ITEMS.slice(1)))).toEqual(['maker']);
    });
    test('not for a look-alike code, not against "never tested", not for a rebuilt pack', () => {
      expect(road(coded, filed(SUMMARY_ITEMS, 'QXOB5'))).toBe('hold');
      expect(road([...coded, entry('evidence-stated', { typeTested: 'no' })], filed(SUMMARY_ITEMS))).toBe('no');
      const rebuilt = [...coded, entry('finding-recorded', { code: 'recelled' })];
      expect(road(rebuilt, filed(SUMMARY_ITEMS))).toBe('hold');
    });
  });
  test('swollen: quarantine, as damaged by road, never by air, damaged stream', () => {
    const r = ruling([...soundPack(), entry('finding-recorded', { code: 'swollen' })]);
    expect(r.judgement.condition).toBe('damaged');
    expect(r.storage.places).toEqual(['quarantine', 'outdoors']);
    expect([word(r, 'road', 'loose'), word(r, 'road', 'in-equipment'), word(r, 'air-cargo', 'in-equipment')]).toEqual([
      'as damaged',
      'as damaged',
      'no',
    ]);
    expect(r.stream.stream).toBe('recycle damaged');
  });
  test('critical: nothing travels, no question is asked', () => {
    const r = ruling([...soundPack(), entry('finding-recorded', { code: 'hissing' })]);
    expect(r.judgement).toMatchObject({ condition: 'critical', kind: 'reacting' });
    expect(r.storage.short).toBe('leave, alarm, call');
    expect(new Set(r.cells.map((c) => c.word))).toEqual(new Set(['no']));
    expect(r.next).toEqual([]);
  });
  test('smell alone is damaged, smell with wet is critical', () => {
    const smell = [...soundPack(), entry('finding-recorded', { code: 'smell' })];
    expect(ruling(smell).judgement.condition).toBe('damaged');
    expect(ruling([...smell, entry('finding-recorded', { code: 'wet' })]).judgement).toMatchObject({
      condition: 'critical',
      kind: 'unstable',
    });
  });
  test('60 degrees on the probe is critical without anybody saying so', () => {
    expect(ruling([...soundPack(), reading('surface-temperature', 63)]).judgement.condition).toBe('critical');
  });
  test('0 V at the plug says nothing about the cells: no output, unproven', () => {
    const r = ruling([
      ...soundPack(),
      entry('reading-taken', { quantity: 'pack-voltage', figure: { digits: '0.00', unit: 'V' } }),
    ]);
    expect(r.judgement).toMatchObject({ condition: 'unproven', because: ['no-output'] });
  });
  test('pack volts say what they do not exclude', () => {
    const r = ruling([
      ...soundPack(),
      entry('reading-taken', { quantity: 'pack-voltage', figure: { digits: '10.50', unit: 'V' }, restMinutes: 200 }),
    ]);
    expect(r.judgement.notExcluded).toEqual(['pack volts do not exclude one cell at 1.80 V']);
  });
});

describe('nearest flip', () => {
  const entries = (mm: number) => [...soundPack(), t0(), reading('thickness', mm, 'centre')];
  test('names the reading, its way and what it becomes', () => {
    expect(flipWords(ruling(entries(5.08)).flip!)).toMatch(/^0\.\d\d mm more at centre: unproven$/);
  });
  test('is true: a little more than it flips, a little less does not', () => {
    fc.assert(
      fc.property(fc.integer({ min: 490, max: 517 }), (hundredths) => {
        const mm = hundredths / 100;
        const before = ruling(entries(mm));
        const flip = before.flip!;
        if (flip.limit.id !== 'swelling.any') return true;
        // The instrument shows hundredths, and the uncertainty grows a little on the way.
        const over = ruling(entries(mm + flip.change + 0.011)).judgement.condition;
        const under = ruling(entries(mm + flip.change * 0.9 - 0.006)).judgement.condition;
        return RANK[over] > RANK[before.judgement.condition] && under === before.judgement.condition;
      }),
    );
  });
  test('a damaged pack shows only what would make it critical', () => {
    const r = ruling([...entries(5.6), reading('surface-temperature', 22)]);
    expect(r.judgement.condition).toBe('damaged');
    expect(r.flip).toMatchObject({ becomes: 'critical' });
  });
});

describe('next reading worth taking', () => {
  test('what could turn it dangerous comes first, papers after', () => {
    const [added, label] = soundPack() as [LoggedEntry, LoggedEntry];
    const r = ruling([added, label]);
    expect(r.next.map((n) => n.card).slice(0, 3)).toEqual(['look', 'volts', 'thickness']);
  });
  test('a missing test summary is asked for when routes wait for it, and not when nothing does', () => {
    const untested = soundPack().filter((e) => e.kind !== 'evidence-stated');
    expect(ruling(untested).next.map((n) => n.card)).toContain('evidence');
    expect(ruling([...untested, entry('finding-recorded', { code: 'swollen' })]).next.map((n) => n.card)).not.toContain(
      'evidence',
    );
  });
});

describe('while a number is typed', () => {
  test('the previewed ruling is never milder than what is committed', () => {
    const damaged = ruling([...soundPack(), t0(), reading('thickness', 5.6)]);
    const typed = ruling([...soundPack(), t0(), reading('thickness', 5.02)]);
    expect(isMilder(damaged, typed)).toBe(true);
    expect(previewRuling(damaged, typed)).toBe(damaged);
    expect(previewRuling(typed, damaged)).toBe(damaged);
  });
  test('a worse condition shows even where it opens a route that was held', () => {
    const untested = soundPack().filter((e) => e.kind !== 'evidence-stated');
    const held = ruling([...untested, t0()]);
    const swollen = ruling([...untested, t0(), reading('thickness', 5.6)]);
    expect([word(held, 'road', 'loose'), word(swollen, 'road', 'loose')]).toEqual(['hold', 'as damaged']);
    expect(previewRuling(held, swollen)).toBe(swollen);
  });
});

test('what is due: a look at a damaged pack a day after the last, and every signature that waits', () => {
  const drop = entry('finding-recorded', { code: 'dropped' });
  const clear = entry('finding-cleared', { clears: [drop.id], reason: 'no dent' });
  const facts = foldPack(PACK, [...soundPack(), drop, clear])!;
  const dues = duesOf(facts, rule(facts, DEFAULT_POLICY, NOW, ON).judgement, (iso) => iso.slice(0, 10));
  expect(dues.map((d) => [d.what, d.on])).toEqual([
    ['look', '2026-11-26'],
    ['second person', ON],
  ]);
});
