import { inForce, type Rule } from './rule';
import { addDays } from '../quantity/day';

export interface RuleChange {
  readonly id: string;
  readonly kind: 'begins' | 'ends' | 'changes';
  readonly before: Rule | null;
  readonly after: Rule | null;
}

const told = (r: Rule) => JSON.stringify([r.title, r.figures]);

/** What is different in a set of rules between two days: a new edition that says the same is no change. */
export function compareRules(rules: readonly Rule[], a: string, b: string): RuleChange[] {
  const at = (day: string) => new Map(rules.filter((r) => inForce(r, day)).map((r) => [r.id, r]));
  const [before, after] = [at(a), at(b)];
  return [...new Set([...before.keys(), ...after.keys()])].sort().flatMap((id): RuleChange[] => {
    const [x, y] = [before.get(id) ?? null, after.get(id) ?? null];
    if (!x) return [{ id, kind: 'begins', before: null, after: y }];
    if (!y) return [{ id, kind: 'ends', before: x, after: null }];
    return told(x) === told(y) || /\.edition$/.test(id) ? [] : [{ id, kind: 'changes', before: x, after: y }];
  });
}

/** Days after `today` on which any rule begins or has ended, soonest first. */
export function changeDays(rules: readonly Rule[], today: string, until: string): string[] {
  const days = rules.flatMap((r) => [...(r.from ? [r.from] : []), ...(r.to ? [addDays(r.to, 1)] : [])]);
  return [...new Set(days)].filter((d) => d > today && d <= until).sort();
}
