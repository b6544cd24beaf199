import { type Condition, ladder, type NotebookFacts } from '@gavrel/core';

/** What the signs at a machine make of the pack inside before anybody saw it: never milder than unproven. */
export function suspectCondition(findings: NotebookFacts['findings']): Condition {
  return ladder({ findings: findings.map((f) => f.body.code), conditionKnown: false }).condition;
}
