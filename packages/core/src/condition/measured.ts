import { containerFindings } from './container';
import { driftsOf, judgeDrift } from './drift';
import { incidentFindings } from './incident';
import type { PackFacts, PolicyFacts } from '../logbook/fold';
import { judgeCell, NO_OUTPUT_VOLTS, worstPossibleCell } from '../pack/cells';
import { judgeImbalance } from '../pack/imbalance';
import type { Nature } from '../pack/nature';
import { growth, judgeSwelling, NEW_THICKNESS_HALF, SOFT_BODY } from '../pack/swelling';
import { judgeHeat } from '../pack/temperature';
import { value } from '../quantity/figure';
import { judge, type Limit, margin } from '../quantity/limit';
import { combine, differenceOfSame, expanded } from '../quantity/uncertainty';
import { type Series, seriesOf } from './series';

/** A finding that readings imply, with the entries it stands on. */
export interface MeasuredFinding {
  readonly code: string;
  readonly entries: readonly string[];
}

export interface Measured {
  readonly findings: readonly MeasuredFinding[];
  /** Decisions with a number, the nearest to danger first. */
  readonly limits: readonly Limit[];
  /** What is too close to tell, in words. */
  readonly unclear: readonly string[];
  /** What pack volts leave open, in words. */
  readonly notExcluded: readonly string[];
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
}

const groupByPoint = (all: readonly Series[]): Map<string, Series[]> => {
  const out = new Map<string, Series[]>();
  for (const s of all) out.set(s.point, [...(out.get(s.point) ?? []), s]);
  return out;
};

/** The newest series' limit stands for its point on the scale, unless an older one is worse. */
const worst = (limits: readonly Limit[]): Limit => limits.reduce((a, b) => (margin(b) < margin(a) ? b : a));

function cells(facts: PackFacts, nature: Nature, tally: Tally): void {
  const dwell = facts.findings.flatMap((f) => f.body.dwellHours ?? []);
  const dwellHours = dwell.length > 0 ? Math.max(...dwell) : undefined;
  const taps = seriesOf(facts.readings, 'cell-voltage');
  const fromGauge: Series[] = facts.gauges.flatMap((g) =>
    (g.body.cellVoltages ?? []).map((f, i) => ({
      point: String(i + 1),
      at: g.at,
      entries: [g.id],
      values: [value(f)],
      mean: value(f),
      // A gauge names no accuracy; 15 mV half-width is the data sheet class of monitor chips, from memory.
      uOne: 0.0087,
      u: 0.0087,
      step: 0.001,
      digits: 2,
      restMinutes: undefined,
      flow: undefined,
      instrument: `gauge ${g.id}`,
      doubted: g.doubted,
    })),
  );
  for (const [point, series] of groupByPoint([...taps, ...fromGauge])) {
    const judged = series.map((s) => ({
      s,
      j: judgeCell({
        volts: s.mean,
        u: expanded(s.u),
        chargeLimit: nature.chargeLimit,
        lowestLimit: nature.lowestLimit,
        dwellHours,
        point,
      }),
      single:
        s.values.length > 1 &&
        s.values.some(
          (v) =>
            judgeCell({
              volts: v,
              u: expanded(s.uOne),
              chargeLimit: nature.chargeLimit,
              lowestLimit: nature.lowestLimit,
              dwellHours,
              point,
            }).codes.length > 0,
        ),
    }));
    for (const { s, j, single } of judged) {
      for (const code of j.codes) tally.findings.push({ code, entries: s.entries });
      if (j.codes.length === 0 && single) tally.unclear.push(`cell ${point}: one reading of the series breaches`);
    }
    const clear = settled(judged.map(({ s, j }) => ({ s, pass: !j.unclear && j.codes.length === 0 })));
    if (judged.some(({ j }) => j.unclear) && !clear) tally.unclear.push(`cell ${point} is too close to a border to tell`);
    for (const id of ['cell.low', 'cell.deep', 'cell.over']) {
      const of = judged.flatMap(({ j }) => j.limits.filter((l) => l.id === id));
      if (of.length > 0) tally.limits.push(worst(of));
    }
  }
  imbalance([...taps, ...fromGauge], nature, tally);
}

