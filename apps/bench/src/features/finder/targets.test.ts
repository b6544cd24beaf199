import { foldPack, foldPlace, foldNotebook, type LoggedEntry, SHIPPING_RULES } from '@gavrel/core';
import { draft, type Draft, makeEntry } from '../../device/write';
import { scannedTarget, targetsOf } from './targets';

const id = (n: number) => `b0000000-0000-4000-8000-00000000000${n}`;
const made = (d: Draft): LoggedEntry => makeEntry({ workshop: 'w', person: 'p', device: 'd' }, d, Date.now(), null);
const pack = (n: number, tag: string, typeCode?: string) =>
  foldPack(
    id(n),
    [
      draft('pack-added', [`pack:${id(n)}`], { tag, use: 'spare' }),
      ...(typeCode ? [draft('label-read', [`pack:${id(n)}`], { typeCode })] : []),
    ].map(made),
  )!;
const job = 'd0000000-0000-4000-8000-000000000001';
const machine = foldNotebook(
  id(7),
  [
    draft('notebook-identified', [`notebook:${id(7)}`], { tag: 'LD-07', plate: 'read', maker: 'Mereline', model: 'Gannet 14' }),
    draft('job-opened', [`job:${job}`, `notebook:${id(7)}`], {}),
  ].map(made),
)!;
const shelf = foldPlace(
  id(9),
  [draft('place-added', [`place:${id(9)}`], { name: 'Box B', kind: 'quarantine', holds: [] })].map(made),
)!;
const all = {
  packs: { [id(1)]: pack(1, 'TH-17'), [id(2)]: pack(2, 'TH-171'), [id(3)]: pack(3, 'SP-9', 'MG14-B57') },
  notebooks: { [id(7)]: machine },
  places: { [id(9)]: shelf },
  rules: SHIPPING_RULES,
};
const to = (typed: string) => targetsOf(all, typed, 12).map((t) => t.to);

test('what is typed whole comes before what begins with it, and anything has a way', () => {
  expect(to('th17')).toEqual([`/pack/${id(1)}`, `/pack/${id(2)}`]);
  expect(to('b57')).toEqual([`/pack/${id(3)}`]);
  expect(to('gannet')).toEqual([`/job/${job}`]);
  // Where a pack lies tells two of the same type apart.
  expect(targetsOf(all, 'sp-9', 1)[0]?.more).toBe('not placed');
  expect(to('box')[0]).toBe(`/place/${id(9)}`);
  expect(to('yard')[0]).toBe('/yard');
  expect(to('965-IB')).toEqual(['/rules?find=air.965-IB']);
  expect(to('nothing like it')).toEqual([]);
  expect(to('  ')).toEqual([]);
});

test('only so many lines, however much fits', () => {
  expect(targetsOf(all, 'a', 3)).toHaveLength(3);
});

test('a scanned tag is one thing to the letter, or a choice', () => {
  const scan = (code: string) => scannedTarget(targetsOf(all, code, 12), code)?.to;
  expect(scan(' th-17 ')).toBe(`/pack/${id(1)}`);
  expect(scan('LD-07')).toBe(`/job/${job}`);
  expect(scan('Box B')).toBe(`/place/${id(9)}`);
  // A look-alike, a part of a tag, a type code and a screen are only offered.
  for (const code of ['TH-l7', 'TH-1', 'MG14-B57', 'Yard', '']) expect(scan(code)).toBeUndefined();
  const twin = foldPlace(
    id(8),
    [draft('place-added', [`place:${id(8)}`], { name: 'TH-17', kind: 'shelf', holds: [] })].map(made),
  )!;
  const both = { ...all, places: { ...all.places, [id(8)]: twin } };
  expect(scannedTarget(targetsOf(both, 'TH-17', 12), 'TH-17')).toBeUndefined();
});
