import { condition } from '../condition/condition';
import { isAlarm } from '../condition/container';
import type { ContainerLookBody, LoggedEntry } from '../logbook/entry';
import { DEFAULT_POLICY, foldPack } from '../logbook/fold';
import { foldPlace } from '../logbook/fold-place';
import { ANNA, BRAM, entry, NOW, PACK, soundPack } from '../logbook/testing';
import { openAlarms } from './alarms';
import { storedOf } from './stored';
import { nextLook, WATCH_MINUTES, watchOf } from './watch';

const PLACE = 'd0000000-0000-4000-8000-000000000001';
const SINCE = '2026-11-25T08:00:00.000Z';
const after = (minutes: number) => new Date(Date.parse(SINCE) + minutes * 60_000).toISOString();
const here = [`place:${PLACE}`, `pack:${PACK}`] as const;
const put = () => entry('moved', {}, { subjects: here });
const QUIET: ContainerLookBody = { smell: 'none', sound: 'none', smoke: 'none', lid: 'closed' };
const look = (body: ContainerLookBody, minutes: number, more: object = {}) =>
  entry('container-looked', body, { minutes, subjects: here, ...more });
const degrees = (container: string, room = '18.0') => ({
  ...QUIET,
  probe: 'wall' as const,
  against: 'room' as const,
  temperature: { digits: container, unit: '°C' as const },
  room: { digits: room, unit: '°C' as const },
});
const judged = (entries: readonly LoggedEntry[], now = NOW) => condition(foldPack(PACK, entries)!, DEFAULT_POLICY, now);

// 15 min, 1 h, 4 h, 24 h, 48 h, 72 h, then daily: common practice, no source.
test.each([
  [[], 15],
  [[10], 15],
  [[15], 60],
  [[70], 240],
  [[15, 61, 250], 1440],
  // A look shortly before its time is that look; one long before is not.
  [[13], 60],
  [[50], 60],
  [[52], 240],
  [[3900], 4320],
  [[4319], 4319 + 1440],
  [[4320], 4320 + 1440],
  [[9000], 9000 + 1440],
  // A look before it came to lie there is none of this watch.
  [[-30], 15],
])('looked at after %j minutes: next at %d', (looks, next) => {
  expect(nextLook(SINCE, looks.map(after))).toBe(after(next));
  expect(WATCH_MINUTES).toHaveLength(6);
});

test('what is found of a pack that has lain there for long is watched from its beginning; what was found before it came is not', () => {
  const place = foldPlace(PLACE, [
    entry('place-added', { name: 'Q', kind: 'quarantine', holds: ['damaged'] }, { subjects: [`place:${PLACE}`], minutes: -60 }),
  ])!;
  const next = (...more: LoggedEntry[]) => {
    const facts = foldPack(PACK, [...soundPack(), put(), ...more])!;
    const now = new Date(after(9100));
    return watchOf(
      place,
      [{ item: storedOf(facts, condition(facts, DEFAULT_POLICY, now), DEFAULT_POLICY), facts }],
      DEFAULT_POLICY,
      now,
    ).next;
  };
  const found = (minutes: number, code = 'swollen') => entry('finding-recorded', { code }, { minutes });
  expect(next(found(-10), look(QUIET, 9000))).toBe(after(9000 + 1440));
  expect(next(found(9000), look(QUIET, 9000))).toBe(after(9015));
  expect(next(found(9000), look(QUIET, 9015))).toBe(after(9060));
  // A second danger never puts off the look that the first one asks for.
  expect(next(found(-10), found(50, 'dropped'), look(QUIET, 50))).toBe(after(60));
  // That it is worn out, or called back, is no new danger.
  expect(next(found(-10), found(9000, 'worn-out'), look(QUIET, 9000))).toBe(after(9000 + 1440));
});

describe('what a look at the container says of the packs in it', () => {
  const base = [...soundPack(), put()];
  test.each<[string, Partial<ContainerLookBody>, string]>([
    ['all quiet', {}, 'sound'],
    ['smoke', { smoke: 'smoke' }, 'critical'],
    ['hiss', { sound: 'hiss' }, 'critical'],
    ['smell', { smell: 'smell' }, 'critical'],
    ['something grows', { seen: 'growing' }, 'damaged'],
  ])('%s: %s', (_what, body, want) => {
    expect(judged([...base, look({ ...QUIET, ...body }, 60)]).condition).toBe(want);
  });
  test.each([
    // A probe nobody named: 2 K each, so 3.27 K at k = 2 for the difference.
    ['24.5', 'sound'],
    ['24.8', 'damaged'],
    ['29.0', 'damaged'],
  ])('container at %s °C in a room of 18 °C: %s', (t, want) => {
    expect(judged([...base, look(degrees(t), 60)]).condition).toBe(want);
  });
  test('rising: 5 K more than two hours before, though far from the limit; and whatever order the two arrive in', () => {
    const [a, b] = [look(degrees('18.0'), 60), look(degrees('23.1'), 180)];
    expect(judged([...base, a]).condition).toBe('sound');
    expect(judged([...base, a, b]).condition).toBe('damaged');
    expect(judged([b, ...base, a]).findings).toEqual(judged([...base, a, b]).findings);
    expect(judged([...base, look(degrees('18.0'), 60), look(degrees('20.5'), 180)]).condition).toBe('sound');
  });
  test('it latches: quiet looks later do not end it, a clearing by two people does', () => {
    const alarm = look(degrees('30.0'), 60);
    const later = [look(degrees('18.5'), 90), look(degrees('18.5'), 120)];
    expect(judged([...base, alarm, ...later]).condition).toBe('damaged');
    const clearing = entry('finding-cleared', { clears: [alarm.id], reason: 'stood in the sun' }, { minutes: 130, by: ANNA });
    expect(judged([...base, alarm, clearing]).condition).toBe('damaged');
    const second = entry('confirmed', { confirms: clearing.id }, { minutes: 140, by: BRAM });
    expect(judged([...base, alarm, clearing, second]).condition).toBe('sound');
  });
  test('24 quiet hours end smoke at a container, by looks at the container that asked for every sign', () => {
    const smoke = look({ ...QUIET, smoke: 'smoke' }, 0);
    const end = (looks: readonly LoggedEntry[]) => {
      const q = entry('quiet-declared', { ends: [smoke.id], reason: 'a day without any sign' }, { minutes: 1600, by: ANNA });
      const second = entry('confirmed', { confirms: q.id }, { minutes: 1610, by: BRAM });
      return judged([...base, smoke, ...looks, q, second], new Date('2026-11-26T12:00:00.000Z')).condition;
    };
    const hours = [60, 500, 960, 1400, 1505];
    expect(end(hours.map((m) => look(QUIET, m)))).toBe('damaged');
    expect(end(hours.map((m) => look({ ...QUIET, smell: undefined }, m)))).toBe('critical');
    expect(end([])).toBe('critical');
  });
});

