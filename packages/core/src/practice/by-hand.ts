import { condition } from '../condition/condition';
import { findingOf, GROUP_FINDINGS } from '../condition/findings';
import {
  type Bodies,
  type GaugeBody,
  isHazard,
  type Kind,
  type LabelBody,
  type LoggedEntry,
  type ReadingBody,
} from '../logbook/entry';
import { DEFAULT_POLICY, foldPack } from '../logbook/fold';
import { type Figure, show, step, value } from '../quantity/figure';
import type { Action } from './actions';
import { logOf } from './log';
import { SIMULATED_PACK } from './measure';
import { packOf, type Scenario } from './scenario';
import { counted } from '../quantity/counted';

/** Something a learner wrote down at the real stations. */
export interface OwnEntry {
  readonly id: string;
  /** How many actions were done before it. */
  readonly after: number;
  readonly kind: Kind;
  readonly body: Bodies[Kind];
  /** What it mends, where it is a correction. */
  readonly replaces?: string;
}

/** The learner's own log, each entry at the moment of the session in which it was written. */
export function ownLog(scenario: Scenario, actions: readonly Action[], own: readonly OwnEntry[], start?: number) {
  const { entries, written, begun, now } = logOf(scenario, actions, start);
  let at = begun;
  const mine = own.map((o, i): LoggedEntry => {
    // Nothing is written before the action it came after.
    at = Math.max(at + 1, written[o.after - 1]?.until ?? begun);
    const time = new Date(at).toISOString();
    return {
      ...entries[0]!,
      id: o.id,
      kind: o.kind,
      at: time,
      hazard: isHazard(o.kind),
      body: o.body,
      seq: i + 2,
      recordedAt: time,
      effectiveAt: time,
      ...(o.replaces && { replaces: o.replaces }),
    } as unknown as LoggedEntry;
  });
  return { entries: [entries[0]!, ...mine], now };
}

/** What was written against what was there. */
export interface Writing {
  /** Written otherwise than it was, or out of the air; in words. */
  readonly wrong: readonly string[];
  /** There, and not written. */
  readonly left: readonly string[];
}
export const NOTHING_WRONG: Writing = { wrong: [], left: [] };

/** A statement as it stands after every correction. */
interface Stated {
  readonly kind: Kind;
  readonly body: Bodies[Kind];
  readonly after: number;
}

/**
 * What the learner means to stand: corrections put in the place of what they mend, what was taken back left out. The fold of the record asks a
 * second person for some of that; here it is only held against what was shown.
 */
function standingOf(own: readonly OwnEntry[]): Stated[] {
  const by = new Map<string, Stated>();
  const root = new Map<string, string>();
  for (const o of own) {
    if (o.kind !== 'corrected' && o.kind !== 'retracted') {
      by.set(o.id, o);
      root.set(o.id, o.id);
      continue;
    }
    const id = root.get(o.replaces ?? '') ?? '';
    root.set(o.id, id);
    const before = by.get(id);
    if (before === undefined) continue;
    if (o.kind === 'retracted') by.delete(id);
    else by.set(id, { ...before, body: (o.body as Bodies['corrected']).body as Bodies[Kind], after: o.after });
  }
  return [...by.values()];
}

/** The same number, as far as the digits that were written go. */
const agrees = (mine: Figure, shown: Figure): boolean => {
  const tolerance = Math.max(step(mine), step(shown)) / 2 + 1e-9;
  return Math.abs(value(mine) - value(shown)) <= tolerance;
};

const samePlace = (a: ReadingBody, b: ReadingBody): boolean => a.quantity === b.quantity && (a.point ?? '') === (b.point ?? '');
const placeOf = (b: ReadingBody): string => `${b.quantity.replace(/-/g, ' ')}${b.point ? ` ${b.point}` : ''}`;

/**
 * What is wrong with a reading; null where it is as it was shown.
 * @param before what was written of the same place before it: what was shown earlier may be written once, and not after what came later.
 */
