import { type Bodies, foldPack, type Kind, type LoggedEntry, type Subject, triageFindings } from '@gavrel/core';
import { draft, makeEntry } from '../device/write';
import { isMovable, joinTwice, linkedFindings, moveTo, splitTwice, takeBack } from './mend';

const BOOK: Subject = 'notebook:e0000000-0000-4000-8000-000000000001';
const [HERE, THERE] = ['b0000000-0000-4000-8000-000000000001', 'b0000000-0000-4000-8000-000000000002'];
const said = <K extends Kind>(kind: K, on: readonly Subject[], body: Bodies[K], by = 'anna'): LoggedEntry =>
  makeEntry({ workshop: 'w', person: by, device: 'd' }, draft(kind, on, body), Date.now(), null);

test('an answer is taken back with the findings it brought, and with none of anybody else', () => {
  const answer = said('triaged', [BOOK], { base: 'rocks', smell: 'smell' });
  const brought = triageFindings({ base: 'rocks', smell: 'smell' }).map((f) => said('finding-recorded', [BOOK], f));
  const others = [
    said('finding-recorded', [BOOK], { code: 'swollen', note: 'base rocks' }, 'bram'),
    said('finding-recorded', [BOOK], { code: 'swollen', note: 'lid not flush' }),
  ];
  const all = [answer, ...brought, ...others];
  expect(linkedFindings(answer, all)).toEqual(brought);
  expect(takeBack(answer, all, 'wrong machine').map((d) => [d.kind, d.replaces])).toEqual(
    [answer, ...brought].map((e) => ['retracted', e.id]),
  );
});

test('what was said of the wrong pack is said of the right one as it was, and taken back where it stood', () => {
  const figure = { digits: '11.31', unit: 'V' } as const;
  const reading = said('reading-taken', [`pack:${HERE}`], { quantity: 'pack-voltage', figure });
  expect(isMovable(reading, HERE!)).toBe(true);
  expect(isMovable(said('finding-recorded', [BOOK], { code: 'swollen' }), HERE!)).toBe(false);
  const [there, gone] = moveTo(reading, { tag: 'A-1' }, { id: THERE!, tag: 'A-2' });
  expect(there).toMatchObject({ kind: 'reading-taken', subjects: [`pack:${THERE}`], body: reading.body });
  expect(gone).toMatchObject({ kind: 'retracted', subjects: [`pack:${HERE}`], replaces: reading.id });
  expect((gone!.body as Bodies['retracted']).reason).toMatch(/A-2, not A-1/);
});

describe('a tag that two devices gave', () => {
  const at = (device: string, by: string) => ({ workshop: 'w', person: by, device });
  let clock = Date.now() - 100_000;
  let seq = 0;
  const numbered = (e: LoggedEntry, waits?: 'second'): LoggedEntry =>
    ({ ...e, seq: ++seq, recordedAt: e.at, effectiveAt: e.at, ...(waits && { waits }) }) as LoggedEntry;
  const by = <K extends Kind>(device: string, who: string, kind: K, on: Subject, body: Bodies[K]) =>
    numbered(makeEntry(at(device, who), draft(kind, [on], body), (clock += 1000), null));
  const [here, there] = [`pack:${HERE}`, `pack:${THERE}`] as const;
  const record = () => [
    by('one', 'anna', 'pack-added', here, { tag: 'TH-1', use: 'removed' }),
    by('two', 'bram', 'pack-added', here, { tag: 'TH-1', use: 'spare' }),
    by('one', 'anna', 'reading-taken', here, { quantity: 'mass', figure: { digits: '0.24', unit: 'kg' } }),
    by('two', 'bram', 'finding-recorded', here, { code: 'swollen' }),
    by('two', 'bram', 'looked', here, { groups: ['smell'] }),
    by('two', 'bram', 'reading-taken', here, { quantity: 'pack-voltage', figure: { digits: '11.3', unit: 'V' } }),
    by('two', 'bram', 'reading-taken', here, { quantity: 'mass', figure: { digits: '0.31', unit: 'kg' } }),
  ];
  const write = (drafts: ReturnType<typeof splitTwice>) =>
    drafts.map((d) =>
      numbered(makeEntry(at('one', 'anna'), d, (clock += 1000), null), d.kind === 'retracted' ? 'second' : undefined),
    );
  const confirmed = (entries: readonly LoggedEntry[]) =>
    entries
      .filter((e) => e.kind === 'retracted')
      .map((e) =>
        numbered(makeEntry(at('two', 'bram'), draft('confirmed', e.subjects, { confirms: e.id }), (clock += 1000), null)),
      );
  const of = (s: Subject, all: readonly LoggedEntry[]) => {
    const f = foldPack(
      s.slice(5),
      all.filter((e) => e.subjects.includes(s)),
    )!;
    const kg = f.readings.filter((r) => r.body.quantity === 'mass').map((r) => r.body.figure.digits);
    return [f.tag, f.use, f.addedTwice !== undefined, kg, f.findings.length, f.looks.length];
  };

  test('stands for two packs: one gets a tag, its danger is on both until a second person agrees, then on it alone', () => {
    const all = record();
    const twice = foldPack(HERE!, all)!.addedTwice!;
    expect(twice).toHaveLength(2);
    const split = write(splitTwice({ id: HERE!, tag: 'TH-1' }, twice, all, { id: THERE!, tag: 'TH-2' }));
    expect(of(here, [...all, ...split]).slice(2, 5)).toEqual([true, ['0.24', '0.31'], 1]);
    // No look goes with it: nobody looks at it now.
    expect(of(there, [...all, ...split])).toEqual(['TH-2', 'spare', false, ['0.31'], 1, 0]);
    const agreed = [...all, ...split, ...confirmed(split)];
    expect(of(here, agreed)).toEqual(['TH-1', 'removed', false, ['0.24'], 0, 0]);
    expect(of(there, agreed)).toEqual(['TH-2', 'spare', false, ['0.31'], 1, 0]);
  });
  test('stands for one pack: everything stays on it, once a second person agrees', () => {
    const all = record();
    const joined = write(joinTwice(foldPack(HERE!, all)!.addedTwice!, all));
    expect(of(here, [...all, ...joined]).slice(2)).toEqual([true, ['0.24', '0.31'], 1, 1]);
    expect(of(here, [...all, ...joined, ...confirmed(joined)])).toEqual(['TH-1', 'removed', false, ['0.24', '0.31'], 1, 1]);
  });
});
