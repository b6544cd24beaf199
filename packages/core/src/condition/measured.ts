import { containerFindings } from './container';
import { judgeDrift } from './drift';
import type { MeasuredFinding } from './findings';
import { incidentFindings } from './incident';
import type { PackFacts, PolicyFacts } from '../logbook/fold';
import { CELL_VOLTS, HIGHEST_LIMIT, judgeCell, NO_OUTPUT_VOLTS, worstPossibleCell } from '../pack/cells';
import { judgeImbalance } from '../pack/imbalance';
import { seriesFromMeasured } from '../pack/layout';
import type { Nature } from '../pack/nature';
import { growth, judgeSwelling, NEW_THICKNESS_HALF, SOFT_BODY } from '../pack/swelling';
import { judgeHeat } from '../pack/temperature';
import { value } from '../quantity/figure';
import { judge, type Limit, margin } from '../quantity/limit';
import { combine, differenceOfSame, expanded } from '../quantity/uncertainty';
import { groupByPoint, type Series, seriesOf } from './series';
import { type CellSet, cellSets, cellsSeen } from './sets';

export interface Measured {
  readonly findings: readonly MeasuredFinding[];
  /** Decisions with a number, the nearest to danger first. */
  readonly limits: readonly Limit[];
  /** What is too close to tell, in words. */
  readonly unclear: readonly string[];
  /** What pack volts leave open, in words. */
  readonly notExcluded: readonly string[];
  /** What was taken for the worse because nobody said it, in words. */
  readonly asked: readonly string[];
  /** Every cell was seen in one set. */
  readonly cellsSeen: boolean;
}

/**
 * "Too close to tell" is settled by two other series that pass and are not in doubt; a breach is settled by nothing.
 * @param judged one line for each judgement; a series passes only when all its judgements do.
 */
function settled(judged: readonly { readonly s: Series; readonly pass: boolean }[]): boolean {
  const passing = new Map<Series, boolean>();
  for (const { s, pass } of judged) if (!s.doubted) passing.set(s, (passing.get(s) ?? true) && pass);
  return [...passing.values()].filter(Boolean).length >= 2;
}

interface Tally {
  readonly findings: MeasuredFinding[];
  readonly limits: Limit[];
  readonly unclear: string[];
  readonly notExcluded: string[];
  readonly asked: string[];
}

/** How far apart in time a surface and its room may be taken, ms. */
const SAME_ROOM_MS = 15 * 60_000;

/** The newest series' limit stands for its point on the scale, unless an older one is worse. */
const worst = (limits: readonly Limit[]): Limit => limits.reduce((a, b) => (margin(b) < margin(a) ? b : a));

const dwellOf = (facts: PackFacts): number | undefined => {
  const dwell = facts.findings.flatMap((f) => f.body.dwellHours ?? []);
  return dwell.length > 0 ? Math.max(...dwell) : undefined;
};

function cells(facts: PackFacts, nature: Nature, sets: readonly CellSet[], tally: Tally): void {
  const dwellHours = dwellOf(facts);
  for (const [point, series] of groupByPoint(sets.flatMap((s) => s.cells))) {
    const at = (volts: number, u: number) =>
      judgeCell({ volts, u: expanded(u), chargeLimit: nature.chargeLimit, lowestLimit: nature.lowestLimit, dwellHours, point });
    const judged = series.map((s) => ({
      s,
      j: at(s.mean, s.u),
      single: s.values.length > 1 && s.values.some((v) => at(v, s.uOne).codes.length > 0),
    }));
    for (const { s, j, single } of judged) {
      for (const code of j.codes) tally.findings.push({ code, entries: s.entries });
      if (j.codes.length === 0 && single) tally.unclear.push(`cell ${point}: one reading of the series breaches`);
    }
    const clear = settled(judged.map(({ s, j }) => ({ s, pass: !j.unclear && j.codes.length === 0 })));
    if (judged.some(({ j }) => j.unclear) && !clear) tally.unclear.push(`cell ${point} is too close to a border to tell`);
    // Of one point's series all low borders are the same, and so are the high ones: the lowest and the highest reading are shown.
    const lowest = judged.reduce((a, b) => (b.s.mean - expanded(b.s.u) < a.s.mean - expanded(a.s.u) ? b : a)).j.limits;
    const highest = judged.reduce((a, b) => (b.s.mean + expanded(b.s.u) > a.s.mean + expanded(a.s.u) ? b : a)).j.limits;
    tally.limits.push(lowest[0]!, lowest[1]!, highest[2]!);
  }
  imbalance(sets, nature, tally);
}

