import { MAX_SCENARIOS } from '@gavrel/contract';
import type * as Checks from '@gavrel/contract/schemas';
import { FAULTS, flawOf, PACK_GRADES, type Scenario, SCENARIOS } from '@gavrel/core/practice';
import type { PracticeRecord } from './record';

/** Names of other people's scenarios begin so: they are never taken for ours. */
const OWN = 'own-';

/** A scenario of ours as a file, for whoever writes one: what an expert would do is left out. */
export function exampleFile(): string {
  const { expert: _expert, careless: _careless, ...example } = SCENARIOS.find((s) => s.set)!;
  return JSON.stringify([{ ...example, id: 'my-first-one' }], null, 2);
}

/**
 * Reads scenarios of somebody else: one, or a list.
 * @returns them with names of their own, or what is wrong, line by line, and none of them.
 */
export function readScenarios(
  text: string,
  { scenarioErrors }: Pick<typeof Checks, 'scenarioErrors'>,
): { readonly scenarios: readonly Scenario[]; readonly errors: readonly string[] } {
  const none = (errors: readonly string[]) => ({ scenarios: [], errors });
  let said: unknown;
  try {
    said = JSON.parse(text);
  } catch (e) {
    return none([`This is not JSON: ${(e as Error).message}.`]);
  }
  const list = Array.isArray(said) ? (said as unknown[]) : [said];
  const wrong = scenarioErrors(list, { grades: PACK_GRADES, faults: FAULTS });
  if (wrong.length > 0) return none(wrong.map((e) => e.detail));
  const scenarios = list as Scenario[];
  const flawed = scenarios.flatMap((s) => {
    const flaw = flawOf(s);
    return flaw === null ? [] : [`${s.title}: ${flaw}.`];
  });
  return flawed.length > 0 ? none(flawed) : { scenarios: scenarios.map((s) => ({ ...s, id: OWN + s.id })), errors: [] };
}

/** With these among the others: the same name again is a newer one. The oldest go where there are too many. */
export const withOwn = (r: PracticeRecord, fresh: readonly Scenario[]): PracticeRecord => ({
  ...r,
  own: [...(r.own ?? []).filter((s) => !fresh.some((f) => f.id === s.id)), ...fresh].slice(-MAX_SCENARIOS),
});

export const withoutOwn = (r: PracticeRecord, id: string): PracticeRecord => ({
  ...r,
  own: (r.own ?? []).filter((s) => s.id !== id),
});
