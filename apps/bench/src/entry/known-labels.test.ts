import { foldPack, type LabelBody, type LoggedEntry, type PackFacts, type Subject } from '@gavrel/core';
import { draft, type Draft, makeEntry } from '../device/write';
import { knownLabels } from './known-labels';

let clock = Date.parse('2026-11-25T08:00:00Z');
const made = (d: Draft): LoggedEntry =>
  ({ ...makeEntry({ workshop: 'w', person: 'p', device: 'd' }, d, (clock += 60_000), null), seq: clock }) as LoggedEntry;
const BOOK: Subject = 'notebook:e0000000-0000-4000-8000-000000000001';
const B57: LabelBody = {
  typeCode: 'MG14-B57',
  chemistry: 'li-ion',
  nominalVoltage: { digits: '11.4', unit: 'V' },
  ratedEnergy: { digits: '57', unit: 'Wh' },
};
const B50: LabelBody = { ...B57, typeCode: 'MG14-B50', ratedEnergy: { digits: '50', unit: 'Wh' } };
function pack(n: number, labels: readonly Partial<LabelBody>[], more: readonly Subject[] = []): PackFacts {
  const me: Subject = `pack:b0000000-0000-4000-8000-00000000000${n}`;
  const entries = [
    draft('pack-added', [me, ...more], { tag: `TH-${n}`, use: 'spare' }),
    ...labels.map((l) => draft('label-read', [me], l)),
  ];
  return foldPack(me.slice(5), entries.map(made))!;
}
const offered = (all: readonly PackFacts[], about: PackFacts, most = 3) =>
  knownLabels([...all, about], about, most).map((k) => [k.from, k.label.typeCode]);

test('labels of types that were read before are offered: of its machine, then of what came last, without serial and date', () => {
  const all = [pack(1, [B57, { serial: 'X1', madeOn: '2021' }], [BOOK]), pack(2, [B50])];
  expect(offered(all, pack(5, []))).toEqual([
    ['TH-2', 'MG14-B50'],
    ['TH-1', 'MG14-B57'],
  ]);
  expect(offered(all, pack(6, [], [BOOK]))[0]).toEqual(['TH-1', 'MG14-B57']);
  expect(knownLabels(all, pack(7, []), 3)[1]!.label).toEqual(B57);
  expect(offered(all, pack(8, []), 1)).toHaveLength(1);
});

test('a type code that is known already offers its own type alone, and what was read offers nothing', () => {
  const all = [pack(1, [B57]), pack(2, [B50])];
  expect(offered(all, pack(5, [{ typeCode: 'mg14 - b57' }]))).toEqual([['TH-1', 'MG14-B57']]);
  expect(offered(all, pack(6, [{ typeCode: 'ZZ-9' }]))).toEqual([]);
  expect(offered(all, pack(7, [{ nominalVoltage: { digits: '11.4', unit: 'V' } }]))).toEqual([]);
});

test('a type that was read in two ways is not offered, nor is half a label', () => {
  const other = { ...B57, ratedEnergy: { digits: '75', unit: 'Wh' as const } };
  expect(offered([pack(1, [B57]), pack(2, [other])], pack(5, []))).toEqual([]);
  expect(offered([pack(3, [{ typeCode: 'MG14-B57' }])], pack(6, []))).toEqual([]);
});
