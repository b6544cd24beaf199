import { type Entry, isHazard, type Kind, KINDS } from '@gavrel/core';
import { jsonSchema, openApi } from './openapi';
import { checkEntry, ENTRY_SCHEMAS } from './schemas';

const U = 'a0000000-0000-4000-8000-000000000001';
const P = `pack:${U}`;
const wrap = (kind: Kind, body: unknown, more: object = {}) => ({
  id: U,
  v: 1,
  workshop: U,
  subjects: [P],
  kind,
  at: '2026-11-25T08:00:00.000Z',
  tz: 'UTC',
  by: U,
  device: 'd',
  hazard: isHazard(kind),
  body,
  ...more,
});
const subjects = (s: string) => ({ subjects: [s] });

/** One good example of every kind. */
const GOOD: Record<Kind, unknown> = {
  'job-opened': wrap('job-opened', { complaint: 'dies' }, subjects(`job:${U}`)),
  'job-closed': wrap('job-closed', {}, subjects(`job:${U}`)),
  'notebook-identified': wrap('notebook-identified', { tag: 'N-1', plate: 'unreadable' }, subjects(`notebook:${U}`)),
  'pack-added': wrap('pack-added', { tag: 'P-1', use: 'spare' }),
  'label-read': wrap('label-read', { ratedEnergy: { digits: '99.99', unit: 'Wh' }, madeOn: '2021-05' }),
  'reading-taken': wrap('reading-taken', { quantity: 'cell-voltage', figure: { digits: '-0.12', unit: 'V' } }),
  'gauge-read': wrap('gauge-read', { maxError: 4 }),
  looked: wrap('looked', { groups: ['smell'] }),
  'finding-recorded': wrap('finding-recorded', { code: 'swollen' }),
  'finding-cleared': wrap('finding-cleared', { clears: [U], reason: 'no dent' }),
  'quiet-declared': wrap('quiet-declared', { ends: [U], reason: 'quiet' }),
  corrected: wrap('corrected', { body: { tag: 'x' }, reason: 'typo' }, { replaces: U }),
  retracted: wrap('retracted', { reason: 'typo' }, { replaces: U }),
  confirmed: wrap('confirmed', { confirms: U }),
  'evidence-stated': wrap('evidence-stated', { typeTested: 'yes' }),
  intended: wrap('intended', { purpose: 'recycling' }),
  'place-added': wrap('place-added', { name: 'Shelf', kind: 'shelf', holds: ['sound'] }, subjects(`place:${U}`)),
  moved: wrap('moved', {}),
  'due-set': wrap('due-set', { what: 'proof', on: '2026-12-01' }),
  'due-met': wrap('due-met', { meets: U }),
  'site-card-set': wrap(
    'site-card-set',
    { emergencyNumber: '112', assemblyPoint: 'yard', callFirst: 'lead' },
    subjects(`policy:${U}`),
  ),
  'policy-set': wrap('policy-set', { swelling: 'any' }, subjects(`policy:${U}`)),
};

test.each(KINDS)('%s: its example passes, and an empty envelope does not', (kind) => {
  expect(checkEntry(GOOD[kind])).toMatchObject({ ok: true });
  expect(checkEntry({ kind }).ok).toBe(false);
});

test.each(KINDS)('%s: a field nobody knows is refused and named', (kind) => {
  const bad = checkEntry({ ...(GOOD[kind] as object), surprise: 1 });
  expect(bad).toMatchObject({ ok: false, errors: [{ field: 'surprise' }] });
});

test.each([
  ['a hazard cannot be called harmless', { ...(GOOD['finding-recorded'] as object), hazard: false }, 'hazard'],
  ['a local time', { ...(GOOD.moved as object), at: '2026-11-25T08:00:00+01:00' }, 'at'],
  ['no subject', { ...(GOOD.moved as object), subjects: [] }, 'subjects'],
  ['a wrong subject', { ...(GOOD['pack-added'] as object), subjects: [`job:${U}`] }, 'subjects'],
  ['a correction of nothing', wrap('retracted', { reason: 'typo' }), 'replaces'],
  ['a reason too short', wrap('retracted', { reason: 'x' }, { replaces: U }), 'body.reason'],
  [
    'a negative capacity',
    wrap('gauge-read', { fullChargeCapacity: { digits: '-1', unit: 'mAh' } }),
    'body.fullChargeCapacity.digits',
  ],
  ['exponents', wrap('label-read', { ratedEnergy: { digits: '1e3', unit: 'Wh' } }), 'body.ratedEnergy.digits'],
  ['an empty label', wrap('label-read', {}), 'body'],
  ['a tag of spaces', wrap('pack-added', { tag: '   ', use: 'spare' }), 'body.tag'],
  [
    'beyond the instrument named',
    wrap('reading-taken', {
      quantity: 'pack-voltage',
      figure: { digits: '61', unit: 'V' },
      instrument: { name: 'm', accuracy: { percent: 1, digits: 1 }, range: 60 },
    }),
    'body.figure',
  ],
  ['twice the same look', wrap('looked', { groups: ['smell', 'smell'] }), 'body.groups.1'],
])('refused: %s', (_what, entry, field) => {
  const r = checkEntry(entry);
  expect(r.ok).toBe(false);
  expect((r as { errors: { field: string }[] }).errors.map((e) => e.field)).toContain(field);
});

test.each([null, 7, 'text', [], { kind: 5 }, { kind: 'constructor' }])('%p is refused without falling over', (raw) => {
  expect(checkEntry(raw)).toMatchObject({ ok: false, errors: [{ field: 'kind' }] });
});

test('the document lists every kind once, each with its constant', () => {
  const schemas = (openApi('x').components as { schemas: Record<string, { properties?: { kind?: { const?: string } } }> })
    .schemas;
  for (const kind of KINDS) expect(schemas[`Entry.${kind}`]!.properties!.kind!.const).toBe(kind);
  expect((jsonSchema(ENTRY_SCHEMAS.moved) as { required: string[] }).required).toContain('hazard');
  expect(GOOD as Record<string, Entry>).toHaveProperty('moved');
});
