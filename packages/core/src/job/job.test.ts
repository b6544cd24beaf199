import { condition, type Judgement } from '../condition/condition';
import type { Bodies, LoggedEntry, Subject } from '../logbook/entry';
import { DEFAULT_POLICY, foldNotebook, foldPack } from '../logbook/fold';
import { foldJob, type JobFacts } from '../logbook/fold-job';
import { withReached } from '../logbook/reach';
import { ANNA, BRAM, entry, NOW, PACK, soundPack } from '../logbook/testing';
import { workshopDues } from '../place/dues';
import { intakeFindings, opening, type OpeningWord, triageFindings } from './opening';
import { exportSheet, type Lesson, sheetOf, withTaken } from './sheet';
import { liveSources, minutesOf, packWork, railOf } from './stations';

const JOB: Subject = 'job:d0000000-0000-4000-8000-000000000001';
const BOOK: Subject = 'notebook:e0000000-0000-4000-8000-000000000001';
const OTHER = 'b0000000-0000-4000-8000-000000000009';
const on = { subjects: [JOB, BOOK] };
const opened = (minutes = 0) => entry('job-opened', { complaint: 'dies' }, { ...on, minutes });
const named = () =>
  entry('notebook-identified', { tag: 'N-1', plate: 'read', maker: 'Mereline', model: 'Gannet 14' }, { subjects: [BOOK] });
const job = (...entries: LoggedEntry[]): JobFacts => foldJob(JOB.slice(4), [opened(), ...entries])!;
const book = (...entries: LoggedEntry[]) => foldNotebook(BOOK.slice(9), [named(), ...entries])!;
const mm = (digits: string) => ({ digits, unit: 'mm' as const });

const CLEAN: Bodies['triaged'] = { lid: 'flush', base: 'steady', smell: 'none', touch: 'cool' };
const triaged = (t: Bodies['triaged']) => [
  entry('triaged', t, { subjects: [BOOK] }),
  ...triageFindings(t).map((f) => entry('finding-recorded', f, { subjects: [BOOK] })),
];
const low = { lo: 15, hi: 24 };
const agreed = () => entry('intake-noted', { consent: 'given' }, on);

test('a job that was opened by a slip and taken back is closed, and its machine is in none', () => {
  const slip = opened(5);
  const back = { ...entry('retracted', { reason: 'other machine' }, { ...on, minutes: 6, replaces: slip.id }), waits: 'nobody' };
  const all = [slip, back as LoggedEntry];
  expect(foldJob(JOB.slice(4), [slip])!.closedAt).toBeNull();
  expect(foldJob(JOB.slice(4), all)!.closedAt).toBe(back.at);
  expect([book(slip).job, book(...all).job]).toEqual([JOB.slice(4), null]);
});

describe('a question at a time', () => {
  const later = (minutes: number) => ({ ...on, minutes });
  test('sides of the bay add up', () => {
    const side = (bay: NonNullable<Bodies['pack-removed']['bay']>, minutes: number) =>
      entry('pack-removed', { bay }, { subjects: [`pack:${PACK}`, JOB, BOOK], minutes });
    const said = [side({ length: mm('182') }, 1), side({ depth: mm('5.8') }, 2)];
    const bay = { length: mm('182'), depth: mm('5.8') };
    expect(job(...said).removals[0]!.said.body.bay).toEqual(bay);
    expect(foldPack(PACK, said)!.removed!.body.bay).toEqual(bay);
  });
  test('what is said of one source unsays nothing of another', () => {
    const off = (what: 'adapter' | 'dock', minutes: number) =>
      entry('isolated', { sources: [{ what, state: 'off' }] }, later(minutes));
    const live = liveSources(job(off('adapter', 1), off('dock', 2)), []);
    expect(live.map((s) => s.what)).toEqual(['coin cell']);
  });
});

