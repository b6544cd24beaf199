import { type Bodies, type Kind, type LoggedEntry, type Subject, triageFindings } from '@gavrel/core';
import { draft, makeEntry } from '../device/write';
import { isMovable, linkedFindings, moveTo, takeBack } from './mend';

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
