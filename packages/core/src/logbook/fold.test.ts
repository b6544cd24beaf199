import fc from 'fast-check';
import { condition } from '../condition/condition';
import { judgedBy } from '../place/daily';
import { duesOf } from '../ruling/due';
import { rule } from '../ruling/ruling';
import type { LoggedEntry, Subject } from './entry';
import { DEFAULT_POLICY, foldPack, foldPolicy, type PackFacts } from './fold';
import { canonical, taggedId } from './ids';
import { ALL_GROUPS, ANNA, BRAM, entry, NOW, ON, PACK, soundPack, WORKSHOP } from './testing';

const fold = (entries: readonly LoggedEntry[]): PackFacts => foldPack(PACK, entries)!;
const state = (entries: readonly LoggedEntry[], now = NOW) => condition(fold(entries), DEFAULT_POLICY, now).condition;
const thickness = (mm: string, minutes: number, point = 'centre') =>
  entry(
    'reading-taken',
    {
      quantity: 'thickness',
      figure: { digits: mm, unit: 'mm' },
      point,
      instrument: { name: 'calliper', accuracy: { percent: 0, digits: 0, fixed: 0.03 } },
    },
    { minutes },
  );
const newThickness = () =>
  entry('reading-taken', { quantity: 'new-thickness', figure: { digits: '5.00', unit: 'mm' }, source: 'measured-new' });

describe('missing is unknown', () => {
  test('all six groups looked at and a voltage behind it: sound', () => expect(state(soundPack())).toBe('sound'));
  test.each(ALL_GROUPS)('without a look at %s: unproven', (group) => {
    const entries = soundPack().filter((e) => e.kind !== 'looked');
    expect(state([...entries, entry('looked', { groups: ALL_GROUPS.filter((g) => g !== group) })])).toBe('unproven');
  });
  test('an electrical look without any voltage: unproven', () =>
    expect(state(soundPack().filter((e) => e.kind !== 'gauge-read'))).toBe('unproven'));
  test('a look goes stale after 30 days', () => expect(state(soundPack(), new Date('2026-12-26T12:00:00Z'))).toBe('unproven'));
});

describe('danger latches', () => {
  test('a milder reading does not remove a breach', () => {
    const breached = [...soundPack(), newThickness(), thickness('5.60', 10)];
    expect(state(breached)).toBe('damaged');
    expect(state([...breached, thickness('5.01', 20), thickness('5.00', 30), thickness('5.02', 40)])).toBe('damaged');
  });
  test('too close to tell is settled by two more that pass', () => {
    const close = [...soundPack(), newThickness(), thickness('5.22', 10)];
    expect(state(close)).toBe('unproven');
    expect(state([...close, thickness('5.05', 20)])).toBe('unproven');
    expect(state([...close, thickness('5.05', 20), thickness('5.06', 30)])).toBe('sound');
  });
  test('a series whose mean passes but one reading breaches is unproven', () => {
    expect(state([...soundPack(), newThickness(), thickness('5.00', 10), thickness('5.01', 10), thickness('5.48', 10)])).toBe(
      'unproven',
    );
  });
  test('a look that finds nothing does not clear a finding', () => {
    expect(
      state([
        ...soundPack(),
        entry('finding-recorded', { code: 'swollen' }),
        entry('looked', { groups: [...ALL_GROUPS] }, { minutes: 60 }),
      ]),
    ).toBe('damaged');
  });
  test('an unknown hazard from a newer program shows as damaged, an unknown note does not', () => {
    const strange = { ...entry('looked', { groups: ['smell'] }), kind: 'gas-seen' } as unknown as LoggedEntry;
    expect(state([...soundPack(), { ...strange, hazard: true } as LoggedEntry])).toBe('damaged');
    expect(state([...soundPack(), strange])).toBe('sound');
  });
  test('an unknown finding code is never harmless', () =>
    expect(state([...soundPack(), entry('finding-recorded', { code: 'purple' })])).toBe('unproven'));
});

