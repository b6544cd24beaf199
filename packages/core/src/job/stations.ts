import type { Judgement } from '../condition/condition';
import { closeRefit, type ScrewCount, screwsOut } from '../fastener/screw';
import { type Kind, PROOFS, type Source, type Station, STATIONS } from '../logbook/entry';
import type { JobFacts } from '../logbook/fold-job';
import type { NotebookFacts, PackFacts } from '../logbook/fold';
import { notTriaged, type Opening } from './opening';

export type StopState = 'done' | 'skipped' | 'owed' | 'next' | 'open';

/** One stop on the rail. */
export interface Stop {
  readonly station: Station;
  readonly state: StopState;
  /** What is missing there, in a few words; empty when nothing is. */
  readonly missing: string;
}

export interface JobPack {
  readonly facts: PackFacts;
  readonly judgement: Judgement;
}

/** Everything that may make the machine live, each to be said off before a probe touches anything. */
export function sourcesOf(packs: readonly PackFacts[]): Source[] {
  const inside = packs.filter((p) => p.use === 'removed' || p.use === 'fitted');
  return [
    ...inside.map((p): Source => ({ what: 'pack', tag: p.tag, state: 'live' })),
    { what: 'adapter', state: 'live' },
    { what: 'coin cell', state: 'live' },
    ...(inside.some((p) => p.slot === 'dock') ? [] : [{ what: 'dock', state: 'live' } as const]),
  ];
}

const sameSource = (a: Source, b: Source) => a.what === b.what && (a.tag ?? '') === (b.tag ?? '');

/** Sources that nobody has said to be off or not there. A coin cell that stays is no danger to the hand and may be left. */
export function liveSources(job: JobFacts, packs: readonly PackFacts[]): Source[] {
  const said = job.isolated?.body.sources ?? [];
  const coin = job.isolated?.body.coinCell;
  // What is to go in, or went in at the end, was not there when the machine was opened.
  const inside = packs.filter((p) => p.use !== 'replacement' && p.use !== 'spare' && p.id !== job.fittedPack);
  return sourcesOf(inside).filter((s) => {
    if (s.what === 'coin cell' && (coin === 'left' || coin === 'removed')) return false;
    return !said.some((x) => sameSource(x, s) && x.state !== 'live');
  });
}

/** The screws that are to go back when the machine is closed, with the old packs' own where a pack goes in. */
export function jobScrews(job: JobFacts, packGoesIn: boolean): ScrewCount[] {
  const own = packGoesIn ? job.removals.flatMap((r) => r.said.body.screws ?? []) : [];
  return screwsOut(job.fasteners?.body.screws ?? [], own);
}

/** What each station still lacks; an empty text is done. */
function lacking(
  station: Station,
  job: JobFacts,
  notebook: NotebookFacts | null,
  packs: readonly JobPack[],
  open: Opening,
): string {
  const old = packs.filter((p) => p.facts.use !== 'replacement' && p.facts.use !== 'spare' && p.facts.id !== job.fittedPack);
  const none = packs.length === 0 ? 'add its pack' : '';
  switch (station) {
    case 'intake': {
      const triage = notTriaged(notebook?.triage ?? {});
      return triage.length > 0 ? `look at ${triage.join(', ')}` : job.intake.consent === undefined ? 'consent' : '';
    }
    case 'swollen':
      return !open.asDamaged || job.prepared ? '' : 'a trained person';
    case 'open':
      return !job.fasteners ? 'screws' : !job.cover ? 'how the cover came off' : '';
    case 'isolate': {
      const live = liveSources(
        job,
        packs.map((p) => p.facts),
      );
      return !job.isolated ? 'connector' : live.length > 0 ? `live: ${live.map((s) => s.tag ?? s.what).join(', ')}` : '';
    }
    case 'label':
      return (
        none || (old.every((p) => p.judgement.label.all.nominalVoltage || p.judgement.label.all.ratedEnergy) ? '' : 'the label')
      );
    case 'measure':
      return (
        none ||
        old
          .filter((p) => p.judgement.condition === 'unproven')
          .flatMap((p) => p.judgement.open.slice(0, 1))
          .join('; ')
      );
    case 'remove':
      return none || (old.every((p) => job.removals.some((r) => r.pack === p.facts.id)) ? '' : 'how it came out');
    case 'judge':
      return none || (packs.every((p) => p.judgement.condition !== 'unproven') ? '' : 'a pack is unproven');
    case 'match':
      return job.matches.some((m) => m.verdict === 'fits') || job.fittedPack ? '' : 'a pack that fits';
    case 'fit': {
      if (!job.refitted) return 'screws back';
      if (!job.fasteners) return '';
      const refit = closeRefit(jobScrews(job, job.fittedPack !== null), job.refitted.body.back);
      return refit.closed
        ? ''
        : refit.groups
            .filter((g) => g.out !== g.back)
            .map((g) => `${g.name}: ${g.back} of ${g.out}`)
            .join(', ');
    }
    case 'prove': {
      const left = PROOFS.filter((p) => job.proof[p] !== 'yes');
      return left.length > 0 ? left.join(', ') : '';
    }
  }
}