/** One set of cell voltages: the same minute and instrument. Taps must have rested two hours; a gauge's are taken as they are. */
function imbalance(all: readonly Series[], nature: Nature, tally: Tally): void {
  const sets = new Map<string, Series[]>();
  for (const s of all) {
    const key = `${s.at.slice(0, 16)}|${s.instrument}`;
    sets.set(key, [...(sets.get(key) ?? []), s]);
  }
  const judged = [...sets.values()]
    .filter((set) => set.length >= 2 && new Set(set.map((s) => s.point)).size === set.length)
    .map((set) => ({ set, rested: set.every((s) => s.instrument.startsWith('gauge ') || (s.restMinutes ?? 0) >= 120) }))
    .filter(({ rested }) => rested)
    .map(({ set }) => {
      const d = Math.max(...set.map((s) => s.step));
      const u = expanded(differenceOfSame(Math.max(...set.map((s) => s.digits)), d));
      return {
        set,
        j: judgeImbalance(
          set.map((s) => s.mean),
          nature.curves,
          u,
        ),
      };
    });
  for (const { set, j } of judged) {
    if (j.code) tally.findings.push({ code: j.code, entries: set.flatMap((s) => s.entries) });
  }
  // A set stands or falls as one: its first cell speaks for it.
  const clear = settled(
    judged.map(({ set, j }) => ({ s: set.find((x) => x.doubted) ?? set[0]!, pass: j.limit.verdict === 'pass' })),
  );
  if (judged.some(({ j }) => j.unclear && !j.code) && !clear) tally.unclear.push('the spread of the cells is too close to tell');
  if (judged.length > 0) tally.limits.push(worst(judged.map(({ j }) => j.limit)));
}

function packVolts(facts: PackFacts, nature: Nature, tally: Tally): void {
  const dwell = facts.findings.flatMap((f) => f.body.dwellHours ?? []);
  const dwellHours = dwell.length > 0 ? Math.max(...dwell) : undefined;
  const judged: { s: Series; codes: readonly string[]; unclear: boolean; limits: readonly Limit[] }[] = [];
  for (const s of seriesOf(facts.readings, 'pack-voltage')) {
    if (Math.abs(s.mean) <= NO_OUTPUT_VOLTS) {
      tally.findings.push({ code: 'no-output', entries: s.entries });
      continue;
    }
    // With the count unknown only what holds for every count can be said: one cell is the highest the mean can be.
    const n = nature.series ?? 1;
    const j = judgeCell({
      volts: s.mean / n,
      u: expanded(s.u) / n,
      chargeLimit: nature.series === null ? null : nature.chargeLimit,
      lowestLimit: nature.lowestLimit,
      dwellHours,
      point: 'mean',
      perReading: n,
      label: n === 1 && nature.series === null ? 'pack' : 'mean of the cells',
    });
    const single =
      s.values.length > 1 &&
      s.values.some(
        (v) =>
          judgeCell({ volts: v / n, u: expanded(s.uOne) / n, chargeLimit: null, dwellHours, point: 'mean' }).codes.length > 0,
      );
    judged.push({
      s,
      codes: j.codes,
      unclear: j.unclear || (single && j.codes.length === 0),
      limits: nature.series === null ? [] : j.limits,
    });
    if (nature.series !== null && nature.series > 1 && nature.chargeLimit !== null) {
      const lowest = worstPossibleCell(s.mean, nature.series, nature.chargeLimit);
      if (lowest < 2.5) tally.notExcluded.push(`pack volts do not exclude one cell at ${Math.max(0, lowest).toFixed(2)} V`);
    }
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
function swelling(facts: PackFacts, policy: PolicyFacts, tally: Tally): void {
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

function heat(facts: PackFacts, tally: Tally): void {
  const rooms = seriesOf(facts.readings, 'room-temperature');
  const surfaces = seriesOf(facts.readings, 'surface-temperature');
  const judged = surfaces.map((s) => {
    // The room of the same quarter of an hour; the coolest one, if several.
    const near = rooms.filter((r) => Math.abs(Date.parse(r.at) - Date.parse(s.at)) <= 15 * 60_000);
    const room = near.length > 0 ? Math.min(...near.map((r) => r.mean)) : null;
    return { s, j: judgeHeat(s.mean, expanded(s.u), room, s.restMinutes) };
  });
  for (const { s, j } of judged) if (j.hot) tally.findings.push({ code: 'hot', entries: s.entries });
  const clear = settled(judged.map(({ s, j }) => ({ s, pass: !j.hot && !j.unclear })));
  if (judged.some(({ j }) => j.unclear && !j.hot) && !clear) tally.unclear.push('the surface temperature is too close to tell');
  for (const id of ['heat.surface', 'heat.over-room']) {
    const of = judged.flatMap(({ j }) => j.limits.filter((l) => l.id === id));
    if (of.length > 0) tally.limits.push(worst(of));
  }
}

/** Everything the readings say about danger: the worst series of the whole set decides, in whatever order they came. */
export function measure(facts: PackFacts, nature: Nature, policy: PolicyFacts): Measured {
  const tally: Tally = { findings: [], limits: [], unclear: [], notExcluded: [] };
  cells(facts, nature, tally);
  packVolts(facts, nature, tally);
  swelling(facts, policy, tally);
  heat(facts, tally);
  const lost = judgeDrift(driftsOf(facts, nature));
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
  };
}