describe('milder needs two', () => {
  const dropped = entry('finding-recorded', { code: 'dropped' });
  const clear = entry('finding-cleared', { clears: [dropped.id], reason: 'no dent' }, { minutes: 5 });
  const confirm = (by: string, confirms: string, seq?: number | null) =>
    entry('confirmed', { confirms }, { by, minutes: 9, ...(seq !== undefined && { seq }) });
  const base = [...soundPack(), dropped, clear];

  test('a clearing waits for somebody else, known to the server', () => {
    expect(state(base)).toBe('damaged');
    expect(fold(base).waiting).toHaveLength(1);
    expect(state([...base, confirm(ANNA, clear.id)])).toBe('damaged');
    expect(state([...base, confirm(BRAM, clear.id, null)])).toBe('damaged');
    expect(state([...base, confirm(BRAM, clear.id)])).toBe('sound');
    expect(fold([...base, confirm(BRAM, clear.id)]).waiting).toHaveLength(0);
  });
  test('it names entries: the same finding recorded later still stands', () => {
    expect(state([...base, confirm(BRAM, clear.id), entry('finding-recorded', { code: 'dropped' }, { minutes: 1 })])).toBe(
      'damaged',
    );
  });
  test('hard findings are not cleared', () => {
    const hole = entry('finding-recorded', { code: 'punctured' });
    const c = entry('finding-cleared', { clears: [hole.id], reason: 'looks fine' });
    expect(state([...soundPack(), hole, c, confirm(BRAM, c.id)])).toBe('damaged');
  });
  test('taking a clearing back acts at once and alone', () => {
    const back = entry('retracted', { reason: 'found a dent after all' }, { replaces: clear.id, seq: null });
    expect(state([...base, confirm(BRAM, clear.id), back])).toBe('damaged');
  });
  test('a cleared deep discharge is spent, never sound', () => {
    const deep = entry('finding-recorded', { code: 'deep-discharge', dwellHours: 5 });
    const c = entry('finding-cleared', { clears: [deep.id], reason: 'held voltage for a week' });
    expect(state([...soundPack(), deep])).toBe('damaged');
    expect(state([...soundPack(), deep, c, confirm(BRAM, c.id)])).toBe('spent');
    expect(state([...soundPack(), entry('finding-recorded', { code: 'deep-discharge' })])).toBe('damaged');
  });
  test('a mis-tap is retracted with one second person', () => {
    const tap = entry('finding-recorded', { code: 'smoke' });
    const back = entry('retracted', { reason: 'wrong button' }, { replaces: tap.id });
    expect(state([...soundPack(), tap])).toBe('critical');
    expect(state([...soundPack(), tap, back])).toBe('critical');
    expect(state([...soundPack(), tap, back, confirm(BRAM, back.id)])).toBe('sound');
  });
  test('an unconfirmed correction counts where it is worse, and is no evidence where it is milder', () => {
    const reading = thickness('5.60', 10);
    const milder = entry(
      'corrected',
      { body: { ...(reading.body as object), figure: { digits: '5.06', unit: 'mm' } }, reason: 'typo' },
      { replaces: reading.id },
    );
    expect(state([...soundPack(), newThickness(), reading, milder])).toBe('damaged');
    expect(state([...soundPack(), newThickness(), reading, milder, confirm(BRAM, milder.id)])).toBe('sound');
    const fine = thickness('5.06', 10);
    const worse = entry(
      'corrected',
      { body: { ...(fine.body as object), figure: { digits: '5.60', unit: 'mm' } }, reason: 'typo' },
      { replaces: fine.id, seq: null },
    );
    expect(state([...soundPack(), newThickness(), fine, worse])).toBe('damaged');
  });
  test('the author mends what was read off a label within 15 minutes, alone; not after a move, not later', () => {
    const [added, label, ...rest] = soundPack() as [LoggedEntry, LoggedEntry, ...LoggedEntry[]];
    const body = { ...(label.body as object), ratedEnergy: { digits: '75', unit: 'Wh' } };
    const mend = (minutes: number, by = ANNA) =>
      entry('corrected', { body, reason: 'misread' }, { replaces: label.id, minutes, by });
    const disputed = (e: LoggedEntry[]) => condition(fold(e), DEFAULT_POLICY, NOW).label.disputed;
    expect(disputed([added, label, ...rest, mend(14)])).toEqual([]);
    expect(disputed([added, label, ...rest, mend(16)])).toEqual(['ratedEnergy']);
    expect(disputed([added, label, ...rest, mend(14, BRAM)])).toEqual(['ratedEnergy']);
    expect(disputed([added, label, ...rest, entry('moved', {}, { minutes: 3 }), mend(14)])).toEqual(['ratedEnergy']);
  });
  test('a disputed label holds every route that needs it', () => {
    const [added, label, ...rest] = soundPack() as [LoggedEntry, LoggedEntry, ...LoggedEntry[]];
    const other = entry('label-read', { ratedEnergy: { digits: '120', unit: 'Wh' } }, { by: BRAM });
    const cells = rule(fold([added, label, ...rest, other]), DEFAULT_POLICY, NOW, ON).cells;
    expect(cells.find((c) => c.mode === 'road' && c.placement === 'loose')!.word).toBe('hold');
  });
  test('the milder school of swelling needs a second signature', () => {
    const set = entry('policy-set', { swelling: 'allowance' }, { subjects: [`policy:${WORKSHOP}`] });
    expect(foldPolicy([set]).swelling).toBe('any');
    expect(
      foldPolicy([set, entry('confirmed', { confirms: set.id }, { by: BRAM, subjects: [`policy:${WORKSHOP}`] })]).swelling,
    ).toBe('allowance');
  });
  test('how figures are shown acts at once, and nothing is judged anew by it', () => {
    const shown = { lengths: 'inch', temperatures: '°F', decimalMark: 'comma', days: 'iso' } as const;
    const policy = foldPolicy([entry('policy-set', shown, { subjects: [`policy:${WORKSHOP}`] })]);
    expect(policy).toMatchObject(shown);
    expect(judgedBy(policy)).toBe(judgedBy(DEFAULT_POLICY));
  });
  test('a waste code that was taken back is the usual one again', () => {
    const say = (wasteCode: string, minutes: number) =>
      entry('policy-set', { wasteCode }, { subjects: [`policy:${WORKSHOP}`], minutes });
    expect(foldPolicy([say('20 01 33*', 1)]).wasteCode).toBe('20 01 33*');
    expect(foldPolicy([say('20 01 33*', 1), say('', 2)]).wasteCode).toBeNull();
  });
});

