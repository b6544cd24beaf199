import type { ReadingBody } from '../logbook/entry';
import type { Statement, PackFacts } from '../logbook/fold';
import { value } from '../quantity/figure';
import { type Series, seriesOf } from './series';

/** Minutes of rest after which cells may be compared. Text-book, from memory. */
export const CELLS_REST = 120;
/** A gauge names no accuracy; 15 mV half-width is the data sheet class of monitor chips, from memory. Standard uncertainty, V. */
const GAUGE_CELL = 0.0087;
/** Minutes between two readings of older devices up to which they may be of one set. */
const APART = 10;

/** Cell voltages of one run of the keypad, or of one reading of the gauge. */
export interface CellSet {
  readonly at: string;
  /** One series or more for each cell; questioned ones too. */
  readonly cells: readonly Series[];
  /** How many cells it should have; null where nobody said. */
  readonly of: number | null;
  /** What is evidence covers every cell it should have. */
  readonly complete: boolean;
  /** Rest before it: long enough, not said, or too short to compare cells. */
  readonly rest: 'rested' | 'not said' | 'too short';
}

function restOfSet(cells: readonly Series[]): CellSet['rest'] {
  const said = cells.flatMap((c) => c.restMinutes ?? []);
  if (said.some((m) => m < CELLS_REST)) return 'too short';
  return said.length === cells.length ? 'rested' : 'not said';
}

function asSet(cells: readonly Series[], of: number | null): CellSet {
  const sure = new Set(cells.filter((c) => !c.doubted).map((c) => c.point));
  return {
    at: cells.map((c) => c.at).sort()[cells.length - 1]!,
    cells,
    of,
    complete: of !== null && sure.size >= of && Array.from({ length: of }, (_, i) => String(i + 1)).every((p) => sure.has(p)),
    rest: restOfSet(cells),
  };
}

/** Readings that name no set, of one instrument, none more than some minutes after the one before: never evidence, still danger. */
function withoutSet(readings: readonly Statement<ReadingBody>[]): Statement<ReadingBody>[][] {
  const out: Statement<ReadingBody>[][] = [];
  const last = new Map<string, Statement<ReadingBody>[]>();
  for (const r of [...readings].sort((a, b) => (a.at < b.at ? -1 : 1))) {
    const name = r.body.instrument?.name ?? '';
    const run = last.get(name);
    const before = run?.[run.length - 1];
    if (run && before && Date.parse(r.at) - Date.parse(before.at) <= APART * 60_000) run.push(r);
    else {
      const fresh = [r];
      last.set(name, fresh);
      out.push(fresh);
    }
  }
  return out;
}

const ofGauge = (facts: PackFacts): CellSet[] =>
  facts.gauges.flatMap((g) => {
    const volts = g.body.cellVoltages ?? [];
    if (volts.length === 0) return [];
    const cells = volts.map((f, i): Series => ({
      point: String(i + 1),
      at: g.at,
      entries: [g.id],
      values: [value(f)],
      mean: value(f),
      uOne: GAUGE_CELL,
      u: GAUGE_CELL,
      step: 0.001,
      digits: 2,
      // Taken as they are: the machine they are read in is at rest or says so.
      restMinutes: CELLS_REST,
      flow: undefined,
      instrument: `gauge ${g.id}`,
      doubted: g.doubted,
    }));
    return [asSet(cells, volts.length)];
  });

const known = new WeakMap<PackFacts, readonly CellSet[]>();

/** Every set of cell voltages on record, by taps and by gauge. */
export function cellSets(facts: PackFacts): readonly CellSet[] {
  const sets = known.get(facts) ?? setsOf(facts);
  known.set(facts, sets);
  return sets;
}

function setsOf(facts: PackFacts): CellSet[] {
  const taps = facts.readings.filter((r) => r.body.quantity === 'cell-voltage');
  const named = new Map<string, Statement<ReadingBody>[]>();
  for (const r of taps) if (r.body.set) named.set(r.body.set.id, [...(named.get(r.body.set.id) ?? []), r]);
  return [
    ...[...named.values()].map((list) => asSet(seriesOf(list, 'cell-voltage'), Math.max(...list.map((r) => r.body.set!.of)))),
    ...withoutSet(taps.filter((r) => !r.body.set)).map((list) => asSet(seriesOf(list, 'cell-voltage'), null)),
    ...ofGauge(facts),
  ];
}

/**
 * Was every cell seen in one set? @param series cells in series; null where the label does not say: then a set of one cell says nothing of
 * the others.
 */
export const cellsSeen = (sets: readonly CellSet[], series: number | null): boolean =>
  sets.some((s) => s.complete && (series === null ? s.of! > 1 : s.of === series));