function readingWrong(mine: ReadingBody, shown: readonly ReadingBody[], before: readonly ReadingBody[]): string | null {
  const there = shown.filter((s) => samePlace(s, mine));
  const last = there[there.length - 1];
  if (last === undefined) return `${placeOf(mine)} ${show(mine.figure)}: nothing had shown it`;
  const next = before.reduce((from, b) => {
    const at = there.findIndex((s, i) => i >= from && agrees(b.figure, s.figure));
    return at < 0 ? from : at + 1;
  }, 0);
  const left = [...there.slice(next), last];
  if (!left.some((s) => agrees(mine.figure, s.figure)))
    return `${placeOf(mine)} ${show(mine.figure)}: it was ${show(last.figure)}`;
  const rest = Math.max(...there.map((s) => s.restMinutes ?? 0));
  return (mine.restMinutes ?? 0) > rest && last.restMinutes !== undefined
    ? `${placeOf(mine)}: a rest of ${mine.restMinutes} min was written, it had ${rest} min`
    : null;
}

const FIGURES = ['nominalVoltage', 'ratedCapacity', 'ratedEnergy', 'limitedChargeVoltage'] as const;

/** @param cells that there truly are, where they were to be seen; null: they were not. */
function labelWrong(mine: LabelBody, shown: LabelBody | undefined, cells: number | null): string[] {
  const { series, parallel: _parallel, ...rest } = mine;
  const cellsWrong =
    series === undefined || series === cells
      ? []
      : [
          cells === null
            ? `${counted(series, 'cell')} ${series === 1 ? 'was' : 'were'} counted before anybody saw them`
            : `${counted(series, 'cell')} ${series === 1 ? 'was' : 'were'} counted, it has ${cells}`,
        ];
  if (Object.keys(rest).length === 0) return cellsWrong;
  if (shown === undefined) return [...cellsWrong, 'the label was written down before anybody read it'];
  const figures = FIGURES.flatMap((k) => {
    const [m, s] = [mine[k], shown[k]];
    if (m === undefined) return [];
    return s !== undefined && agrees(m, s) ? [] : [`label ${show(m)}: it says ${s ? show(s) : 'nothing of the kind'}`];
  });
  const chemistry =
    mine.chemistry !== undefined && mine.chemistry !== shown.chemistry
      ? [`label ${mine.chemistry}: it says ${shown.chemistry ?? 'nothing'}`]
      : [];
  return [...cellsWrong, ...figures, ...chemistry];
}

function gaugeWrong(mine: GaugeBody, shown: GaugeBody | undefined): string[] {
  if (shown === undefined) return ['the gauge was written down before anybody read it'];
  return (['designCapacity', 'fullChargeCapacity', 'remainingCapacity'] as const).flatMap((k) => {
    const [m, s] = [mine[k], shown[k]];
    if (m === undefined) return [];
    return s !== undefined && agrees(m, s) ? [] : [`gauge ${show(m)}: it says ${s ? show(s) : 'nothing of the kind'}`];
  });
}

/** Codes that a person may well write down: those that a look showed, and those that the readings amount to. */
function codesThere(entries: readonly LoggedEntry[], now: Date): ReadonlySet<string> {
  const { findings } = condition(foldPack(SIMULATED_PACK, entries)!, DEFAULT_POLICY, now);
  return new Set(findings.map((f) => f.code));
}

const GAUGE_FAILED = 'gauge-permanent-failure';
const wordsOf = (code: string): string => findingOf(code)?.words ?? code;

const readingsAt = (at: ReadingBody, stands: readonly Stated[]): ReadingBody[] =>
  stands.flatMap((s) => (s.kind === 'reading-taken' && samePlace(s.body as ReadingBody, at) ? [s.body as ReadingBody] : []));

