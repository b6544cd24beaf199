import {
  type BoxFacts,
  type ConsignmentFacts,
  DEFAULT_POLICY,
  foldConsignment,
  foldPack,
  type LoggedEntry,
  type PackFacts,
  taggedId,
} from '@gavrel/core';
import type { NoticedPack } from '@gavrel/core/dispatch';
import { whyNotYet } from './leave-card';
import { scanOf } from './scan-card';
import { movedTo } from './move';
import { consignmentData, documentLines, listCsv, marksPaper } from './papers';
import { joined, noticedHere } from './noticed';
import { consignmentView, type ConsignmentView } from './view';
import { permitBefore, wasteData, wastePaper } from './waste';

const WORKSHOP = '11111111-1111-4111-8111-111111111111';
const C = 'e0000000-0000-4000-8000-000000000001';
const DAY = '2026-11-25';
const idOf = (tag: string) => taggedId(WORKSHOP, 'pack', tag);

const BOX: BoxFacts & { left: number } = {
  id: 'plain',
  at: '2026-11-01T08:00:00.000Z',
  name: 'F40',
  inner: { length: 400, width: 300, height: 220 },
  tareKg: 0.4,
  maxGrossKg: 20,
  kind: 'fibreboard',
  un: true,
  stock: 9,
  left: 9,
  price: 1,
};

// Looks and readings grow old by the clock: it stands on the day they were made.
beforeAll(() => void jest.useFakeTimers({ now: Date.parse(`${DAY}T12:00:00.000Z`) }));
afterAll(() => void jest.useRealTimers());

/** The log of a workshop that sends packs, entry by entry. */
class Log {
  readonly entries: LoggedEntry[] = [];
  say(kind: string, subjects: readonly string[], body: object, by = 'anna'): void {
    const n = this.entries.length + 1;
    const at = new Date(Date.parse(`${DAY}T08:00:00.000Z`) + n * 1000).toISOString();
    const common = { v: 1, workshop: WORKSHOP, tz: 'UTC', device: 'd', hazard: false };
    const id = `c0000000-0000-4000-8000-${String(n).padStart(12, '0')}`;
    this.entries.push({
      ...common,
      ...{ id, kind, subjects, body, by, at, seq: n, recordedAt: at, effectiveAt: at },
    } as unknown as LoggedEntry);
  }
  /** A pack fit for a plain package by road. */
  pack(tag: string): void {
    const p = [`pack:${idOf(tag)}`];
    this.say('pack-added', p, { tag, use: 'removed' });
    this.say('label-read', p, {
      chemistry: 'li-ion',
      nominalVoltage: { digits: '11.4', unit: 'V' },
      ratedCapacity: { digits: '5000', unit: 'mAh' },
      ratedEnergy: { digits: '57', unit: 'Wh' },
      madeOn: '2021-05',
      energyMarked: true,
    });
    this.say('looked', p, { groups: ['shape', 'smell', 'heat', 'wet', 'mechanical', 'electrical'] });
    this.say('gauge-read', p, {
      designCapacity: { digits: '5000', unit: 'mAh' },
      fullChargeCapacity: { digits: '4600', unit: 'mAh' },
      remainingCapacity: { digits: '920', unit: 'mAh' },
      maxError: 2,
      cellVoltages: ['3.742', '3.741', '3.743'].map((digits) => ({ digits, unit: 'V' })),
    });
    this.say('evidence-stated', p, { typeTested: 'yes' });
    this.say('form-noted', p, {
      length: { digits: '210', unit: 'mm' },
      width: { digits: '70', unit: 'mm' },
      thickness: { digits: '8', unit: 'mm' },
      mass: { digits: '320', unit: 'g' },
    });
  }
  of(subject: string): LoggedEntry[] {
    return this.entries.filter((e) => (e.subjects as readonly string[]).includes(subject));
  }
  /** @param unheld a pack whose log is not on the device. */
  view(today = DAY, unheld?: string): ConsignmentView {
    const tags = this.entries.flatMap((e) => (e.kind === 'pack-added' ? [(e.body as { tag: string }).tag] : []));
    const facts = tags.map((t): PackFacts => foldPack(idOf(t), this.of(`pack:${idOf(t)}`))!);
    return consignmentView({
      facts: foldConsignment(C, this.of(`consignment:${C}`)) as ConsignmentFacts,
      packs: Object.fromEntries(facts.filter((f) => f.id !== unheld).map((f) => [f.id, f])),
      policy: DEFAULT_POLICY,
      means: { boxes: [BOX], carriers: [] },
      region: 'eu',
      zone: 'UTC',
      today,
    });
  }
}

const about = (...tags: string[]) => [`consignment:${C}`, ...tags.map((t) => `pack:${idOf(t)}`)];

