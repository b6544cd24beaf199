import { type Bodies, foldPack, type Kind, type LoggedEntry, type PackFacts, type Subject } from '@gavrel/core';
import { draft, makeEntry } from '../device/write';
import { knownForm, knownNewThickness, lastSource } from './same-type';

let clock = Date.parse('2026-11-25T08:00:00Z');
type Said = { readonly [K in Kind]?: Bodies[K] };
/** A spare whose label says a type code, and what else was said of it. */
function pack(n: number, typeCode: string | null, said: Said = {}, also: Said = {}): PackFacts {
  const me: Subject = `pack:b0000000-0000-4000-8000-00000000000${n}`;
  const of = (s: Said) => Object.entries(s).map(([kind, body]) => draft(kind as Kind, [me], body as Bodies[Kind]));
  const drafts = [
    draft('pack-added', [me], { tag: `TH-${n}`, use: 'spare' }),
    ...(typeCode === null ? [] : [draft('label-read', [me], { typeCode })]),
    ...of(said),
    ...of(also),
  ];
  const author = { workshop: 'w', person: 'p', device: 'd' };
  const entries = drafts.map((d) => ({ ...makeEntry(author, d, (clock += 60_000), null), seq: clock }) as LoggedEntry);
  return foldPack(me.slice(5), entries)!;
}
const mm = (digits: string) => ({ digits, unit: 'mm' as const });
const form = (length: string, more: Partial<Bodies['form-noted']> = {}) => ({
  'form-noted': { length: mm(length), width: mm('96'), connector: 'pull-out plug' as const, ...more },
});
const isNew = (digits: string, source: 'data-sheet' | 'measured-new' | 'trade-code' = 'data-sheet') => ({
  'reading-taken': { quantity: 'new-thickness' as const, figure: mm(digits), source },
});

describe('the outline of others of the type', () => {
  const others = [pack(1, 'MG14 B57', form('208')), pack(2, 'mg14 b57', form('208', { ears: 2 })), pack(3, 'SK-1', form('182'))];
  test('is offered as the newest has it, never its thickness or cable', () => {
    expect(knownForm(others, pack(6, 'MG14 B57'))).toEqual({
      from: 'TH-2',
      said: { length: mm('208'), width: mm('96'), connector: 'pull-out plug', ears: 2 },
    });
    expect(knownForm([pack(1, 'SK-1', form('182', { thickness: mm('5.2'), cable: 'with it' }))], pack(6, 'SK-1'))!.said).toEqual({
      length: mm('182'),
      width: mm('96'),
      connector: 'pull-out plug',
    });
  });
  test.each([
    ['something is said of it', others, pack(5, 'SK-1', { 'form-noted': { length: mm('180') } })],
    ['its type is not known', others, pack(5, null)],
    ['two of the type differ', [...others, pack(4, 'SK-1', form('183'))], pack(5, 'SK-1')],
    ['it stands alone', [pack(5, 'SK-1', form('182'))], pack(5, 'SK-1')],
  ])('is not offered where %s', (_why, all, about) => expect(knownForm(all, about)).toBeNull());
});

describe('the thickness of others of the type when new', () => {
  const about = pack(9, 'SK-1');
  test('is offered with where it came from, and without what belongs to that reading alone', () => {
    const other = pack(1, 'SK-1', { 'reading-taken': { ...isNew('5.20')['reading-taken'], confirmedOdd: true } });
    expect(knownNewThickness([other], about)).toEqual({
      from: 'TH-1',
      said: { quantity: 'new-thickness', figure: mm('5.20'), source: 'data-sheet' },
    });
  });
  test.each([
    [
      'a used pack was measured',
      [pack(1, 'SK-1', { 'reading-taken': { quantity: 'thickness', point: 'centre', figure: mm('5.9') } })],
    ],
    ['it came from a trade code, which rounds', [pack(1, 'SK-1', isNew('6', 'trade-code'))]],
    ['two say something else', [pack(1, 'SK-1', isNew('5.20')), pack(2, 'SK-1', isNew('5.60', 'measured-new'))]],
    ['it is of another type', [pack(1, 'SK-2', isNew('5.20'))]],
  ])('is not offered where %s', (_why, all) => expect(knownNewThickness(all, about)).toBeNull());
  test('two that may both be right are one', () => {
    const all = [pack(1, 'SK-1', isNew('5.20')), pack(2, 'SK-1', isNew('5.25', 'measured-new'))];
    expect(knownNewThickness(all, about)!.from).toBe('TH-2');
  });
  test('what was read of it already is not asked about', () => {
    expect(knownNewThickness([pack(1, 'SK-1', isNew('5.20'))], pack(9, 'SK-1', isNew('5.1')))).toBeNull();
  });
});

describe('the last delivery', () => {
  const from = (supplier: string, receivedOn: string, lot?: string) => ({
    'source-stated': { school: 'compatible' as const, supplier, receivedOn, ...(lot && { lot }) },
  });
  const about = pack(9, null);
  const all = [pack(1, null, from('Quarrel Cells', '2026-11-20', 'L1')), pack(2, null, from('Lindow Parts', '2026-11-25', 'L2'))];
  test('is where the newest came from; its lot only on the day itself', () => {
    expect(lastSource(all, about, '2026-11-25')).toEqual({
      from: 'TH-2',
      said: { school: 'compatible', supplier: 'Lindow Parts', lot: 'L2' },
    });
    expect(lastSource(all, about, '2026-11-26')!.said).toEqual({ school: 'compatible', supplier: 'Lindow Parts' });
  });
  test.each([
    ['long ago', all, about, '2026-12-10'],
    ['said of a day to come', [all[1]!], about, '2026-11-24'],
    ['said of this one already', all, pack(9, null, from('Else', '2026-11-25')), '2026-11-25'],
  ])('is not offered where it was %s', (_why, packs, of, today) => expect(lastSource(packs, of, today)).toBeNull());
});
