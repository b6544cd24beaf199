import { type Entry, isHazard, type Kind, KINDS } from '@gavrel/core';
import { jsonSchema, openApi } from './openapi';
import { checkEntry, ENTRY_SCHEMAS, PERSON_SCHEMA } from './schemas';

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

const SHEET = {
  gavrel: 'model sheet',
  version: 1,
  sheet: {
    maker: '',
    model: 'M',
    jobs: 1,
    swollen: 0,
    judged: 0,
    variants: [],
    cover: { value: { tool: 'plastic' }, by: 'another workshop', at: '2026-11-25', times: 1 },
    isolation: null,
    removal: null,
    form: null,
    labels: [],
    codes: ['A-1'],
    minutes: { open: 4 },
  },
};
const job = subjects(`job:${U}`);
const consignment = subjects(`consignment:${U}`);
const BOX = {
  name: 'F40',
  inner: { length: 400, width: 300, height: 200 },
  tareKg: 0.4,
  maxGrossKg: 20,
  kind: 'fibreboard',
  un: false,
  stock: 25,
  price: 1.1,
};

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
  declined: wrap('declined', { declines: U, reason: 'it does rock' }),
  'evidence-stated': wrap('evidence-stated', { typeTested: 'yes' }),
  intended: wrap('intended', { purpose: 'recycling' }),
  'place-added': wrap('place-added', { name: 'Shelf', kind: 'shelf', holds: ['sound'] }, subjects(`place:${U}`)),
  'place-described': wrap(
    'place-described',
    { limits: { packs: 12, kg: 30 }, fill: 'sand', near: { burns: 3.5 }, box: { x: 0, y: 1.2, width: 0.6, depth: 0.4 } },
    subjects(`place:${U}`),
  ),
  'place-closed': wrap('place-closed', { reason: 'rusted through' }, subjects(`place:${U}`)),
  moved: wrap('moved', { despite: 'the box is full until Thursday' }),
  'container-looked': wrap(
    'container-looked',
    {
      smell: 'none',
      sound: 'none',
      smoke: 'none',
      temperature: { digits: '19.5', unit: '°C' },
      room: { digits: '-3', unit: '°C' },
    },
    { subjects: [`place:${U}`, `pack:${U}`], hazard: true },
  ),
  'place-counted': wrap('place-counted', { seen: [U], strangers: ['0049'] }, subjects(`place:${U}`)),
  'drum-collected': wrap(
    'drum-collected',
    { collection: U, to: 'Skerry Metals', weighed: { digits: '7.4', unit: 'kg' } },
    { subjects: [`place:${U}`, `pack:${U}`] },
  ),
  'drum-answered': wrap('drum-answered', { collection: U, certificate: 'S-114' }, subjects(`place:${U}`)),
  'alarm-answered': wrap('alarm-answered', { answers: [U], found: 'cool by now, nothing seen' }, subjects(`place:${U}`)),
  'incident-opened': wrap(
    'incident-opened',
    { what: 'smoke', source: U },
    { subjects: [`incident:${U}`, `place:${U}`, `pack:${U}`], hazard: true },
  ),
  'incident-noted': wrap('incident-noted', { step: 'everyone out' }, subjects(`incident:${U}`)),
  'incident-looked': wrap(
    'incident-looked',
    { seen: 'nothing', temperature: { digits: '24.1', unit: '°C' } },
    subjects(`incident:${U}`),
  ),
  'incident-closed': wrap(
    'incident-closed',
    { reason: 'cold and quiet for three days' },
    { subjects: [`incident:${U}`, `pack:${U}`] },
  ),
  'sweep-walked': wrap('sweep-walked', { sweep: 'closing', points: { 'lids closed': 'yes' } }, subjects(`round:${U}`)),
  'consignment-described': wrap(
    'consignment-described',
    {
      ...{ name: 'Recycling, week 48', destination: 'recycler', mode: 'road', region: 'eu', on: '2026-12-01' },
      ...{ permit: 'P 12', crossesBorder: true, notification: '' },
    },
    consignment,
  ),
  consigned: wrap('consigned', {}, { subjects: [`consignment:${U}`, `pack:${U}`] }),
  withdrawn: wrap('withdrawn', { reason: 'swollen since' }, { subjects: [`consignment:${U}`, `pack:${U}`] }),
  'plan-kept': wrap('plan-kept', { packages: [{ id: U, box: U, packs: [U] }], bound: 1 }, consignment),
  packed: wrap('packed', { package: U }, { subjects: [`consignment:${U}`, `pack:${U}`] }),
  unpacked: wrap('unpacked', {}, { subjects: [`consignment:${U}`, `pack:${U}`] }),
  'package-closed': wrap(
    'package-closed',
    { package: U, box: U, weighed: { digits: '7.4', unit: 'kg' }, seal: '0042' },
    consignment,
  ),
  'package-opened': wrap('package-opened', { package: U }, consignment),
  'package-counted': wrap('package-counted', { package: U, count: 12 }, consignment),
  'consignment-handed-over': wrap(
    'consignment-handed-over',
    {
      to: 'Marram Freight',
      on: '2026-12-01',
      mode: 'road',
      region: 'eu',
      packages: [
        { id: U, packs: [U], un: 'UN 3480', provision: 'SP377-P909', rules: [{ rule: 'road.377', edition: 'ADR 2025' }] },
      ],
    },
    { subjects: [`consignment:${U}`, `pack:${U}`] },
  ),
  'consignment-arrived': wrap('consignment-arrived', { packs: 12, receipt: 'R-7' }, consignment),
  'consignment-ended': wrap(
    'consignment-ended',
    { how: 'refused', reason: 'mark not legible' },
    { subjects: [`consignment:${U}`, `pack:${U}`] },
  ),
  'box-described': wrap('box-described', BOX, subjects(`box:${U}`)),
  'carrier-described': wrap(
    'carrier-described',
    {
      name: 'Marram Freight',
      modes: ['road'],
      takes: { loose: true, withEquipment: true, inEquipment: true, damaged: false, recycling: true, class9: true },
      cutOff: '15:30',
      price: { perPackage: 9.5, perKg: 0.8, class9: 24 },
    },
    subjects(`carrier:${U}`),
  ),
  'notice-filed': wrap(
    'notice-filed',
    {
      title: 'Fire risk',
      says: 'stop using',
      on: '2026-11-02',
      ranges: [{ typeCode: 'MG14-B50', madeFrom: '2021', madeTo: '2021-06' }],
    },
    subjects(`notice:${U}`),
  ),
  'brought-down': wrap('brought-down', { to: 30, how: 'resistor', hours: 2.5 }),
  'topped-up': wrap('topped-up', { to: 50 }),
  cycled: wrap('cycled', { went: 'as-usual' }),
  'due-set': wrap('due-set', { what: 'proof', on: '2026-12-01' }),
  'due-met': wrap('due-met', { meets: U }),
  'site-card-set': wrap(
    'site-card-set',
    { emergencyNumber: '112', assemblyPoint: 'yard', callFirst: 'lead' },
    subjects(`policy:${U}`),
  ),
  triaged: wrap('triaged', { lid: 'not flush', touch: 'warm' }, subjects(`notebook:${U}`)),
  'intake-noted': wrap('intake-noted', { keyboard: 'uneven', charge: 24 }, job),
  'owner-linked': wrap('owner-linked', { owner: U, of: 'both' }, job),
  'swollen-prepared': wrap('swollen-prepared', { charge: 'as found' }, job),
  'fasteners-mapped': wrap(
    'fasteners-mapped',
    { habit: 'map', ratio: 1.5, screws: [{ id: 1, x: 0.1, y: 0.9, thread: 'M2', length: { digits: '4', unit: 'mm' } }] },
    job,
  ),
  'cover-opened': wrap('cover-opened', { pryStart: 'hinge side', tool: 'plastic', cables: ['speaker'] }, job),
  isolated: wrap('isolated', { connector: 'flap', sources: [{ what: 'adapter', state: 'off' }] }, job),
  'pack-removed': wrap('pack-removed', { mounting: ['screws'], screws: [{ thread: 'M2', count: 4 }] }),
  'form-noted': wrap('form-noted', { length: { digits: '210.5', unit: 'mm' }, ears: 4, cable: 'without' }),
  'source-stated': wrap('source-stated', { school: 'compatible', summary: 'none' }),
  'match-decided': wrap('match-decided', { old: U, new: 'b0000000-0000-4000-8000-000000000001', verdict: 'fits' }),
  'return-opened': wrap('return-opened', { to: 'seller', reason: 'dead on arrival', until: '2026-12-09' }),
  refitted: wrap('refitted', { back: [{ thread: 'M2', count: 4 }], plugs: 'all, the pack last' }, job),
  'proof-taken': wrap('proof-taken', { starts: 'yes', gauge: 'owed' }, job),
  'job-taken': wrap('job-taken', {}, job),
  'job-put-down': wrap('job-put-down', {}, job),
  'handed-over': wrap('handed-over', { oldPack: 'stays here', signature: 'ab'.repeat(32) }, job),
  'log-measured': wrap('log-measured', {
    sha256: '1'.repeat(64),
    file: { sha256: '2'.repeat(64), bytes: 40_000 },
    method: 'trapezium',
    rows: 7200,
    gaps: 0,
    charge: { lo: 4.1, hi: 4.3 },
    energy: { lo: 46, hi: 49 },
    meanCurrent: 2,
    remarks: ['health: it did not begin full (3.90 V a cell)'],
  }),
  'photo-taken': wrap('photo-taken', {
    sha256: '0'.repeat(64),
    type: 'image/jpeg',
    width: 1600,
    height: 900,
    bytes: 90_000,
    of: 'label',
  }),
  'instrument-added': wrap(
    'instrument-added',
    { name: 'meter 2', accuracy: { percent: 0.5, digits: 2 }, measures: 'volts', calibratedUntil: '2027-03-01' },
    subjects(`instrument:${U}`),
  ),
  'instrument-connected': wrap(
    'instrument-connected',
    { address: { host: '192.168.1.40', port: 5025, speaks: 'scpi' } },
    subjects(`instrument:${U}`),
  ),
  'sheet-taken-in': wrap('sheet-taken-in', { from: 'another workshop', sheet: SHEET }, subjects(`model:${U}`)),
  'station-skipped': wrap('station-skipped', { station: 'match', why: 'no new pack' }, job),
  'rule-checked': wrap('rule-checked', { rule: 'air.965-IB', edition: 'DGR 2026', on: '2026-11-25' }, subjects(`policy:${U}`)),
  'summary-filed': wrap(
    'summary-filed',
    { typeCode: 'MG14-B50', items: ['maker', 'tests'], report: 'R-1' },
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
  [
    'two screws with one number',
    wrap('fasteners-mapped', { habit: 'map', screws: [1, 1].map((id) => ({ id, x: 0, y: 0 })) }, job),
    'body.screws.1',
  ],
  ...['8.8.8.8', '2001:4860::1', '::ffff:8.8.8.8', '0.0.0.0', 'meter.example', '10.0.0.1/8', '169.254.1'].map(
    (host): [string, unknown, string] => [
      `an instrument at ${host}`,
      wrap('instrument-connected', { address: { host, port: 5025, speaks: 'scpi' } }, subjects(`instrument:${U}`)),
      'body.address.host',
    ],
  ),
  ['a pack matched with itself', wrap('match-decided', { old: U, new: U, verdict: 'fits' }), 'body.new'],
  ...(
    [
      ['an interval upside down', { charge: { lo: 4.3, hi: 4.1 } }, 'body.charge'],
      ['less than nothing', { energy: { lo: -1, hi: 4.1 } }, 'body.energy.lo'],
      ['a log that begins and never ends', { from: '2026-11-01T10:00:00.000Z' }, 'body'],
      ['a file without its hash', { file: { bytes: 10 } }, 'body.file.sha256'],
    ] as const
  ).map(
    ([what, part, field]) =>
      [what, wrap('log-measured', { ...(GOOD['log-measured'] as { body: object }).body, ...part }), field] as [
        string,
        ReturnType<typeof wrap>,
        string,
      ],
  ),
  [
    'a picture over 5 MB',
    wrap('photo-taken', { ...(GOOD['photo-taken'] as { body: object }).body, bytes: 5_242_881 }),
    'body.bytes',
  ],
  [
    'a box that holds less than itself',
    wrap('box-described', { ...BOX, maxGrossKg: 0.4 }, subjects(`box:${U}`)),
    'body.maxGrossKg',
  ],
  [
    'a time no clock shows',
    wrap(
      'carrier-described',
      { ...(GOOD['carrier-described'] as { body: object }).body, cutOff: '24:10' },
      subjects(`carrier:${U}`),
    ),
    'body.cutOff',
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

test.each([
  ['a name', 'Ada Lovelace \u{1F50B}', true],
  ['half a character', 'Ada \ud800', false],
  ['a NUL', 'Ada\u0000', false],
])('%s is kept or named: %j', (_what, name, kept) =>
  expect(PERSON_SCHEMA.validate({ name, role: 'viewer' }).error === undefined).toBe(kept),
);