test('another visit is looked at anew: what was nothing is no look, a sign stays, and the plate is not forgotten', () => {
  const second = (t: Bodies['triaged'], ...more: LoggedEntry[]) =>
    book(
      opened(),
      entry('triaged', t, { subjects: [BOOK], minutes: 10 }),
      // A second job on the same tag, while nobody closed the first.
      entry('job-opened', {}, { subjects: ['job:d0000000-0000-4000-8000-000000000002', BOOK], minutes: 60 }),
      entry('notebook-identified', { tag: 'N-1', plate: 'unreadable' }, { subjects: [BOOK], minutes: 61 }),
      ...more,
    );
  expect(second(CLEAN).triage).toEqual({});
  expect(second({ ...CLEAN, smell: 'smell' }).triage).toEqual({ smell: 'smell' });
  expect(second(CLEAN, entry('triaged', { lid: 'flush' }, { subjects: [BOOK], minutes: 70 })).triage).toEqual({ lid: 'flush' });
  expect(second(CLEAN)).toMatchObject({ maker: 'Mereline', model: 'Gannet 14', plate: 'unreadable' });
  // Looked at as it came in, before its job was opened: a sign is no less one.
  expect(opening(job(agreed()), second({ ...CLEAN, touch: 'hot' }), [], low, [BRAM]).word).toBe('emergency');
  expect(opening(job(agreed()), second(CLEAN), [], low, [BRAM]).word).toBe('do not open');
});

describe('before a screw turns', () => {
  const word = (t: Bodies['triaged'], charge: { lo: number; hi: number } | null = low, j = job(agreed())) =>
    opening(j, book(...triaged(t)), [], charge, [BRAM]).word;
  test.each<[string, Bodies['triaged'], OpeningWord]>([
    ['nothing seen, charge low', CLEAN, 'open now'],
    ['hot', { ...CLEAN, touch: 'hot' }, 'emergency'],
    ['smell and warm', { ...CLEAN, smell: 'smell', touch: 'warm' }, 'emergency'],
    ['smell alone', { ...CLEAN, smell: 'smell' }, 'do not open'],
    ['warm at rest', { ...CLEAN, touch: 'warm' }, 'do not open'],
    ['lid not flush', { ...CLEAN, lid: 'not flush' }, 'do not open'],
    ['base rocks', { ...CLEAN, base: 'rocks' }, 'do not open'],
  ])('%s', (_what, t, want) => expect(word(t)).toBe(want));
  test.each(['lid', 'base', 'smell', 'touch'] as const)('not looked at %s keeps it closed', (field) => {
    const { [field]: _left, ...rest } = CLEAN;
    expect(word(rest as Bodies['triaged'])).toBe('do not open');
  });
  test('30 % may be opened, 30.1 % is brought down, and an unknown charge is not low', () => {
    expect([word(CLEAN, { lo: 20, hi: 30 }), word(CLEAN, { lo: 20, hi: 30.1 }), word(CLEAN, null)]).toEqual([
      'open now',
      'bring down first',
      'bring down first',
    ]);
  });
  test('where a device does not hold its pack it stays closed, and danger on the machine is no less one', () => {
    const without = (t: Bodies['triaged']) => opening(job(agreed()), book(...triaged(t)), [], low, [BRAM], 1);
    expect(without(CLEAN)).toMatchObject({ word: 'do not open', reasons: [expect.stringMatching(/not on this device/)] });
    expect(without({ ...CLEAN, touch: 'hot' }).word).toBe('emergency');
  });
  test('what the machine showed counts with 5 points', () => {
    const shown = (charge: number) => job(agreed(), entry('intake-noted', { charge }, on));
    expect([word(CLEAN, null, shown(25)), word(CLEAN, null, shown(26))]).toEqual(['open now', 'bring down first']);
  });
  test('a swollen machine opens only by a trained person, charge as found', () => {
    const prepared = (by: string) => job(agreed(), entry('swollen-prepared', { charge: 'as found' }, { ...on, by }));
    const swollen = { ...CLEAN, lid: 'not flush' } as const;
    expect(word(swollen, { lo: 80, hi: 90 }, prepared(ANNA))).toBe('do not open');
    expect(word(swollen, { lo: 80, hi: 90 }, prepared(BRAM))).toBe('open now');
    // Nobody felt for heat: it may be more than swollen.
    expect(word({ ...swollen, touch: undefined }, { lo: 80, hi: 90 }, prepared(BRAM))).toBe('do not open');
  });
  test.each(['refused', 'not asked', undefined] as const)(
    'an owner who did not agree (%s) keeps it closed, swollen or not',
    (consent) => {
      const j = job(
        ...(consent ? [entry('intake-noted', { consent }, on)] : []),
        entry('swollen-prepared', { charge: 'as found' }, { ...on, by: BRAM }),
      );
      expect([word(CLEAN, low, j), word({ ...CLEAN, lid: 'not flush' }, low, j)]).toEqual(['do not open', 'do not open']);
    },
  );
  test('an answer counts where no finding came with it', () => {
    const answered = (t: Bodies['triaged']) =>
      opening(job(agreed()), book(entry('triaged', t, { subjects: [BOOK] })), [], low, []);
    expect(answered({ ...CLEAN, touch: 'hot' }).word).toBe('emergency');
    expect(answered({ ...CLEAN, base: 'rocks' })).toMatchObject({ word: 'do not open', asDamaged: true });
    const hiss = job(agreed(), entry('intake-noted', { sound: 'hiss' }, on));
    expect(word(CLEAN, low, hiss)).toBe('emergency');
  });
  test('hiss and heat stay an emergency for a trained person too', () =>
    expect(
      word({ ...CLEAN, touch: 'hot' }, low, job(entry('swollen-prepared', { charge: 'as found' }, { ...on, by: BRAM }))),
    ).toBe('emergency'));
  test('what is seen at intake counts like what is seen at arrival', () =>
    expect(
      intakeFindings({ keyboard: 'uneven', trackpad: 'stiff', seam: 'gapes', sound: 'hiss', liquid: 'yes', drop: 'yes' }).map(
        (f) => f.code,
      ),
    ).toEqual(['swollen', 'swollen', 'swollen', 'hissing', 'spill', 'dropped']));
});