/** Described, planned, packed and closed by anna: what is in it may leave. */
function packed(...tags: string[]): Log {
  const log = new Log();
  for (const t of tags) log.pack(t);
  log.say('consignment-described', about(), { name: 'N-1', destination: 'customer', mode: 'road', region: 'eu', on: DAY });
  log.say('consigned', about(...tags), {});
  log.say('plan-kept', about(), { packages: [{ id: 'k', box: 'plain', packs: tags.map(idOf) }] });
  for (const t of tags) log.say('packed', about(t), { package: 'k' });
  log.say('package-closed', about(), { package: 'k', box: 'plain', weighed: { digits: '1.2', unit: 'kg' } });
  return log;
}

test('nothing keeps a closed, lawful consignment on its day; the day the rules held end, it stays', () => {
  const log = packed('T-1', 'T-2');
  expect(whyNotYet(log.view())).toEqual([]);
  // Planned on an edition that is over when it leaves: the ruling is of the day it leaves.
  const late = log.view('2031-01-01');
  expect(whyNotYet(late)).toEqual([expect.stringMatching(/^package 1: T-\d: hold, no edition held/)]);
  log.say('finding-recorded', [`pack:${idOf('T-2')}`], { code: 'swollen' });
  expect(whyNotYet(log.view())[0]).toBe('package 1: a damaged pack lies beside others');
});

test('a pack that went into a machine keeps the closed box here; one that is with its owner is told of', () => {
  const log = packed('T-1', 'T-2');
  log.say('refitted', ['job:00000000-0000-4000-8000-0000000000cc', `pack:${idOf('T-2')}`], {});
  expect(whyNotYet(log.view())).toEqual(['package 1: open it, 1 pack went elsewhere', 'not closed: package 1']);
  log.say('withdrawn', about('T-2'), {});
  log.say('package-closed', about(), { package: 'k', box: 'plain', weighed: { digits: '0.8', unit: 'kg' } });
  expect(whyNotYet(log.view())).toEqual([]);
  log.say('handed-over', ['job:00000000-0000-4000-8000-0000000000cc', `pack:${idOf('T-2')}`], { oldPack: 'given back' });
  log.say('consigned', about('T-2'), {});
  expect(whyNotYet(log.view())[0]).toMatch(/^T-2 left with its owner/);
});

test('nothing leaves from a device that does not hold every pack of it, and the box with that pack is not ruled by the others', () => {
  const log = packed('T-1', 'T-2');
  const missing = idOf('T-2');
  expect(whyNotYet(log.view(DAY, missing))[0]).toBe('1 pack of it not on this device');
  expect(log.view(DAY, missing).packages).toMatchObject([{ number: 1, ruled: { lawful: false } }]);
  expect(log.view(DAY, missing).state.packs).toContain(missing);
});

test('a pack that another consignment took out of a closed box by its tag alone keeps the box here until it is out', () => {
  const log = packed('T-1', 'T-2');
  log.say('consigned', ['consignment:00000000-0000-4000-8000-0000000000cc', `pack:${idOf('T-2')}`], {});
  expect(whyNotYet(log.view())).toEqual(['package 1: open it, 1 pack went elsewhere', 'not closed: package 1']);
  log.say('unpacked', about('T-2'), {});
  log.say('package-closed', about(), { package: 'k', box: 'plain', weighed: { digits: '0.8', unit: 'kg' } });
  expect(whyNotYet(log.view())).toEqual([]);
});

test('a package emptied by hand is none any more; what is written on the other one still holds, on its marks too', () => {
  const log = packed('T-1', 'T-2');
  const packages = ['T-1', 'T-2'].map((t) => ({ id: `in ${t}`, box: 'plain', packs: [idOf(t)] }));
  log.say('plan-kept', about(), { packages });
  for (const t of ['T-1', 'T-2']) log.say('packed', about(t), { package: `in ${t}` });
  const titles = () => marksPaper(log.view(), { from: [], to: [] }, 'A4', DEFAULT_POLICY).packages.map((p) => p.title);
  expect(titles()).toEqual(['N-1, package 1 of 2', 'N-1, package 2 of 2']);
  const v = log.view();
  for (const d of movedTo(v, v.packages[0]!, idOf('T-1'), 'in T-2', null)) log.say(d.kind, d.subjects, d.body);
  expect(log.view().packages).toMatchObject([{ id: 'in T-2', number: 2, packed: [idOf('T-1'), idOf('T-2')].sort() }]);
  expect(titles()).toEqual(['N-1, package 2 (1 in all)']);
});

