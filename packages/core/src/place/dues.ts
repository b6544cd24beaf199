import type { Judgement } from '../condition/condition';
import type { NotebookFacts, PackFacts, PolicyFacts } from '../logbook/fold';
import type { ConsignmentFacts } from '../logbook/fold-consignment';
import type { IncidentFacts } from '../logbook/fold-incident';
import type { PlaceFacts } from '../logbook/fold-place';
import type { JobFacts } from '../logbook/fold-job';
import { byDay, type Due, setDues, waitDues } from '../ruling/due';
import type { PackOwed } from './daily';
import { drumClock, isDrum } from './drum';
import { storedOf } from './stored';
import { INCIDENT_MINUTES, isContainer, nextLook, staysTooLong, type Watch, watchOf } from './watch';
import { addDays, DAY_MS } from '../quantity/day';
import { counted } from '../quantity/counted';

export interface Owed {
  readonly packs: readonly PackOwed[];
  readonly jobs: readonly JobFacts[];
  readonly notebooks: readonly NotebookFacts[];
  readonly places: readonly PlaceFacts[];
  readonly incidents: readonly IncidentFacts[];
  readonly consignments: readonly ConsignmentFacts[];
}

export interface JudgedPack {
  readonly facts: PackFacts;
  readonly judgement: Judgement;
}

/** The watch of every container in which something is watched, the most urgent first. */
export function watches(
  owed: { readonly packs: readonly JudgedPack[]; readonly places: readonly PlaceFacts[] },
  policy: PolicyFacts,
  now: Date,
): Watch[] {
  const lying = new Map<string, { item: ReturnType<typeof storedOf>; facts: PackFacts }[]>();
  const containers = owed.places.filter(isContainer);
  for (const p of containers) lying.set(p.id, []);
  // Only what lies in a container is counted: this runs with every change of the Bench.
  for (const { facts, judgement } of owed.packs) {
    if (facts.place === null || facts.left !== null) continue;
    lying.get(facts.place)?.push({ item: storedOf(facts, judgement, policy), facts });
  }
  return containers
    .map((p) => watchOf(p, lying.get(p.id) ?? [], policy, now))
    .flatMap((w) => (w.next === null ? [] : [{ ...w, next: w.next }]))
    .sort((a, b) => (a.next < b.next ? -1 : 1));
}

/** The containers among which packs are watched, each with what is watched in it, the most urgent first. */
function watchedContainers(owed: Owed) {
  const lying = new Map<string, { pack: PackOwed; since: string; next: string }[]>();
  const containers = owed.places.filter(isContainer);
  for (const p of containers) lying.set(p.id, []);
  for (const pack of owed.packs) if (pack.place !== null && pack.watch) lying.get(pack.place)?.push({ pack, ...pack.watch });
  return containers
    .map((place) => ({ place, packs: lying.get(place.id)!.sort((a, b) => (a.next < b.next ? -1 : 1)) }))
    .filter((w) => w.packs.length > 0)
    .sort((a, b) => (a.packs[0]!.next < b.packs[0]!.next ? -1 : 1));
}

/** A pack's dues where it lies: no look of its own in a watched container; one that only grew old is due later, in a drum never. */
function duesWhere(pack: PackOwed, watched: boolean, drums: ReadonlySet<string>): Due[] {
  return pack.dues.flatMap((d) => {
    if (d.id !== `look:${pack.id}`) return [d];
    if (watched) return [];
    if (pack.agedLook === null) return [d];
    return pack.place !== null && drums.has(pack.place) ? [] : [{ ...d, on: pack.agedLook }];
  });
}

/** Looks of one place on one day from which they are one line. */
export const GROUPED_LOOKS = 4;

/** Many looks at one place on one day are one walk: one line, at the place, or at the first pack where nobody placed them. */
function groupedLooks(
  list: readonly { readonly pack: PackOwed; readonly due: Due }[],
  named: ReadonlyMap<string, string>,
): Due[] {
  const out: Due[] = [];
  const walks = new Map<string, { pack: PackOwed; due: Due }[]>();
  for (const item of list) {
    if (item.due.id !== `look:${item.pack.id}`) out.push(item.due);
    else {
      const key = `${item.pack.place ?? ''} ${item.due.on}`;
      const walk = walks.get(key);
      if (walk) walk.push(item);
      else walks.set(key, [item]);
    }
  }
  for (const walk of walks.values()) {
    const [first] = walk;
    const packs = walk.reduce((n, w) => n + 1 + (w.pack.alike ?? 0), 0);
    if (packs < GROUPED_LOOKS || !first) out.push(...walk.map((w) => w.due));
    else {
      const { place } = first.pack;
      const where = place === null ? '' : (named.get(place) ?? 'a place');
      out.push({
        ...first.due,
        id: `looks:${place ?? 'none'}:${first.due.on}`,
        title: place === null ? `Place ${packs} packs` : `Look at ${where}`,
        note: place === null ? 'nowhere yet, and to be looked at' : `${packs} packs`,
        subject: place === null ? first.due.subject : `place:${place}`,
      });
    }
  }
  return out;
}

/** Days after which a receipt is asked for; common practice, no source. */
const RECEIPT_DAYS = 14;