/**
 * The rail: what is done, skipped, owed, and next. Any station may be visited at any time; the rail only tells.
 * The station for swollen packs stands on it only where one is suspected.
 */
export function railOf(job: JobFacts, notebook: NotebookFacts | null, packs: readonly JobPack[], open: Opening): Stop[] {
  const shown = STATIONS.filter((s) => s !== 'swollen' || open.asDamaged || job.prepared !== null);
  let nextGiven = false;
  return shown.map((station): Stop => {
    const missing = lacking(station, job, notebook, packs, open);
    if (missing === '') return { station, state: 'done', missing };
    if (job.skipped.includes(station)) return { station, state: 'skipped', missing };
    if (station === 'prove' && PROOFS.some((p) => job.proof[p] === 'owed')) return { station, state: 'owed', missing };
    if (nextGiven || job.closedAt !== null) return { station, state: 'open', missing };
    nextGiven = true;
    return { station, state: 'next', missing };
  });
}

/** Which station an entry of the job belongs to. */
const AT: Partial<Record<Kind, Station>> = {
  triaged: 'intake',
  'intake-noted': 'intake',
  'owner-linked': 'intake',
  'swollen-prepared': 'swollen',
  'fasteners-mapped': 'open',
  'cover-opened': 'open',
  isolated: 'isolate',
  'pack-added': 'label',
  'pack-removed': 'remove',
  'match-decided': 'match',
  refitted: 'fit',
  'proof-taken': 'prove',
};

/** A longer gap than this is a pause, not work, ms. */
const PAUSE_MS = 30 * 60_000;

/** Something done at a pack, at the station it belongs to. */
export interface PackWork {
  readonly station: Station;
  /** ISO 8601 UTC. */
  readonly at: string;
}

/** Work at a pack, by the station it belongs to. */
export function packWork(p: PackFacts): PackWork[] {
  const at = (station: Station, all: readonly { readonly at: string }[]) => all.map((x) => ({ station, at: x.at }));
  return [
    ...at('label', p.labels),
    ...at('measure', [...p.readings, ...p.gauges, ...(p.logs ?? [])]),
    ...at('judge', [...p.looks, ...p.findings]),
  ];
}

/**
 * Minutes that each station took, without a stopwatch: the time from what was written before to the station's own, pauses and the
 * time it lay put down left out. Work at its packs counts while the job is open and in hand.
 */
export function minutesOf(visits: JobFacts['visits'], atPacks: readonly PackWork[] = []): Partial<Record<Station, number>> {
  const own = visits.map((v) => ({ at: v.at, station: AT[v.kind], kind: v.kind as Kind | null }));
  const [first, last] = [visits[0], visits[visits.length - 1]];
  const open = (at: string) => first !== undefined && at > first.at && !(last?.kind === 'job-closed' && at > last.at);
  const work = atPacks.filter((w) => open(w.at));
  const all = [...own, ...work.map((w) => ({ ...w, kind: null }))].sort((a, b) => (a.at < b.at ? -1 : a.at > b.at ? 1 : 0));
  const out: Partial<Record<Station, number>> = {};
  let before: string | null = null;
  let down = false;
  for (const { at, station, kind } of all) {
    // What somebody does at its pack meanwhile is no work at the job.
    if (down && kind === null) continue;
    const gap = before === null ? 0 : Date.parse(at) - Date.parse(before);
    if (station && gap > 0 && gap <= PAUSE_MS) out[station] = (out[station] ?? 0) + gap / 60_000;
    down = kind === 'job-put-down';
    before = down ? null : at;
  }
  return out;
}
