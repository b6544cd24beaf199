import { condition } from '../condition/condition';
import { rule } from '../ruling/ruling';
import { workshopDues } from '../place/dues';
import type { Bodies, LoggedEntry, Subject } from './entry';
import { DEFAULT_POLICY, foldPack } from './fold';
import { foldIncident } from './fold-incident';
import { foldPlace } from './fold-place';
import { reachOf, withReached } from './reach';
import { BRAM, entry, NOW, OTHER_PACK, PACK, soundPack } from './testing';

const BOX = 'c0000000-0000-4000-8000-000000000001';
const FIRE = 'f0000000-0000-4000-8000-000000000001';
const me: Subject = `pack:${PACK}`;
const box: Subject = `place:${BOX}`;
const it: Subject = `incident:${FIRE}`;
const put = (minutes: number, place: Subject = box) => entry('moved', {}, { subjects: [me, place], minutes });
const opened = (body: Bodies['incident-opened'], minutes: number, packs: readonly Subject[] = [me]) =>
  entry('incident-opened', body, { subjects: [it, box, ...packs], minutes });
const over = (minutes: number, packs: readonly Subject[] = [me]) =>
  entry('incident-closed', { reason: 'cold for three days' }, { subjects: [it, ...packs], minutes });
const signed = (e: LoggedEntry, minutes: number, by = BRAM) =>
  entry('confirmed', { confirms: e.id }, { subjects: e.subjects, minutes, by });
const judged = (entries: readonly LoggedEntry[]) => condition(foldPack(PACK, entries)!, DEFAULT_POLICY, NOW);

describe('what an incident does to a pack', () => {
  const cases: [string, Bodies['incident-opened'], string, string][] = [
    ['the source of smoke', { what: 'smoke', source: PACK }, 'critical', 'smoke'],
    ['one that lay beside it', { what: 'smoke', source: OTHER_PACK }, 'damaged', 'in-incident'],
    ['any, while nobody said which one it was', { what: 'leak' }, 'critical', 'leaking'],
    ['what stood in the water', { what: 'water' }, 'damaged', 'immersed'],
  ];
  test.each(cases)('%s', (_, body, expected, code) => {
    const j = judged([...soundPack(), put(10), opened(body, 20)]);
    expect([j.condition, j.because]).toEqual([expected, [code]]);
    expect(j.open).toContain('frozen by an incident until it is declared over');
  });

  test('nothing of it leaves before two people declare it over, and none clears it before', () => {
    const start = opened({ what: 'fire', source: OTHER_PACK }, 20);
    const clear = entry('finding-cleared', { clears: [start.id], reason: 'looked at' }, { subjects: [me], minutes: 60 });
    const entries = [...soundPack(), put(10), start, clear, signed(clear, 61)];
    const words = (list: readonly LoggedEntry[]) => {
      const r = rule(foldPack(PACK, list)!, DEFAULT_POLICY, NOW, '2026-11-24');
      return { condition: r.judgement.condition, cells: new Set(r.cells.map((c) => c.word)) };
    };
    expect(words(entries).condition).toBe('damaged');
    expect([...words(entries).cells].sort()).toEqual(['hold', 'no']);
    const end = over(200);
    expect(words([...entries, end]).condition).toBe('damaged');
    expect(words([...entries, end, signed(end, 201, end.by)]).condition).toBe('damaged');
    const free = words([...entries, end, signed(end, 201)]);
    expect(free.condition).toBe('sound');
    expect(free.cells.has('yes')).toBe(true);
    // It burns again after that: frozen as before.
    expect(words([...entries, end, signed(end, 201), opened({ what: 'smoke', source: OTHER_PACK }, 300)]).condition).toBe(
      'damaged',
    );
  });
});

describe('over', () => {
  const start = opened({ what: 'smoke' }, 20);
  const history = (end: LoggedEntry, ...more: LoggedEntry[]) => [...soundPack(), put(10), start, end, signed(end, 201), ...more];
  const alarm = (minutes: number) =>
    entry('incident-closed', { reason: 'steam of the kettle', falseAlarm: true }, { subjects: [it, me], minutes });
  test('what burnt reacts no more, and stays damaged for good', () => {
    const j = judged(history(over(200)));
    expect([j.condition, j.because]).toEqual(['damaged', ['smoke']]);
  });
  test('a false alarm leaves nothing behind, where nobody says otherwise', () => {
    expect(judged(history(alarm(200))).condition).toBe('sound');
    const other = over(205);
    expect(judged(history(alarm(200), other, signed(other, 206))).condition).toBe('damaged');
    expect(judged(history(alarm(200), opened({ what: 'smoke' }, 300))).condition).toBe('critical');
    const seen = entry('finding-recorded', { code: 'swollen' }, { subjects: [me], minutes: 30 });
    expect(judged(history(alarm(200), seen)).condition).toBe('damaged');
  });
  test('the record names who declared it over and who signed', () => {
    const end = alarm(200);
    expect(foldIncident(FIRE, [start, end, signed(end, 201)])!.closed).toMatchObject({
      falseAlarm: true,
      by: [end.by],
      signedBy: [BRAM],
    });
  });
});

