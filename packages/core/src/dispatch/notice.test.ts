import fc from 'fast-check';
import { foldPack } from '../logbook/fold';
import type { NoticeRange } from '../logbook/entry';
import { entry, PACK } from '../logbook/testing';
import { indexNotice, noticeHit, readNotice } from './notice';

type Label = { typeCode?: string; serial?: string; madeOn?: string };
const pack = (...labels: readonly Label[]) =>
  foldPack(PACK, [entry('pack-added', { tag: 'T-1', use: 'spare' }), ...labels.map((l) => entry('label-read', l))])!;
const hit = (range: NoticeRange, ...labels: readonly Label[]) => noticeHit(indexNotice({ ranges: [range] }), pack(...labels));
const R = { typeCode: 'MG14-B50', serialFrom: 'KX0100', serialTo: 'KX0299' };

test.each([
  ['the code as printed, inside', { typeCode: 'mg14 b50', serial: 'KX-0150' }, { sure: true, why: [] }],
  ['the first of the range', { typeCode: 'MG14-B50', serial: 'KX0100' }, { sure: true, why: [] }],
  ['the last of the range', { typeCode: 'MG14-B50', serial: 'KX0299' }, { sure: true, why: [] }],
  ['one behind it', { typeCode: 'MG14-B50', serial: 'KX0300' }, null],
  ['another code', { typeCode: 'MG15-B56', serial: 'KX0150' }, null],
  ['no serial read', { typeCode: 'MG14-B50' }, { sure: false, why: ['its serial number was not read'] }],
  [
    'another way of writing',
    { typeCode: 'MG14-B50', serial: 'Q1-77' },
    { sure: false, why: [expect.stringMatching(/otherwise/)] },
  ],
  ['look-alikes forgiven', { typeCode: 'MGI4-850', serial: 'KX0150' }, { sure: false, why: ['I taken for 1', '8 taken for B'] }],
])('%s', (_what, label, want) => expect(hit(R, label)).toEqual(want));

test('a date that is only partly known is a question where the range ends inside it', () => {
  const made = { typeCode: 'A-1', madeFrom: '2021-03', madeTo: '2021-05' };
  expect(hit(made, { typeCode: 'A-1', madeOn: '2021-04' })).toMatchObject({ sure: true });
  expect(hit(made, { typeCode: 'A-1', madeOn: '2021' })).toMatchObject({ sure: false });
  expect(hit(made, { typeCode: 'A-1', madeOn: '2021-05-31' })).toMatchObject({ sure: true });
  expect(hit(made, { typeCode: 'A-1', madeOn: '2021-06-01' })).toBeNull();
});

test('what was read otherwise another time still counts: nothing read makes a pack go free of a notice', () => {
  const labels = [{ typeCode: 'MG14-B50', serial: 'KX0150' }, { serial: 'KX0900' }];
  expect(hit(R, ...labels)).toMatchObject({ sure: true });
  // Leaving out what is known never turns a hit into none.
  const known = fc.record({
    serial: fc.constantFrom('KX0150', 'KX0299', 'KX0301'),
    madeOn: fc.constantFrom('2021', '2021-04', '2022-01-02'),
  });
  fc.assert(
    fc.property(known, fc.constantFrom('serial' as const, 'madeOn' as const), ({ serial, madeOn }, gone) => {
      const range = { ...R, madeFrom: '2021-04', madeTo: '2021-12' };
      const all = { typeCode: R.typeCode, serial, madeOn };
      const { [gone]: _left, ...less } = all;
      if (hit(range, all) !== null) expect(hit(range, less)).not.toBeNull();
    }),
  );
});

test('a file with faults: good lines are kept, each other one is named by its number', () => {
  const lines = Array.from({ length: 50_000 }, (_, i) => `C-${i},K${100 + i},K${200 + i},,`);
  lines[7] = ',K1,K2,,';
  lines[4000] = 'C-9,K300,K200,,';
  lines[49_999] = 'C-9,,,2021-13,';
  const { ranges, problems } = readNotice(['Type code,Serial from,Serial to,Made from,Made to', ...lines].join('\n'));
  expect(ranges).toHaveLength(49_997);
  expect(problems).toEqual([
    { line: 9, words: expect.stringMatching(/no type code/) },
    { line: 4002, words: 'serial from K300 lies after serial to K200' },
    { line: 50_001, words: expect.stringMatching(/"2021-13" is no date/) },
  ]);
  expect(readNotice('Model,Serial\nX,1').problems).toEqual([{ line: 1, words: 'no column is called "type code"' }]);
});

test.each(['[', '{}', '[null, 7, {"typeCode": {}}]', '\u0000', '{"ranges": 5}', 'type code\n"unclosed'])(
  '%j does not fall over',
  (text) => {
    const { ranges, problems } = readNotice(text);
    expect(ranges.length + problems.length).toBeGreaterThan(0);
  },
);