/** Of each cell of a set the voltages that make most of its spread: the highest of one against the lowest of another. */
function widest(set: CellSet, of: (s: Series) => readonly number[]): readonly number[] | null {
  const ends = [...groupByPoint(set.cells).values()].map((list) => {
    let [lo, hi] = [Infinity, -Infinity];
    for (const s of list)
      for (const v of of(s)) {
        if (v < lo) lo = v;
        if (v > hi) hi = v;
      }
    return { lo, hi };
  });
  let best: readonly number[] | null = null;
  ends.forEach((a, i) =>
    ends.forEach((b, k) => {
      if (i === k || (best !== null && a.hi - b.lo <= best[0]! - best[1]!)) return;
      // The others lie between: they may be the one that is above 3.3 V beside an empty one.
      best = [a.hi, b.lo, ...ends.flatMap((x, m) => (m === i || m === k ? [] : [x.hi]))];
    }),
  );
  return best;
}

/** Expanded uncertainty of a difference of two cells of one set, V. */
const apartBy = (set: CellSet): number =>
  expanded(differenceOfSame(Math.max(...set.cells.map((s) => s.digits)), Math.max(...set.cells.map((s) => s.step))));

/**
 * How far apart the cells of a set are: in mV, and in charge on the worst of the curves the family allows. Null where there are not two of
 * them, or they were taken too soon to compare.
 */
export function spreadOfSet(set: CellSet, nature: Nature): { readonly millivolts: number; readonly charge: Limit | null } | null {
  const volts = widest(set, (s) => [s.mean]);
  if (volts === null || set.rest === 'too short') return null;
  const charge = nature.curves.length > 0 ? judgeImbalance(volts, nature.curves, apartBy(set)).limit : null;
  return { millivolts: (volts[0]! - volts[1]!) * 1000, charge };
}

/**
 * The spread of each set of cell voltages. A rest nobody stated is taken as long enough, which is the more cautious; one that was too short
 * says nothing. A questioned reading stays in the set for danger.
 */
function imbalance(all: readonly CellSet[], nature: Nature, tally: Tally): void {
  if (nature.curves.length === 0) return;
  const judged = all.flatMap((set) => {
    const volts = widest(set, (s) => [s.mean]);
    if (volts === null) return [];
    if (set.rest === 'too short') {
      tally.unclear.push('the cells were taken too soon to compare them: again after two hours of rest');
      return [];
    }
    const u = apartBy(set);
    const j = judgeImbalance(volts, nature.curves, u);
    // Where no cell was read twice the single readings are the means.
    const singles = j.code === null && set.cells.some((s) => s.values.length > 1) ? widest(set, (s) => s.values) : null;
    const single = singles !== null && judgeImbalance(singles, nature.curves, u).code !== null;
    return [{ set, j, single }];
  });
  for (const { set, j, single } of judged) {
    if (j.code) tally.findings.push({ code: j.code, entries: [...new Set(set.cells.flatMap((s) => s.entries))] });
    if (single) tally.unclear.push('cells: one reading of the set breaches');
    if (set.rest === 'not said') tally.asked.push('rest before the cell voltages: judged as if they had rested');
  }
  // A set stands or falls as one: its first cell speaks for it.
  const clear = settled(
    judged.map(({ set, j }) => ({ s: set.cells.find((x) => x.doubted) ?? set.cells[0]!, pass: j.limit.verdict === 'pass' })),
  );
  if (judged.some(({ j }) => j.unclear && !j.code) && !clear) tally.unclear.push('the spread of the cells is too close to tell');
  if (judged.length > 0) tally.limits.push(worst(judged.map(({ j }) => j.limit)));
}