test('a package of damaged packs leaves once somebody else counted it right', () => {
  const log = packed('T-1');
  log.say('finding-recorded', [`pack:${idOf('T-1')}`], { code: 'swollen' });
  log.say('package-opened', about(), { package: 'k' });
  log.say('package-closed', about(), { package: 'k', box: 'plain', weighed: { digits: '1.2', unit: 'kg' } });
  const counts = () => whyNotYet(log.view()).filter((w) => w.includes('second person'));
  expect(counts()).toHaveLength(1);
  log.say('package-counted', about(), { package: 'k', count: 1 }, 'anna');
  log.say('package-counted', about(), { package: 'k', count: 2 }, 'bram');
  expect(counts()).toHaveLength(1);
  log.say('package-counted', about(), { package: 'k', count: 1 }, 'bram');
  expect(counts()).toHaveLength(0);
});

test('papers of what left say what left, whatever is found of it later', () => {
  const log = packed('T-1', 'T-2');
  const { packages } = log.view();
  const sent = packages.map((p) => ({
    id: p.id,
    packs: p.packed,
    box: 'plain',
    netKg: p.ruled.netKg.hi,
    un: p.ruled.result.un,
    provision: p.ruled.result.provision,
    rules: p.ruled.result.rules.map((rule) => ({ rule })),
  }));
  log.say('consignment-handed-over', about('T-1', 'T-2'), {
    ...{ to: 'Marram Freight', on: DAY, mode: 'road', region: 'eu', packages: sent },
  });
  const told = [listCsv(log.view()), consignmentData(log.view())];
  expect(told[0]).toMatch(/UN 3480/);
  log.say('finding-recorded', [`pack:${idOf('T-1')}`], { code: 'hissing' });
  log.say('label-read', [`pack:${idOf('T-2')}`], { ratedEnergy: { digits: '570', unit: 'Wh' } });
  expect([listCsv(log.view('2027-03-01')), consignmentData(log.view('2027-03-01'))]).toEqual(told);
});

test('goods of two UN numbers in one package are two lines of the document, and one package', () => {
  const log = packed('T-1', 'T-2');
  const goods = [
    { un: 'UN 3090', netKg: 0.3 },
    { un: 'UN 3480', netKg: 0.6 },
  ];
  const [p] = log.view().packages;
  log.say('consignment-handed-over', about('T-1', 'T-2'), {
    ...{ to: 'Marram Freight', on: DAY, mode: 'road', region: 'eu' },
    packages: [{ id: p!.id, packs: p!.packed, netKg: 0.9, un: 'UN 3480', goods, provision: 'SP188', rules: [] }],
  });
  expect(documentLines(log.view())).toEqual([
    'UN 3090 LITHIUM METAL BATTERIES, 9, (E); 1 package; 0.30 kg net',
    'UN 3480 LITHIUM ION BATTERIES, 9, (E); in the same 1 package; 0.60 kg net',
  ]);
  expect(listCsv(log.view())).toMatch(/UN 3090; UN 3480/);
});

test('a scanned code is right here, in the wrong package, of another consignment, gone, or nobody’s: each by its name', () => {
  const log = packed('T-1');
  for (const t of ['T-2', 'T-3', 'T-4', 'T-5']) log.pack(t);
  log.say('consigned', about('T-2', 'T-3'), {});
  const two = { id: 'l', box: 'plain', packs: [idOf('T-2')] };
  log.say('plan-kept', about(), { packages: [{ id: 'k', box: 'plain', packs: [idOf('T-1')] }, two] });
  const v = log.view();
  const p = v.packages.find((x) => x.id === 'k')!;
  const known = (id: string) => {
    const tag = ['T-1', 'T-2', 'T-3', 'T-4', 'T-5'].find((t) => idOf(t) === id);
    const consignment = v.sendings.has(id) ? C : tag === 'T-4' ? 'other' : undefined;
    return tag === undefined ? undefined : { tag, left: tag === 'T-5' ? DAY : null, ...(consignment && { consignment }) };
  };
  const scan = (code: string) => scanOf(code, { v, p }, known, WORKSHOP, () => 'N-2');
  expect(scan('T-1')).toMatchObject({ kind: 'trouble', words: 'T-1 lies in here already.' });
  expect(scan('T-2')).toMatchObject({ kind: 'ask', words: 'Wrong package: T-2 belongs in package 2.' });
  expect(scan('T-3')).toMatchObject({ kind: 'ask', words: 'T-3 is planned for no package.' });
  expect(scan('T-4')).toMatchObject({ kind: 'ask', words: 'T-4 belongs to N-2.' });
  expect(scan('T-5')).toMatchObject({ kind: 'trouble', words: expect.stringMatching(/left already/) });
  expect(scan('T-9')).toMatchObject({ kind: 'trouble', words: expect.stringMatching(/no pack here/) });
  expect(scanOf('T-2', { v, p: v.packages.find((x) => x.id === 'l')! }, known, WORKSHOP, () => '')).toEqual({
    ...{ kind: 'take', id: idOf('T-2'), tag: 'T-2' },
  });
});