test('a milder answer that waits is due, once, by the name of its machine', () => {
  const all = [
    ...triaged({ ...CLEAN, base: 'rocks' }),
    { ...entry('triaged', { base: 'steady' }, { subjects: [BOOK], minutes: 9 }), waits: 'trained' } as LoggedEntry,
  ];
  const owed = {
    packs: [],
    jobs: [job(entry('intake-noted', {}, on))],
    notebooks: [book(...all)],
    places: [],
    incidents: [],
    consignments: [],
  };
  const dues = workshopDues(owed, DEFAULT_POLICY, NOW, (iso) => iso.slice(0, 10));
  expect(dues.map((d) => [d.title, d.note, d.subject])).toEqual([['Second person for N-1', 'an answer at intake', JOB]]);
  // It holds somebody else up: it stands before what is due longer.
  const owing = job(entry('intake-noted', {}, on), entry('due-set', { what: 'proof', on: '2026-01-01' }, on));
  const both = workshopDues({ ...owed, jobs: [owing] }, DEFAULT_POLICY, NOW, (iso) => iso.slice(0, 10));
  expect(both.map((d) => d.title)).toEqual(['Second person for N-1', 'Show that it works']);
});

describe('signs on a machine reach', () => {
  const sign = entry('finding-recorded', { code: 'swollen' }, { subjects: [BOOK], minutes: 5 });
  const fold = (own: LoggedEntry[], id: string) =>
    condition(
      foldPack(
        id,
        withReached(own, () => [sign]),
      )!,
      DEFAULT_POLICY,
      NOW,
    );
  const add = (use: 'removed' | 'replacement' | 'spare') =>
    entry('pack-added', { tag: 'P', use }, { subjects: [`pack:${OTHER}`, BOOK, JOB], minutes: 20 });
  const fit = (minutes: number) => entry('refitted', { back: [] }, { subjects: [JOB, BOOK, `pack:${OTHER}`], minutes });
  test('the pack that came in it, whenever it is added', () => expect(fold([add('removed')], OTHER).condition).toBe('damaged'));
  test.each(['replacement', 'spare'] as const)('not the %s that goes in later', (use) => {
    expect(fold([add(use)], OTHER).condition).toBe('unproven');
    expect(fold([add(use), fit(30)], OTHER).condition).toBe('unproven');
  });
  test('but a new pack that was in the machine by then', () =>
    expect(fold([add('replacement'), fit(4)], OTHER).condition).toBe('damaged'));
});

