import { type Grade, GRADES } from './scenario';
import { MACHINES } from './machine/machines';
import { SHIPMENTS } from './shipment/shipments';
import type { StagedScenario } from './staged/scenario';
import type { Scenario } from './scenario';
import { SCENARIOS } from './scenarios';
import { STORES } from './yard/stores';

/** Everything written, by grade. */
export const WRITTEN: readonly (Scenario | StagedScenario)[] = GRADES.flatMap((g) =>
  [...SCENARIOS, ...MACHINES, ...STORES, ...SHIPMENTS].filter((s) => s.grade === g),
);

/** How a session ended, as far as a grade depends on it. */
export interface Tried {
  readonly scenario: string;
  /** ISO 8601 UTC. */
  readonly at: string;
  /** Unsafe acts. */
  readonly harm: number;
  readonly found: boolean;
}

/**
 * Grades in which every written scenario went without an unsafe act and with what is wrong found, the last time it was tried: somebody who
 * forgot has not passed. Our own measure, no source.
 */
export function gradesPassed(tried: readonly Tried[]): Grade[] {
  const last = new Map<string, Tried>();
  for (const t of tried) {
    const before = last.get(t.scenario);
    if (!before || before.at <= t.at) last.set(t.scenario, t);
  }
  const good = (id: string) => last.get(id)?.found === true && last.get(id)!.harm === 0;
  return GRADES.filter((g) => WRITTEN.filter((s) => s.grade === g).every((s) => good(s.id)));
}

/** Grades that are not passed yet. */
export const gradesLeft = (tried: readonly Tried[]): Grade[] => {
  const passed = gradesPassed(tried);
  return GRADES.filter((g) => !passed.includes(g));
};