test('waste goes with a note: what nobody said stands there as not said, and the code is that of its day', () => {
  const log = packed('T-1', 'T-2');
  log.say('consignment-described', about(), { destination: 'recycler', on: '2026-12-01', permit: 'P 12', crossesBorder: true });
  const told = () => {
    const { sections, band, foot } = wastePaper(log.view(), { from: ['Us'], to: [] }, DEFAULT_POLICY, 'Us');
    return { band, foot, of: (title: string) => sections.find((x) => x.title === title)?.lines.join('; ') };
  };
  expect(told().of('Waste')).toMatch(/16 06 07\*, hazardous/);
  expect(told().of('Consignee')).toBe('not said yet; Permit of who takes it: P 12');
  expect(told().of('Border')).toBe('Does it cross a border? yes; Number of the notification, with the consents: not said');
  expect(told().of('Quantity')).toMatch(/^2 packs in 1 package; UN 3480/);
  expect([told().band, told().foot]).toEqual([
    expect.stringMatching(/^Draft/),
    expect.stringMatching(/does not state that a pack is safe/),
  ]);
  // The code of lithium is not that of whatever else lies beside it.
  expect(told().of('Waste')).not.toMatch(/look theirs up/);
  log.say('label-read', [`pack:${idOf('T-2')}`], { chemistry: 'ni-mh' });
  expect(told().of('Waste')).toMatch(/Not known to be lithium: T-2/);
  // What was taken back is not said.
  log.say('consignment-described', about(), { permit: '', crossesBorder: false });
  const left = wasteData(log.view(), DEFAULT_POLICY).steps.filter((x) => x.asks !== null && x.known === null);
  expect(left.map((x) => x.asks)).toEqual(['carrier', 'consignee', 'producer']);
});

test('the permit of the last time is offered for the same destination, and of the same addressee where one is named', () => {
  const c = (id: string, more: object) => ({ id, destination: 'recycler', lastAt: DAY, ...more }) as unknown as ConsignmentFacts;
  const all = [
    c('a', { permit: 'A', lastAt: '2026-01-01' }),
    c('b', { permit: 'B', addressee: 'x' }),
    c('d', { destination: 'seller', permit: 'D' }),
  ];
  expect(permitBefore(c('n', {}), all)).toBe('B');
  expect(permitBefore(c('n', { addressee: 'y' }), all)).toBeNull();
  expect(permitBefore(c('b', { addressee: 'x' }), all)).toBeNull();
});

test('a notice concerns packs by their type codes; those without one are told apart, unless they are gone', () => {
  const log = new Log();
  for (const tag of ['A', 'B', 'C', 'D']) log.pack(tag);
  log.say('label-read', [`pack:${idOf('A')}`], { typeCode: 'SK-KN13-54' });
  log.say('label-read', [`pack:${idOf('B')}`], { typeCode: 'MG14-B50' });
  log.say('drum-collected', ['place:00000000-0000-4000-8000-0000000000dd', `pack:${idOf('D')}`], {
    collection: 'c1',
    to: 'recycler',
  });
  const packs = ['A', 'B', 'C', 'D'].map((t) => foldPack(idOf(t), log.of(`pack:${idOf(t)}`))!);
  const told = (all: readonly NoticedPack[]) =>
    all.map((p) => `${p.tag} ${p.hit ? p.group : 'not known'}${p.found ? ', found' : ''}`);
  const notice = { ranges: [{ typeCode: 'SK-KN13-54' }] };
  const here = noticedHere(notice, packs, new Set());
  expect(told(here)).toEqual(['A here', 'C not known']);

  // What the server knows of a pack counts where its log is not here, or in part; a recall written down for it here counts too.
  const [a, b, c, d] = packs as [PackFacts, PackFacts, PackFacts, PackFacts];
  const sure = { sure: true, why: [] };
  const server = [a, c, d].map(({ id, tag }): NoticedPack => ({ id, tag, group: 'gone', hit: sure, found: false }));
  const device = (...those: PackFacts[]) => Object.fromEntries(those.map((f) => [f.id, f]));
  expect(told(joined(here, server, device(a, b, c)))).toEqual(['A here', 'D gone', 'C not known']);
  const part: PackFacts = {
    ...c,
    partial: true,
    findings: [{ body: { code: 'safety-recall' } }] as unknown as PackFacts['findings'],
  };
  expect(told(joined(noticedHere(notice, [a, part], new Set()), server, device(a, part)))).toEqual([
    'A here',
    'C gone, found',
    'D gone',
  ]);
});