/** Cells in series that a pack voltage is judged under: by the label, by a set that saw every cell, or every count the volts allow. */
function countsFor(volts: number, nature: Nature, sets: readonly CellSet[]): readonly number[] {
  if (nature.series !== null) return [nature.series];
  const seen = sets.filter((s) => s.complete).map((s) => s.of!);
  if (seen.length > 0) return [...new Set(seen)];
  const allowed = seriesFromMeasured(volts);
  // Lower than any count in service: one cell is the highest the mean can be.
  return allowed.length > 0 ? allowed : [1];
}

function packVolts(facts: PackFacts, nature: Nature, sets: readonly CellSet[], tally: Tally): void {
  const dwellHours = dwellOf(facts);
  const judged: { s: Series; codes: readonly string[]; unclear: boolean; limits: readonly Limit[] }[] = [];
  for (const s of seriesOf(facts.readings, 'pack-voltage')) {
    if (Math.abs(s.mean) <= NO_OUTPUT_VOLTS) {
      tally.findings.push({ code: 'no-output', entries: s.entries });
      continue;
    }
    if (!nature.lithium) continue;
    for (const n of countsFor(s.mean, nature, sets)) {
      const at = (volts: number, u: number) =>
        judgeCell({
          volts: volts / n,
          u: expanded(u) / n,
          chargeLimit: nature.chargeLimit,
          lowestLimit: nature.lowestLimit,
          dwellHours,
          point: 'mean',
          perReading: n,
          label: 'mean of the cells',
        });
      const j = at(s.mean, s.u);
      const single = s.values.length > 1 && s.values.some((v) => at(v, s.uOne).codes.length > 0);
      judged.push({
        s,
        codes: j.codes,
        unclear: j.unclear || (single && j.codes.length === 0),
        limits: nature.series === null ? [] : j.limits,
      });
    }
    if (nature.series !== null && nature.series > 1) {
      const lowest = worstPossibleCell(s.mean, nature.series, nature.chargeLimit ?? HIGHEST_LIMIT);
      if (lowest < CELL_VOLTS.low)
        tally.notExcluded.push(`pack volts do not exclude one cell at ${Math.max(0, lowest).toFixed(2)} V`);
    }
    if (nature.series === null && !sets.some((x) => x.complete))
      tally.unclear.push('the cells in series are not known: count them, or read the label');
  }
  for (const { s, codes } of judged) for (const code of codes) tally.findings.push({ code, entries: s.entries });
  if (judged.some((j) => j.unclear) && !settled(judged.map((j) => ({ s: j.s, pass: !j.unclear && j.codes.length === 0 })))) {
    tally.unclear.push('the pack voltage is too close to a border to tell');
  }
  for (const id of ['cell.low', 'cell.over']) {
    const of = judged.flatMap((j) => j.limits.filter((l) => l.id === id));
    if (of.length > 0) tally.limits.push({ ...worst(of), id: id.replace('cell', 'pack') });
  }
}

/** Every new thickness on record is tried: the one that makes most of a reading counts. */
function swelling(facts: PackFacts, policy: Pick<PolicyFacts, 'swelling'>, tally: Tally): void {
  const news = facts.readings.filter((r) => r.body.quantity === 'new-thickness');
  if (news.length === 0) return;
  for (const [point, series] of groupByPoint(seriesOf(facts.readings, 'thickness'))) {
    const judged = series.flatMap((s) =>
      news.map((n) => {
        const t0 = value(n.body.figure);
        const half = NEW_THICKNESS_HALF[n.body.source ?? 'trade-code'];
        const at = (t: number, u: number) =>
          judgeSwelling(growth(t, combine(u, SOFT_BODY), t0, half), policy.swelling, t0, point);
        const single = s.values.length > 1 && s.values.some((v) => at(v, s.uOne).code === 'swollen');
        return { s, j: at(s.mean, s.u), single };
      }),
    );
    for (const { s, j, single } of judged) {
      if (j.code) tally.findings.push({ code: j.code, entries: s.entries });
      else if (single) tally.unclear.push(`thickness at ${point}: one reading of the series breaches`);
    }
    const clear = settled(judged.map(({ s, j }) => ({ s, pass: j.limit.verdict === 'pass' })));
    if (judged.some(({ j }) => j.unclear) && !clear) tally.unclear.push(`growth at ${point} is too close to tell`);
    if (judged.length > 0) tally.limits.push(worst(judged.map(({ j }) => j.limit)));
  }
}

