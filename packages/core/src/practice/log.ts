import type { LoggedEntry } from '../logbook/entry';
import { type Action, ACTIONS } from './actions';
import { type Act, ACTS, beginLog, DO, find, readAllCells } from './measure';
import { randomOf } from './random';
import { packOf, type Scenario } from './scenario';

/** Every session begins at the same moment, so that it is the same whenever it is opened again. */
const START = Date.parse('2026-11-02T08:00:00.000Z');
/** Minutes that a pack has rested whose cells are read at once. */
const NO_REST = 5;

/** What each action wrote, in the order in which they were done, and the moment after it, ms. */
export type Written = readonly {
  readonly action: Action;
  readonly entries: readonly LoggedEntry[];
  readonly until: number;
}[];

const isAct = (a: Action): a is Act => (ACTS as readonly Action[]).includes(a);

/**
 * The log of the pack as these actions write it, and the moment after it. The same actions write the same figures in any order.
 * @param start when the session began, ms.
 */
export function logOf({ seed, reacting, ...scenario }: Scenario, actions: readonly Action[], start = START) {
  const m = beginLog(packOf({ seed, ...scenario }), randomOf(seed), start);
  const begun = m.at;
  const written: Written = actions.map((action) => {
    const before = m.entries.length;
    const r = randomOf(seed * 31 + Object.keys(ACTIONS).indexOf(action) + 1);
    // The long rest moves the clock itself.
    if (action !== 'rest') m.at += ACTIONS[action].minutes * 60_000;
    if (action === 'cells at once') readAllCells(m, r, NO_REST);
    else if (action === 'leave' && reacting) find(m, 'hissing');
    else if (isAct(action)) DO[action](m, r);
    return { action, entries: m.entries.slice(before), until: m.at };
  });
  return { entries: m.entries as readonly LoggedEntry[], written, begun, now: new Date(m.at + 60_000) };
}
