import { type Bodies, isHazard, type Kind, parseDigits } from '@gavrel/core';
import { readCase, readRow, mappingOf } from '@gavrel/core/batch';
import { checkEntry } from './schemas';

const ID = 'a0000000-0000-4000-8000-000000000001';
const TODAY = '2026-11-26';
/** What the interface for programs says of it: the field refused, or none. */
function posted<K extends Kind>(kind: K, body: unknown): string | null {
  const e = {
    id: ID,
    v: 1,
    workshop: ID,
    subjects: [`pack:${ID}`],
    kind,
    at: `${TODAY}T08:00:00.000Z`,
    tz: 'UTC',
    by: ID,
    device: 'd',
    hazard: isHazard(kind),
    body: body as Bodies[K],
  };
  const got = checkEntry(e);
  return got.ok ? null : got.errors.map((x) => x.field).join(', ');
}
const row = (heading: string, cell: string) => readRow([cell], mappingOf([heading]), 1, TODAY).problems.map((p) => p.column);
const json = (name: string, v: unknown) => {
  const [group, field] = name.split('.');
  const facts = field === undefined ? { [group!]: v } : { [group!]: { [field]: v } };
  return readCase({ id: 'A', facts }, 1, TODAY).problems.map((p) => p.column);
};

// One wrong value, and every door it may come through: no door keeps it.
describe('what nothing real can be is refused at every door, and the field is named', () => {
  test.each<[string, string, string | number, Kind, object, string]>([
    ['volts of 0', 'nominalVoltage', 0, 'label-read', { nominalVoltage: { digits: '0', unit: 'V' } }, 'nominalVoltage'],
    ['capacity of 0', 'ratedCapacity', 0, 'label-read', { ratedCapacity: { digits: '0.0', unit: 'Ah' } }, 'ratedCapacity'],
    ['energy of 0', 'ratedEnergy', 0, 'label-read', { ratedEnergy: { digits: '0.00', unit: 'Wh' } }, 'ratedEnergy'],
    ['no cell in series', 'series', 0, 'label-read', { series: 0 }, 'series'],
    ['half a cell', 'parallel', 1.5, 'label-read', { parallel: 1.5 }, 'parallel'],
    ['a mass of 0', 'mass', 0, 'reading-taken', { quantity: 'mass', figure: { digits: '0', unit: 'kg' } }, 'body'],
    ['30 February', 'madeOn', '2026-02-30', 'label-read', { madeOn: '2026-02-30' }, 'madeOn'],
    ['made in five years', 'madeOn', '2031', 'label-read', { madeOn: '2031' }, 'madeOn'],
    [
      'a lone decimal mark',
      'nominalVoltage',
      '.',
      'label-read',
      { nominalVoltage: { digits: '.', unit: 'V' } },
      'nominalVoltage',
    ],
  ])('%s', (_what, name, v, kind, body, field) => {
    expect(posted(kind, body)).toContain(field);
    expect(row(name, String(v))).toEqual([name]);
    expect(json(name, v)).toEqual([name]);
    if (v === '.') expect(parseDigits(v)).toBeNull();
  });
  test('a gauge that says a capacity of 0', () =>
    expect(posted('gauge-read', { fullChargeCapacity: { digits: '0', unit: 'mAh' } })).toContain('fullChargeCapacity'));
  test.each([[['', '']], [['none', 'dropped']], [[' ']], [['none,dropped']], [[',']]])(
    'a list that says nothing: %j',
    (findings) => expect(json('findings', findings)).toEqual(['findings']),
  );
  test('what is right goes through', () => {
    expect(posted('label-read', { nominalVoltage: { digits: '11.4', unit: 'V' }, series: 3, madeOn: '2021-05' })).toBeNull();
    expect([row('nominalVoltage', '11,4'), json('nominalVoltage', 11.4), row('findings', 'none')]).toEqual([[], [], []]);
  });
});