describe('what one person cannot do alone', () => {
  const evidence = (typeTested: 'yes' | 'no') => entry('evidence-stated', { typeTested });
  const road = (e: LoggedEntry[]) => rule(fold(e), DEFAULT_POLICY, NOW, ON).cells[0]!.word;
  test('take back "never tested"; "tested" goes at once', () => {
    const [yes, no] = [soundPack().find((e) => e.kind === 'evidence-stated')!, evidence('no')];
    const sound = [...soundPack().filter((e) => e.kind !== 'evidence-stated'), yes];
    expect(road(sound)).toBe('yes');
    expect(road([...sound, no])).toBe('no');
    const back = entry('retracted', { reason: 'other pack' }, { replaces: no.id });
    expect(road([...sound, no, back])).toBe('no');
    expect(road([...sound, no, back, entry('confirmed', { confirms: back.id }, { by: BRAM })])).toBe('yes');
    expect(road([...sound, entry('retracted', { reason: 'other pack' }, { replaces: yes.id })])).toBe('hold');
  });
  test('settle a close call with readings that are in doubt, or with one reading against two new thicknesses', () => {
    const close = [...soundPack(), newThickness(), thickness('5.22', 10)];
    const passes = [thickness('5.05', 20), thickness('5.06', 30)];
    const doubt = entry('retracted', { reason: 'slipped' }, { replaces: passes[1]!.id });
    expect(state([...close, ...passes, doubt])).toBe('unproven');
    expect(state([...close, newThickness(), passes[0]!])).toBe('unproven');
  });
  test('lean on a voltage that is in doubt', () => {
    const all = soundPack();
    const gauge = all.find((e) => e.kind === 'gauge-read')!;
    expect(state([...all, entry('retracted', { reason: 'other pack' }, { replaces: gauge.id })])).toBe('unproven');
  });
  test('stretch the author’s quarter of an hour by dating the correction back', () => {
    const [added, label, ...rest] = soundPack() as [LoggedEntry, LoggedEntry, ...LoggedEntry[]];
    const body = { ...(label.body as object), ratedEnergy: { digits: '75', unit: 'Wh' } };
    const mend = {
      ...entry('corrected', { body, reason: 'misread' }, { replaces: label.id, minutes: 5 }),
      recordedAt: '2026-11-25T11:00:00.000Z',
    } as LoggedEntry;
    expect(condition(fold([added, label, ...rest, mend]), DEFAULT_POLICY, NOW).label.disputed).toEqual(['ratedEnergy']);
  });
});