/** A consignment leaves on its day; what left is owed a receipt. */
function consignmentDues(c: ConsignmentFacts, day: (iso: string) => string): Due[] {
  if (c.ended !== null || c.arrived !== null) return [];
  const line = { subject: `consignment:${c.id}`, derived: true } as const;
  const name = c.name ?? 'a consignment';
  if (c.sent) {
    const on = addDays(day(c.sent.at), RECEIPT_DAYS);
    return [{ ...line, id: `receipt:${c.id}`, what: 'receipt', on, title: `Did ${name} arrive?`, note: `with ${c.sent.to}` }];
  }
  if (c.on === undefined) return [];
  return [{ ...line, id: `dispatch:${c.id}`, what: 'dispatch', on: c.on, title: `Dispatch ${name}`, note: c.destination ?? '' }];
}

/** A drum is asked to be collected before its clock runs out. */
function drumDues(owed: Owed, policy: PolicyFacts, day: (iso: string) => string): Due[] {
  return owed.places.filter(isDrum).flatMap((p): Due[] => {
    const inside = owed.packs.filter((x) => x.place === p.id);
    const { ask, until } = drumClock(inside, day, policy.drumDays);
    if (ask === null) return [];
    const title = `Ask for a collection of ${p.name}`;
    return [
      {
        id: `clock:${p.id}`,
        what: 'clock',
        title,
        on: ask,
        note: `it leaves by ${until}`,
        subject: `place:${p.id}`,
        derived: true,
      },
    ];
  });
}

/** Where it burned it is looked at again, and somebody signs that it is over. */
function incidentDues(owed: Owed, named: ReadonlyMap<string, string>, day: (iso: string) => string): Due[] {
  return owed.incidents
    .filter((i) => i.closed === null)
    .flatMap((i): Due[] => {
      const looks = i.looks.map((l) => l.at);
      const next = nextLook(i.lastAt, looks, false, INCIDENT_MINUTES);
      const where = i.places.map((p) => named.get(p) ?? 'a place').join(', ') || 'a machine';
      const line = { subject: `incident:${i.id}`, derived: true } as const;
      return [
        {
          ...line,
          id: `reignition:${i.id}`,
          what: 'look',
          on: day(next),
          at: next,
          title: `Does it burn again? ${where}`,
          note: i.what[0]!,
        },
        ...i.closing.map((c): Due => ({
          ...line,
          id: c.id,
          what: 'second person',
          on: day(i.lastAt),
          title: `Second person for ${where}`,
          note: c.reason,
        })),
      ];
    });
}

/**
 * Everything that is due, for every screen and for the calendar: looks that are late first, then signatures, then by day. A container is one line,
 * however many packs lie in it; a pack that lies there too long is one line for the lead.
 * @param day the local day of an ISO moment.
 */
export function workshopDues(owed: Owed, policy: PolicyFacts, now: Date, day: (iso: string) => string): Due[] {
  const watched = watchedContainers(owed);
  const inWatch = new Set(watched.flatMap((w) => w.packs.map((p) => p.pack.id)));
  const drums = new Set(owed.places.filter(isDrum).map((p) => p.id));
  const moment = now.toISOString();
  const containers = watched.flatMap((w): Due[] => [
    {
      id: `watch:${w.place.id}`,
      what: 'look',
      on: day(w.packs[0]!.next),
      at: w.packs[0]!.next,
      title: `Look at ${w.place.name}`,
      note: counted(w.packs.length, 'pack'),
      subject: `place:${w.place.id}`,
      derived: true,
    },
    ...w.packs
      .filter((p) => staysTooLong(p.since, policy, now))
      .map((p): Due => ({
        id: `stay:${p.pack.id}`,
        what: 'stay',
        on: day(new Date(Date.parse(p.since) + policy.stayDays * DAY_MS).toISOString()),
        title: `Decide on ${p.pack.tag}`,
        note: `in ${w.place.name} since ${day(p.since)}: the lead decides`,
        subject: `pack:${p.pack.id}`,
        derived: true,
      })),
  ]);
  const named = new Map(owed.places.map((p) => [p.id, p.name]));
  // What waits for a second person holds somebody else up.
  const signs = (d: Due) => d.what === 'second person';
  const late = (d: Due) => d.at !== undefined && d.at < moment;
  const machines = new Map(owed.notebooks.map((n) => [n.id, n]));
  // Once each: what was said of a machine also reaches its packs.
  const waiting = new Map(
    owed.jobs
      .flatMap((j) => {
        const machine = j.notebook === null ? undefined : machines.get(j.notebook);
        const said = { waiting: [...j.waiting, ...(machine?.waiting ?? [])] };
        return waitDues(said, machine?.tag ?? 'a machine', `job:${j.id}`, day);
      })
      .map((d) => [d.id, d]),
  );
  const onPacks = new Set(owed.packs.flatMap((p) => p.dues.filter((d) => d.what === 'second person').map((d) => d.id)));
  return [
    ...incidentDues(owed, named, day),
    ...containers,
    ...drumDues(owed, policy, day),
    ...[...waiting.values()].filter((d) => !onPacks.has(d.id)),
    ...groupedLooks(
      owed.packs.flatMap((pack) => duesWhere(pack, inWatch.has(pack.id), drums).map((due) => ({ pack, due }))),
      named,
    ),
    ...owed.jobs.flatMap((j) => setDues('job', j)),
    ...owed.places.flatMap((p) => setDues('place', p)),
    ...owed.consignments.flatMap((c) => [...consignmentDues(c, day), ...setDues('consignment', c)]),
  ].sort((a, b) => Number(late(b)) - Number(late(a)) || Number(signs(b)) - Number(signs(a)) || byDay(a, b));
}
