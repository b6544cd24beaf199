import type { Contradiction } from '../coherence/relation';
import { cellsWanted, type Judgement } from '../condition/condition';
import type { LookGroup } from '../logbook/entry';
import type { PackFacts } from '../logbook/fold';
import type { Cell } from './matrix';

/** A fact worth getting, and what it decides. */
export interface NextReading {
  /** What opens when it is tapped. */
  readonly card: Card;
  readonly words: string;
  readonly decides: string;
}

/** What a look decides that settles a contradiction. */
export const NOT_ADDING_UP = 'what does not add up';

type Card = 'look' | 'volts' | 'cells' | 'label' | 'gauge' | 'thickness' | 'evidence' | 'mass' | 'settle';

/** Where a fact that does not go with another is looked at again; all others stand on the label. */
const AGAIN: Record<string, Card> = { packVolts: 'volts', gauge: 'gauge', mass: 'mass', findings: 'look', cleared: 'look' };
/** The card that settles a contradiction. */
export const cardOf = (c: Contradiction): Card => AGAIN[c.fields[0]!] ?? 'label';

/** Looks in the order in which they warn. */
const LOOK_ORDER: readonly LookGroup[] = ['smell', 'heat', 'wet', 'shape', 'mechanical', 'electrical'];

const FIELD: Record<string, Pick<NextReading, 'card' | 'words'>> = {
  typeTested: { card: 'evidence', words: 'find the UN 38.3 test summary' },
  stateOfCharge: { card: 'gauge', words: 'charge: read the gauge, or the rest voltage' },
  ratedEnergy: { card: 'label', words: 'watt-hours on the label' },
  energyMarked: { card: 'label', words: 'is a watt-hour figure printed on the case?' },
  chemistry: { card: 'label', words: 'chemistry on the label' },
  series: { card: 'label', words: 'cells in series' },
  parallel: { card: 'label', words: 'cells in parallel' },
  'package.netKg': { card: 'mass', words: 'weigh the pack' },
};

/**
 * Missing or uncertain facts whose answer could change the ruling, most consequential first: what could turn it critical or
 * damaged, then what the most routes wait for. A fact that cannot change anything is not listed.
 */
export function nextReadings(facts: PackFacts, j: Judgement, cells: readonly Cell[]): NextReading[] {
  if (j.condition === 'critical') return [];
  const out: NextReading[] = j.contradictions.map((c) => ({
    card: cardOf(c),
    words: c.sentence,
    decides: NOT_ADDING_UP,
  }));
  const missing = LOOK_ORDER.filter((g) => j.notLooked.includes(g));
  if (j.condition === 'damaged') {
    const live = missing.filter((g) => g === 'smell' || g === 'heat' || g === 'wet');
    if (live.length > 0) out.push({ card: 'look', words: `from outside: ${live.join(', ')}`, decides: 'damaged or critical' });
  } else {
    const looks = missing.filter((g) => g !== 'electrical');
    if (looks.length > 0)
      out.push({ card: 'look', words: `look: ${looks.join(', ')}`, decides: 'whether it can be vouched for' });
    if (missing.includes('electrical')) {
      const volts = facts.gauges.length > 0 || facts.readings.some((r) => r.body.quantity.endsWith('-voltage'));
      out.push(
        volts
          ? { card: 'look', words: 'look: electrical', decides: 'whether it can be vouched for' }
          : { card: 'volts', words: 'pack voltage after rest', decides: 'whether a cell is low or over' },
      );
    }
    if (j.open.some((o) => o.includes('too close') || o.includes('breaches')))
      out.push({ card: 'settle', words: 'measure again: too close to tell', decides: 'unproven, or not' });
    if (cellsWanted(j) && !missing.includes('electrical'))
      out.push({
        card: 'cells',
        words: 'every cell: gauge, taps, or one full cycle in a host',
        decides: 'whether it can be vouched for',
      });
    const thick = facts.readings.some((r) => r.body.quantity === 'thickness');
    const isNew = facts.readings.some((r) => r.body.quantity === 'new-thickness');
    if (!thick || !isNew)
      out.push({
        card: 'thickness',
        words: thick ? 'new thickness, to judge the growth' : 'thickness at five points',
        decides: 'swollen, or not',
      });
  }
  const waits = new Map<string, number>();
  for (const c of cells) if (c.word === 'hold') for (const f of c.result.missing) waits.set(f, (waits.get(f) ?? 0) + 1);
  for (const [field, n] of [...waits].sort((a, b) => b[1] - a[1] || (a[0] < b[0] ? -1 : 1))) {
    const known = FIELD[field];
    if (known) out.push({ ...known, decides: n === 1 ? 'one route' : `${n} routes` });
  }
  const seen = new Set<string>();
  return out.filter((n) => !seen.has(n.words) && seen.add(n.words));
}