function wrongIn(s: Stated, before: readonly Stated[], scenario: Scenario, actions: readonly Action[]): string[] {
  const done = actions.slice(0, s.after);
  const { entries, now } = logOf(scenario, done);
  const shown = <K extends Kind>(kind: K) => entries.filter((e) => e.kind === kind).map((e) => e.body as Bodies[K]);
  switch (s.kind) {
    case 'reading-taken':
      return [
        readingWrong(s.body as ReadingBody, shown('reading-taken'), readingsAt(s.body as ReadingBody, before)) ?? [],
      ].flat();
    case 'label-read': {
      const saw = done.some((a) => a === 'cells' || a === 'cells at once');
      return labelWrong(s.body as LabelBody, shown('label-read')[0], saw ? packOf(scenario).cells.length : null);
    }
    case 'gauge-read':
      return gaugeWrong(s.body as GaugeBody, shown('gauge-read')[0]);
    case 'looked': {
      if (!done.includes('look')) return ['“nothing found” was written before anybody looked'];
      const seen = shown('finding-recorded').map((f) => f.code);
      return (s.body as Bodies['looked']).groups.flatMap((g) => {
        const missed = seen.filter((c) => GROUP_FINDINGS[g].includes(c));
        return missed.length > 0 ? [`${g}: “nothing found” was written, and there was “${missed.map(wordsOf).join(', ')}”`] : [];
      });
    }
    case 'finding-recorded': {
      const { code } = s.body as Bodies['finding-recorded'];
      return codesThere(entries, now).has(code) ? [] : [`“${wordsOf(code)}” was written, and nothing showed it`];
    }
    default:
      return [`${s.kind.replace(/-/g, ' ')}: that was not done here`];
  }
}

/** What was shown and is nowhere in what was written. */
function leftOut(entries: readonly LoggedEntry[], own: readonly Stated[]): string[] {
  const mine = <K extends Kind>(kind: K) => own.filter((s) => s.kind === kind).map((s) => s.body as Bodies[K]);
  const left = entries.flatMap((e) => {
    switch (e.kind) {
      case 'reading-taken':
        return mine('reading-taken').some((r) => samePlace(r, e.body) && agrees(r.figure, e.body.figure))
          ? []
          : [`${placeOf(e.body)} ${show(e.body.figure)}`];
      case 'label-read':
        return FIGURES.flatMap((k) => {
          const f = e.body[k];
          return f === undefined || mine('label-read').some((l) => l[k] !== undefined) ? [] : [`label ${show(f)}`];
        });
      case 'gauge-read':
        return [
          ...(mine('gauge-read').length === 0 ? ['what the gauge says'] : []),
          ...(e.body.permanentFailure &&
          !mine('gauge-read').some((g) => g.permanentFailure) &&
          !mine('finding-recorded').some((f) => f.code === GAUGE_FAILED)
            ? [`“${wordsOf(GAUGE_FAILED)}”`]
            : []),
        ];
      case 'finding-recorded':
        return mine('finding-recorded').some((f) => f.code === e.body.code) ? [] : [`“${wordsOf(e.body.code)}”`];
      case 'looked': {
        const looked = mine('looked').flatMap((l) => l.groups);
        const found = mine('finding-recorded').map((f) => f.code);
        const open = e.body.groups.filter((g) => !looked.includes(g) && !found.some((c) => GROUP_FINDINGS[g].includes(c)));
        return open.length > 0 ? [`what was looked at: ${open.join(', ')}`] : [];
      }
      default:
        return [];
    }
  });
  return [...new Set(left)];
}

/** What was written down against what was there to be read and seen when it was written. */
export function compareWriting(scenario: Scenario, actions: readonly Action[], own: readonly OwnEntry[]): Writing {
  const stands = standingOf(own);
  return {
    wrong: [...new Set(stands.flatMap((s, i) => wrongIn(s, stands.slice(0, i), scenario, actions)))],
    left: leftOut(logOf(scenario, actions).entries, stands),
  };
}