test('the watch of a container: its next look, its trend, and who lies there too long', () => {
  const entries = [...soundPack(), entry('finding-recorded', { code: 'swollen' }), put(), look(degrees('19.0'), 20)];
  const facts = foldPack(PACK, entries)!;
  const place = foldPlace(PLACE, [
    entry('place-added', { name: 'Box A', kind: 'quarantine', holds: ['damaged'] }, { subjects: [`place:${PLACE}`] }),
    ...entries.filter((e) => e.kind === 'container-looked'),
  ])!;
  const item = storedOf(facts, judged(entries), DEFAULT_POLICY);
  const w = watchOf(place, [{ item, facts }], DEFAULT_POLICY, NOW);
  // 11.4 V x 5 Ah, and nobody weighed it: at most 1 kg for each 100 Wh.
  expect([item.wattHours, item.kg]).toEqual([57, 0.57]);
  expect(w.next).toBe(after(60));
  expect(w.trend.map((t) => t.kelvin)).toEqual([1]);
  expect(w.tooLong).toEqual([]);
  expect(watchOf(place, [{ item, facts }], DEFAULT_POLICY, new Date('2026-12-24T08:00:00.000Z')).tooLong).toHaveLength(1);
});

describe('an alarm stands until somebody trained answers it', () => {
  const at = (minutes: number) => ({ subjects: [`place:${PLACE}`] as const, minutes });
  const box = entry('place-added', { name: 'Box A', kind: 'quarantine', holds: ['damaged'] }, at(0));
  const of = (...more: LoggedEntry[]) => openAlarms(foldPlace(PLACE, [box, ...more])!).map((a) => a.words);
  const seen = (body: ContainerLookBody, minutes: number) => entry('container-looked', body, at(minutes));
  const heat = (inside: string, room: string): ContainerLookBody => ({
    temperature: { digits: inside, unit: '°C' },
    room: { digits: room, unit: '°C' },
  });
  test.each<[string, ContainerLookBody, string]>([
    ['smoke', { smoke: 'smoke' }, 'smoke'],
    ['hiss', { sound: 'hiss' }, 'hiss'],
    ['smell', { smell: 'smell' }, 'smell'],
    ['growth', { seen: 'growing' }, 'something in it grows'],
    ['heat', heat('33.0', '18.5'), '14.5 K over its room'],
  ])('%s, and a quiet look after it answers nothing', (_, body, words) => {
    const look = seen(body, 10);
    expect(of(look, seen(QUIET, 20))).toEqual([[words]]);
    expect(isAlarm(look)).toBe(true);
    const answer = entry('alarm-answered', { answers: [look.id], found: 'cold again' }, at(30));
    expect(of(look, answer)).toEqual([]);
    // Answered is answered: what comes later alarms by itself.
    expect(of(answer, seen(body, 40), look)).toEqual([[words]]);
  });
  test('a rise within a day, of which only the later look alarms', () => {
    const [low, high] = [seen(heat('20.0', '20.0'), 10), seen(heat('26.0', '20.0'), 300)];
    expect(of(low, high)).toEqual([['6.0 K more than at an earlier look']]);
    expect(of(low, seen(heat('26.0', '20.0'), 10 + 25 * 60))).toEqual([]);
  });
});

test('adding an open place again changes nothing of it; one that was closed is opened anew', () => {
  const on = (kind: 'place-added' | 'place-closed', body: object, minutes: number) =>
    entry(kind, body as never, { subjects: [`place:${PLACE}`], minutes });
  const first = on('place-added', { name: 'Box', kind: 'quarantine', holds: ['damaged'] }, 0);
  const again = on('place-added', { name: 'Box', kind: 'shelf', holds: ['sound', 'damaged'] }, 10);
  expect(foldPlace(PLACE, [first, again])).toMatchObject({ kind: 'quarantine', holds: ['damaged'], closed: null });
  const shut = on('place-closed', { reason: 'rusted' }, 5);
  expect(foldPlace(PLACE, [first, shut])!.closed).toEqual({ at: shut.at, reason: 'rusted' });
  expect(foldPlace(PLACE, [again, shut, first])).toMatchObject({ kind: 'shelf', closed: null });
});