describe('the rail', () => {
  const pack = (): { facts: ReturnType<typeof foldPack> & object; judgement: Judgement } => {
    const facts = foldPack(PACK, [
      ...soundPack().filter((e) => e.kind !== 'pack-added'),
      entry('pack-added', { tag: 'T-1', use: 'removed' }, { subjects: [`pack:${PACK}`, JOB, BOOK] }),
    ])!;
    return { facts, judgement: condition(facts, DEFAULT_POLICY, NOW) };
  };
  const rail = (j: JobFacts, n = book(...triaged(CLEAN)), packs = [pack()]) =>
    railOf(
      j,
      n,
      packs,
      opening(
        j,
        n,
        packs.map((p) => p.judgement),
        low,
        [],
      ),
    );
  const state = (j: JobFacts, station: string) => rail(j).find((s) => s.station === station)!;
  const consent = agreed();
  const ISOLATED: Bodies['isolated'] = {
    connector: 'side tabs',
    coinCell: 'left',
    sources: [
      { what: 'pack', tag: 'T-1', state: 'off' },
      { what: 'adapter', state: 'off' },
      { what: 'dock', state: 'none' },
    ],
  };

  test('next is the first that lacks something; nothing is forced', () => {
    expect(
      rail(job())
        .map((s) => s.state)
        .slice(0, 3),
    ).toEqual(['next', 'open', 'open']);
    expect(rail(job(consent, entry('cover-opened', { tool: 'plastic' }, on))).find((s) => s.state === 'next')!.station).toBe(
      'open',
    );
  });
  test('the station for swollen packs stands only where one is suspected', () => {
    expect(rail(job()).some((s) => s.station === 'swollen')).toBe(false);
    const n = book(...triaged({ ...CLEAN, base: 'rocks' }));
    expect(rail(job(), n, []).some((s) => s.station === 'swollen')).toBe(true);
  });
  test('isolated only when every live source was said off', () => {
    const said = (body: Bodies['isolated']) => job(entry('isolated', body, on));
    expect(state(said(ISOLATED), 'isolate').state).toBe('done');
    const one = { ...ISOLATED, sources: ISOLATED.sources!.slice(1) };
    expect(state(said(one), 'isolate').missing).toBe('live: T-1');
    expect(liveSources(said({ ...ISOLATED, coinCell: 'not seen' }), [pack().facts])).toMatchObject([{ what: 'coin cell' }]);
    // A new pack was not there when the machine was opened, before it is fitted and after.
    const fresh = { ...pack().facts, id: OTHER, tag: 'T-9', use: 'replacement' as const };
    const fitted = { ...said(ISOLATED), fittedPack: OTHER };
    expect(liveSources(said(ISOLATED), [pack().facts, fresh])).toEqual(liveSources(said(ISOLATED), [pack().facts]));
    expect(liveSources(fitted, [pack().facts, { ...fresh, use: 'fitted' }])).toEqual(liveSources(fitted, [pack().facts]));
  });
  test('a refit that does not close is not done, and says where', () => {
    const map = entry('fasteners-mapped', { habit: 'map', screws: [{ id: 1, x: 0, y: 0, thread: 'M2', length: mm('4') }] }, on);
    const fit = (count: number) => entry('refitted', { back: [{ thread: 'M2', length: mm('4'), count }] }, on);
    expect(state(job(map, fit(0)), 'fit').missing).toBe('M2 × 4 mm: 0 of 1');
    expect(state(job(map, fit(1)), 'fit').state).toBe('done');
    // The pack's own screws are wanted back with a pack, and not without one.
    const out = entry(
      'pack-removed',
      { screws: [{ thread: 'M2', length: mm('3'), count: 2 }] },
      { subjects: [JOB, `pack:${PACK}`] },
    );
    const withPack = entry(
      'refitted',
      { back: [{ thread: 'M2', length: mm('4'), count: 1 }] },
      { subjects: [JOB, BOOK, `pack:${OTHER}`] },
    );
    expect(state(job(map, out, fit(1)), 'fit').state).toBe('done');
    expect(state(job(map, out, withPack), 'fit').missing).toBe('M2 × 3 mm: 0 of 2');
  });
  test('what could not be proved is owed, until it is yes', () => {
    const proof = (gauge: 'yes' | 'owed') => entry('proof-taken', { starts: 'yes', seen: 'yes', charges: 'yes', gauge }, on);
    expect(state(job(proof('owed')), 'prove').state).toBe('owed');
    expect(state(job(proof('owed'), proof('yes')), 'prove').state).toBe('done');
  });
  test('skipped is told apart from done', () =>
    expect(state(job(entry('station-skipped', { station: 'match' }, on)), 'match').state).toBe('skipped'));
});