describe('24 quiet hours', () => {
  const leak = entry('finding-recorded', { code: 'leaking' }, { day: '2026-11-20' });
  const look = (hours: number) =>
    entry('looked', { groups: ['smell'], where: 'outside' }, { day: '2026-11-20', minutes: hours * 60 });
  const declare = entry('quiet-declared', { ends: [leak.id], reason: 'quiet for a day' }, { day: '2026-11-22' });
  const second = entry('confirmed', { confirms: declare.id }, { by: BRAM, day: '2026-11-22', minutes: 5 });
  const quiet = (looks: LoggedEntry[]) => state([...soundPack(), leak, ...looks, declare, second]);
  test('ends critical, and it stays damaged for good', () => {
    expect(quiet([1, 8, 16, 24, 25.5].map(look))).toBe('damaged');
  });
  test.each([
    ['no looks is not quiet', []],
    ['three looks are too few', [1, 9, 17]],
    ['a gap of more than 8 hours', [1, 8, 17, 26]],
    ['less than 24 hours', [1, 8, 16, 24]],
  ])('%s', (_why, hours) => expect(quiet((hours as number[]).map(look))).toBe('critical'));
  test('looks written down all at once, dated back, count when they arrived', () => {
    const late = [1, 8, 16, 24, 25.5].map((h) => ({ ...look(h), recordedAt: '2026-11-21T11:00:00.000Z' }) as LoggedEntry);
    expect(quiet(late)).toBe('critical');
  });
  test('a surface measured hot meanwhile starts the hours again', () => {
    const hot = entry(
      'reading-taken',
      {
        quantity: 'surface-temperature',
        figure: { digits: '71', unit: '°C' },
        instrument: { name: 'probe', accuracy: { percent: 0, digits: 1, fixed: 1 } },
      },
      { day: '2026-11-20', minutes: 20 * 60 },
    );
    expect(quiet([hot, ...[1, 8, 16, 24, 25.5].map(look)])).toBe('critical');
  });
  test('unsigned it ends nothing', () =>
    expect(state([...soundPack(), leak, ...[1, 8, 16, 24, 25.5].map(look), declare])).toBe('critical'));
});

describe('the same set of entries', () => {
  const pool = () => {
    const tap = entry('finding-recorded', { code: 'dropped' }, { minutes: 3 });
    const clear = entry('finding-cleared', { clears: [tap.id], reason: 'fine' }, { minutes: 4 });
    const reading = thickness('5.30', 7);
    return [
      ...soundPack(),
      tap,
      clear,
      entry('confirmed', { confirms: clear.id }, { by: BRAM, minutes: 5 }),
      newThickness(),
      reading,
      entry(
        'corrected',
        { body: { ...(reading.body as object), figure: { digits: '5.02', unit: 'mm' } }, reason: 'typo' },
        { replaces: reading.id, minutes: 8 },
      ),
      entry('moved', {}, { subjects: [`pack:${PACK}`, `place:${taggedId(WORKSHOP, 'place', 'shelf')}`], minutes: 9 }),
      entry('due-set', { what: 'proof', on: ON }, { minutes: 10 }),
      entry('finding-recorded', { code: 'wet' }, { minutes: 11, subjects: [`notebook:${PACK}`] }),
    ];
  };
  test('in any order, with repeats, gives the same state and ruling', () => {
    const all = pool();
    const want = canonical(rule(fold(all), DEFAULT_POLICY, NOW, ON));
    const facts = canonical(fold(all));
    fc.assert(
      fc.property(fc.shuffledSubarray(all, { minLength: all.length }), fc.subarray(all), (order, again) => {
        const mixed = fold([...order, ...again]);
        return canonical(mixed) === facts && canonical(rule(mixed, DEFAULT_POLICY, NOW, ON)) === want;
      }),
      { numRuns: 150 },
    );
  });
});

test('what was set due is due until it is met, and again when that is taken back', () => {
  const set = entry('due-set', { what: 'proof', on: ON }, { minutes: 10 });
  const met = entry('due-met', { meets: set.id }, { minutes: 11 });
  const back = (of: LoggedEntry) =>
    ({ ...entry('retracted', { reason: 'slip' }, { minutes: 12, replaces: of.id }), waits: 'nobody' }) as LoggedEntry;
  const due = (...all: LoggedEntry[]) => foldPack(PACK, [...soundPack(), ...all])!.dues.map((d) => d.id);
  expect(due(set)).toEqual([set.id]);
  expect(due(set, met)).toEqual([]);
  expect(due(set, met, back(met))).toEqual([set.id]);
  expect(due(set, back(set))).toEqual([]);
});

test('a pack that was added by a slip and taken back is no stock, and one that may be dangerous stays', () => {
  const slip = entry('pack-added', { tag: 'T-9', use: 'spare' });
  const back = { ...entry('retracted', { reason: 'slip' }, { minutes: 5, replaces: slip.id }), waits: 'nobody' } as LoggedEntry;
  const fold = (...more: LoggedEntry[]) => foldPack(PACK, [slip, back, ...more])!;
  const moved = (minutes: number) =>
    entry('moved', {}, { subjects: [`pack:${PACK}`, 'place:d0000000-0000-4000-8000-000000000007'], minutes });
  expect(fold(moved(3))).toMatchObject({ tag: 'T-9', left: back.at, leftTo: 'nobody' });
  expect(fold(moved(6)).left).toBeNull();
  expect(fold(entry('finding-recorded', { code: 'wet' }, { minutes: 3 })).left).toBeNull();
  expect(fold(entry('pack-added', { tag: 'T-9', use: 'spare' }, { minutes: 8 })).left).toBeNull();
});