describe('what is said of a place reaches every pack that lay there then', () => {
  const fire = opened({ what: 'fire', source: OTHER_PACK }, 50, []);
  const at = (own: LoggedEntry[]) => judged(withReached([...soundPack(), ...own], (s) => (s === box ? [fire] : []))).condition;
  const other: Subject = 'place:c0000000-0000-4000-8000-000000000002';
  test('and so does what mends it, once two people agree', () => {
    const look = entry('container-looked', { smoke: 'smoke' }, { subjects: [box], minutes: 60 });
    const back = entry('retracted', { reason: 'another box' }, { subjects: [box], minutes: 61, replaces: look.id });
    const sign = signed(back, 62);
    const after = (...said: LoggedEntry[]) => judged(withReached([...soundPack(), put(10)], () => said)).condition;
    expect([after(look), after(look, back), after(sign, back, look)]).toEqual(['critical', 'critical', 'sound']);
  });
  test.each([
    ['lay there, and its move arrived late', [put(40)], 'damaged'],
    ['came after it', [put(60)], 'sound'],
    ['was taken away before', [put(10), put(45, other)], 'sound'],
    ['was taken away after', [put(10), put(55, other)], 'damaged'],
  ] as const)('%s', (_, own, expected) => expect(at([...own])).toBe(expected));

  test('a quiet look whose writer did not know of the pack is no evidence for it', () => {
    const quiet = { smell: 'none', sound: 'none', smoke: 'none' } as const;
    const looks = [60, 500, 960, 1400, 1505].map((m) => entry('container-looked', quiet, { subjects: [box], minutes: m }));
    const facts = foldPack(
      PACK,
      withReached([...soundPack(), put(10)], () => looks),
    )!;
    expect(facts.containers).toHaveLength(5);
    expect(facts.containers.every((c) => c.doubted)).toBe(true);
    expect(reachOf([put(10), put(40, other)])).toHaveLength(2);
  });
});

test('the record of an incident, and its look that comes due until it is over', () => {
  const first = opened({ what: 'smoke' }, 20);
  const step = entry('incident-noted', { step: 'fire service called' }, { subjects: [it], minutes: 22 });
  const look = entry('incident-looked', { seen: 'nothing' }, { subjects: [it], minutes: 36 });
  const again = opened({ what: 'fire', source: OTHER_PACK, note: 'open flame' }, 40, [me, `pack:${OTHER_PACK}`]);
  const end = over(400, [me]);
  const folded = (...more: LoggedEntry[]) => foldIncident(FIRE, [first, step, look, again, ...more])!;
  expect(folded()).toMatchObject({
    what: ['smoke', 'fire'],
    at: first.at,
    lastAt: again.at,
    packs: [PACK, OTHER_PACK],
    sources: [OTHER_PACK],
    closed: null,
  });
  // A declaration that leaves a pack out does not end it.
  expect(folded(end, signed(end, 401)).closed).toBeNull();
  const all = over(410, [me, `pack:${OTHER_PACK}`]);
  expect(folded(all).closing).toHaveLength(1);
  expect(folded(all, signed(all, 411)).closed).toMatchObject({ reason: 'cold for three days' });

  const place = foldPlace(BOX, [
    entry('place-added', { name: 'Box A', kind: 'quarantine', holds: ['damaged'] }, { subjects: [box] }),
  ])!;
  const dues = (f: ReturnType<typeof folded>) =>
    workshopDues(
      { packs: [], jobs: [], notebooks: [], places: [place], incidents: [f], consignments: [] },
      DEFAULT_POLICY,
      NOW,
      (iso) => iso.slice(0, 10),
    );
  const [line] = dues(folded());
  expect(line).toMatchObject({ what: 'look', subject: it, title: 'Does it burn again? Box A', note: 'smoke' });
  expect(Date.parse(line!.at!) - Date.parse(again.at)).toBe(15 * 60_000);
  expect(dues(folded(all)).map((d) => d.what)).toEqual(['look', 'second person']);
  expect(dues(folded(all, signed(all, 411)))).toEqual([]);
});