/** The room of the same quarter of an hour, either way; the coolest one, if several; null where there is none. */
function coolestNear(rooms: readonly Series[]): (s: Series) => number | null {
  const all = rooms.map((r) => ({ at: Date.parse(r.at), mean: r.mean })).sort((a, b) => a.at - b.at);
  return (s) => {
    const [from, to] = [Date.parse(s.at) - SAME_ROOM_MS, Date.parse(s.at) + SAME_ROOM_MS];
    let [lo, hi] = [0, all.length];
    while (lo < hi) {
      const mid = (lo + hi) >> 1;
      if (all[mid]!.at < from) lo = mid + 1;
      else hi = mid;
    }
    let coolest: number | null = null;
    for (let i = lo; i < all.length && all[i]!.at <= to; i++) coolest = Math.min(coolest ?? Infinity, all[i]!.mean);
    return coolest;
  };
}

function heat(facts: PackFacts, tally: Tally): void {
  const surfaces = seriesOf(facts.readings, 'surface-temperature');
  const coolest = coolestNear(seriesOf(facts.readings, 'room-temperature'));
  const judged = surfaces.map((s) => ({ s, j: judgeHeat(s.mean, expanded(s.u), coolest(s), s.restMinutes) }));
  if (judged.some(({ s, j }) => j.roomAsked && !s.doubted))
    tally.unclear.push('warm: take the room temperature too, after half an hour of rest');
  for (const { s, j } of judged) if (j.hot) tally.findings.push({ code: 'hot', entries: s.entries });
  const clear = settled(judged.map(({ s, j }) => ({ s, pass: !j.hot && !j.unclear })));
  if (judged.some(({ j }) => j.unclear && !j.hot) && !clear) tally.unclear.push('the surface temperature is too close to tell');
  for (const id of ['heat.surface', 'heat.over-room']) {
    const of = judged.flatMap(({ j }) => j.limits.filter((l) => l.id === id));
    if (of.length > 0) tally.limits.push(worst(of));
  }
}

/** Everything the readings say about danger: the worst series of the whole set decides, in whatever order they came. */
export function measure(facts: PackFacts, nature: Nature, policy: Pick<PolicyFacts, 'swelling'>): Measured {
  const tally: Tally = { findings: [], limits: [], unclear: [], notExcluded: [], asked: [] };
  const sets = cellSets(facts);
  if (nature.lithium) cells(facts, nature, sets, tally);
  packVolts(facts, nature, sets, tally);
  swelling(facts, policy, tally);
  heat(facts, tally);
  const lost = judgeDrift(facts, nature);
  tally.findings.push(...lost.findings);
  tally.unclear.push(...lost.unclear);
  if (lost.limit) tally.limits.push(lost.limit);
  tally.findings.push(...containerFindings(facts.containers), ...incidentFindings(facts.incidents));
  for (const g of facts.gauges)
    if (g.body.permanentFailure) tally.findings.push({ code: 'gauge-permanent-failure', entries: [g.id] });
  return {
    findings: tally.findings,
    limits: tally.limits
      .map((l) => ({ l, m: judge(l.value, l.u, l.limit, l.side) === 'pass' ? margin(l) / (l.u || 1) : -1 }))
      .sort((a, b) => a.m - b.m)
      .map(({ l }) => l),
    unclear: [...new Set(tally.unclear)].sort(),
    notExcluded: [...new Set(tally.notExcluded)].sort(),
    asked: [...new Set(tally.asked)].sort(),
    cellsSeen: cellsSeen(sets, nature.series),
  };
}