describe('where a pack is', () => {
  const shelf = 'place:d0000000-0000-4000-8000-000000000007' as const;
  const out = entry('handed-over', { oldPack: 'given back' }, { subjects: ['job:d1', `pack:${PACK}`], minutes: 60 });
  const moved = (minutes: number) => entry('moved', {}, { subjects: [`pack:${PACK}`, shelf], minutes });
  const hurt = [...soundPack(), entry('finding-recorded', { code: 'dropped' }, { minutes: 1 }), moved(2)];
  const dues = (entries: readonly LoggedEntry[]) => {
    const f = foldPack(PACK, entries)!;
    return duesOf(f, condition(f, DEFAULT_POLICY, NOW), (iso) => iso.slice(0, 10)).map((d) => d.what);
  };
  test('handed over it lies on no shelf and nobody owes it a look; what it is stays', () => {
    expect(dues(hurt)).toEqual(['look']);
    expect(dues([...hurt, out])).toEqual([]);
    expect(foldPack(PACK, [...hurt, out])).toMatchObject({ place: null, left: out.at });
    expect(state([...hurt, out])).toBe('damaged');
  });
  test('a recall written down for a pack that is gone leaves it where it is; whatever was seen of it brings it back', () => {
    const found = (code: string) => [...soundPack(), out, entry('finding-recorded', { code }, { minutes: 90 })];
    expect(foldPack(PACK, found('safety-recall'))).toMatchObject({ left: out.at, leftTo: 'owner' });
    expect(state(found('safety-recall'))).toBe('damaged');
    expect(foldPack(PACK, found('swollen'))!.left).toBeNull();
    const sent = entry('consignment-handed-over', { packs: [PACK], packages: [] } as never, {
      subjects: ['consignment:c1', `pack:${PACK}`],
      minutes: 60,
    });
    const told = entry('finding-recorded', { code: 'safety-recall' }, { minutes: 90 });
    expect(foldPack(PACK, [...soundPack(), sent, told])).toMatchObject({ left: sent.at, leftTo: 'carrier' });
  });
  test('whatever two phones wrote, in whatever order it comes, it lies in one place: the last one it was put into', () => {
    const sites = [1, 2, 3].map((n) => `place:d0000000-0000-4000-8000-00000000000${n}` as const);
    const put = fc.record({ at: fc.integer({ min: 1, max: 500 }), site: fc.constantFrom(...sites), sent: fc.boolean() });
    fc.assert(
      fc.property(fc.array(put, { minLength: 1, maxLength: 12 }), fc.infiniteStream(fc.nat(1000)), (puts, noise) => {
        const moves = puts.map((p) =>
          entry('moved', {}, { subjects: [`pack:${PACK}`, p.site], minutes: p.at, ...(!p.sent && { seq: null }) }),
        );
        const all = [...soundPack(), ...moves];
        const mixed = all.map((e) => ({ e, k: noise.next().value as number })).sort((a, b) => a.k - b.k);
        const last = [...moves].sort((a, b) => (a.at < b.at || (a.at === b.at && a.id < b.id) ? 1 : -1))[0]!;
        const there = `place:${
          foldPack(
            PACK,
            mixed.map((x) => x.e),
          )!.place
        }`;
        return last.subjects.includes(there as Subject) && there === `place:${foldPack(PACK, all)!.place}`;
      }),
    );
  });
  test('handled again it is here again', () => expect(dues([...hurt, out, moved(90)])).toEqual(['look']));
  test('a finding on its machine, come back, brings it back too', () => {
    const found = entry('finding-recorded', { code: 'swollen' }, { subjects: ['notebook:n1'], minutes: 90 });
    expect(foldPack(PACK, [...hurt, out, found])!.left).toBeNull();
  });
  test('in a machine it lies on no shelf', () => {
    const fit = entry('refitted', { back: [] }, { subjects: ['job:d1', `pack:${PACK}`], minutes: 30 });
    expect(foldPack(PACK, [...soundPack(), moved(2), fit])!.place).toBeNull();
  });
});

test('a tag is one thing, however it was typed', () => {
  expect(taggedId(WORKSHOP, 'pack', ' th-101 ')).toBe(taggedId(WORKSHOP, 'pack', 'TH-101'));
  expect(taggedId(WORKSHOP, 'pack', 'TH-101')).not.toBe(taggedId(WORKSHOP, 'notebook', 'TH-101'));
});