test('time per station: from the entry before, without pauses and without the time it lay', () => {
  const j = job(
    entry('intake-noted', { consent: 'given' }, { ...on, minutes: 3 }),
    entry('fasteners-mapped', { habit: 'map', screws: [] }, { ...on, minutes: 10 }),
    entry('job-put-down', {}, { ...on, minutes: 12 }),
    entry('job-taken', {}, { ...on, minutes: 14, by: BRAM }),
    entry('cover-opened', { tool: 'plastic' }, { ...on, minutes: 16 }),
    entry('isolated', { drained: true }, { ...on, minutes: 90 }),
  );
  expect(minutesOf(j.visits)).toEqual({ intake: 3, open: 9 });
  expect(j.holder).toBe(BRAM);
  // Its pack: four minutes of measuring between map and put down, one look while it lay, one long after.
  const at = (minutes: number) => ({ minutes });
  const volts = { quantity: 'pack-voltage', figure: { digits: '11.40', unit: 'V' }, restMinutes: 200 } as const;
  const p = foldPack(PACK, [
    entry('pack-added', { tag: 'T-1', use: 'removed' }),
    entry('reading-taken', volts, at(-5)),
    entry('reading-taken', volts, at(11)),
    entry('looked', { groups: ['shape'] }, at(13)),
    entry('looked', { groups: ['shape'] }, at(15)),
  ])!;
  expect(minutesOf(j.visits, packWork(p))).toEqual({ intake: 3, open: 8, measure: 1, judge: 1 });
  const closed = job(
    entry('intake-noted', { consent: 'given' }, { ...on, minutes: 3 }),
    entry('job-closed', {}, { ...on, minutes: 9 }),
  );
  expect(minutesOf(closed.visits, packWork(p))).toEqual({ intake: 3 });
});

describe('a model sheet', () => {
  const screws = (n: number, state?: 'missing') =>
    entry(
      'fasteners-mapped',
      {
        habit: 'map',
        screws: Array.from({ length: n }, (_, i) => ({
          id: i + 1,
          x: i / 20,
          y: 0,
          thread: 'M2' as const,
          ...(i === 0 && state && { state }),
        })),
      },
      on,
    );
  const lesson = (swollen: boolean, ...entries: LoggedEntry[]): Lesson => ({
    job: job(...entries),
    notebook: book(),
    packs: [{ code: 'MG14', shapeSeen: true, swollen, removed: true, form: outline, label, work: [] }],
  });
  const { form: outline } = foldPack(PACK, [entry('form-noted', { connector: 'flap', ears: 4, thickness: mm('7.9') })])!;
  const label = { body: { typeCode: 'MG14', madeOn: '2021-05' }, by: ANNA, at: '' };
  const isolated = entry('isolated', { connector: 'flap', drained: true, sources: [{ what: 'adapter', state: 'off' }] }, on);
  const sheet = sheetOf([lesson(true, screws(9), isolated), lesson(true, screws(10, 'missing')), lesson(false, screws(10))]);

  test('counts what came in swollen and keeps the variants of a base apart', () => {
    expect([sheet.jobs, sheet.swollen, sheet.judged]).toEqual([3, 2, 3]);
    expect(sheet.variants.map((v) => [v.value.screws.length, v.times])).toEqual([
      [10, 2],
      [9, 1],
    ]);
  });
  test('never carries what was live, drained, missing or found that day', () => {
    expect(sheet.isolation!.value).toEqual({ connector: 'flap' });
    expect(sheet.form!.value).toEqual({ connector: 'flap', ears: 4 });
    expect(sheet.labels).toMatchObject([{ value: { typeCode: 'MG14' }, times: 3 }]);
    expect(sheet.labels[0]!.value).not.toHaveProperty('madeOn');
    expect(sheet.variants.flatMap((v) => v.value.screws).some((s) => s.state)).toBe(false);
  });
  test('goes to another workshop without people, and fills only what is unknown there', () => {
    const file = exportSheet(sheet, 'Tern Harbour');
    expect(JSON.stringify(file)).not.toContain(ANNA);
    expect(file.sheet.labels).toEqual([]);
    const there = withTaken(null, [
      { id: 'x', from: 'Tern Harbour', at: '', sheet: file as unknown as Record<string, unknown> },
    ])!;
    expect([there.jobs, there.judged, there.isolation!.by]).toEqual([0, 0, 'Tern Harbour']);
  });
});
