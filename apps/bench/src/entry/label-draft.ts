import type { Bodies, LabelBody, PackFacts } from '@gavrel/core';
import { draft, type Draft } from '../device/write';
import type { NumberTask } from './number-task';
import { LABEL_FIGURES, labelTask } from './tasks';

/**
 * What a change of the label is: new fields are a reading of their own; a field that is there already is corrected, in the entry
 * that said it, and both stay visible.
 */
export function labelDraft(facts: PackFacts, change: Partial<LabelBody>): Draft {
  const keys = Object.keys(change) as (keyof LabelBody)[];
  return upon(
    facts,
    facts.labels.find((l) => keys.some((k) => l.body[k] !== undefined)),
    change,
  );
}

/** The change as a correction of the reading that said it before; as a reading of its own where none did. */
function upon(
  facts: PackFacts,
  holder: PackFacts['labels'][number] | undefined,
  change: Partial<LabelBody>,
  readBy?: 'camera',
): Draft {
  const how = readBy && { readBy };
  if (!holder) return draft('label-read', [`pack:${facts.id}`], { ...change, ...how });
  const { readBy: _before, ...body } = holder.body as Bodies['label-read'];
  return draft('corrected', [`pack:${facts.id}`], { body: { ...body, ...change, ...how }, reason: 'misread label' }, holder.id);
}

/** A change of several fields: what was never said, and what is said otherwise of each reading that said it, each as its own entry. */
export function labelDrafts(facts: PackFacts, label: LabelBody, change: Partial<LabelBody>, readBy?: 'camera'): Draft[] {
  const changed = Object.entries(change).filter(([k, v]) => label[k as keyof LabelBody] !== v);
  const parts = new Map<PackFacts['labels'][number] | undefined, Partial<LabelBody>>();
  for (const [k, v] of changed) {
    const key = k as keyof LabelBody;
    const holder = label[key] === undefined ? undefined : facts.labels.find((l) => l.body[key] !== undefined);
    parts.set(holder, { ...parts.get(holder), [key]: v });
  }
  return [...parts].map(([holder, change]) => upon(facts, holder, change, readBy));
}

export type FigureKey = keyof typeof LABEL_FIGURES;
export const isFigureKey = (k: string): k is FigureKey => k in LABEL_FIGURES;

/** One figure of the label, new or mended. */
export const oneFigure = (facts: PackFacts, label: LabelBody, key: FigureKey): NumberTask => ({
  ...labelTask(key, label[key], (change) => labelDraft(facts, change)),
  packId: facts.id,
});

/** The figures in their order, one leading to the next that is missing. */
export function figureTask(facts: PackFacts, label: LabelBody, key: FigureKey): NumberTask {
  const order = Object.keys(LABEL_FIGURES) as FigureKey[];
  const following = order.slice(order.indexOf(key) + 1).find((k) => label[k] === undefined);
  return { ...oneFigure(facts, label, key), ...(following && { next: () => figureTask(facts, label, following) }) };
}
