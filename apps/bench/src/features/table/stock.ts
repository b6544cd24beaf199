import { findingOf, type LabelBody, type ShippingFacts, type Subject, taggedId } from '@gavrel/core';
import { draft, type Draft } from '../../device/write';
import { MOST_STOCK } from './limits';

/** A line of a table with what it says of its pack. */
export interface StockLine {
  readonly line: number;
  readonly tag: string;
  readonly facts: ShippingFacts;
  /** Figures as they stood in their cells. */
  readonly printed: Readonly<Record<string, { readonly digits: string; readonly unit: string }>>;
  readonly bad: boolean;
}

export interface Taken {
  readonly line: number;
  readonly tag: string;
  readonly words: 'taken in' | 'no tag' | 'tag is here already' | 'tag stands in the table before' | 'mend the line first';
}

/** A figure as it stood in its cell, where a label may carry that unit; else the number read from it. */
function figure<U extends string>(
  { facts, printed }: StockLine,
  name: keyof ShippingFacts & string,
  units: readonly [U, ...U[]],
) {
  const stood = printed[name];
  const unit = units.find((u) => u === stood?.unit);
  if (stood && unit) return { digits: stood.digits, unit };
  const n = facts[name];
  return typeof n === 'number' && { digits: String(n), unit: units[0] };
}

/**
 * A table as packs of the workshop. Labels, weights and whatever speaks against a pack are taken; a clearing, a "nothing found" and
 * "tested" are not: they are said by somebody who stands at the pack.
 */
export function stockDrafts(lines: readonly StockLine[], workshop: string, here: (id: string) => boolean) {
  const drafts: Draft[] = [];
  const seen = new Set<string>();
  const taken = lines.slice(0, MOST_STOCK).map((whole): Taken => {
    const { line, tag, facts: f, bad } = whole;
    if (bad) return { line, tag, words: 'mend the line first' };
    if (tag === '') return { line, tag, words: 'no tag' };
    const id = taggedId(workshop, 'pack', tag);
    if (here(id)) return { line, tag, words: 'tag is here already' };
    if (seen.has(id)) return { line, tag, words: 'tag stands in the table before' };
    seen.add(id);
    const on: readonly Subject[] = [`pack:${id}`];
    const v = figure(whole, 'nominalVoltage', ['V']);
    const ah = figure(whole, 'ratedCapacity', ['Ah', 'mAh']);
    const wh = figure(whole, 'ratedEnergy', ['Wh']);
    const label = {
      ...(f.chemistry && f.chemistry !== 'none' && { chemistry: f.chemistry }),
      ...(v && { nominalVoltage: v }),
      ...(ah && { ratedCapacity: ah }),
      ...(wh && { ratedEnergy: wh }),
      ...(f.energyMarked !== undefined && { energyMarked: f.energyMarked }),
      ...(f.series !== undefined && { series: f.series }),
      ...(f.parallel !== undefined && { parallel: f.parallel }),
      ...(f.madeOn && { madeOn: f.madeOn }),
    } as LabelBody;
    drafts.push(draft('pack-added', on, { tag, use: 'spare' }));
    if (Object.keys(label).length > 0) drafts.push(draft('label-read', on, label));
    const kg = figure(whole, 'mass', ['kg']);
    if (kg) drafts.push(draft('reading-taken', on, { quantity: 'mass', figure: kg }));
    if (f.typeTested === 'no') drafts.push(draft('evidence-stated', on, { typeTested: 'no' }));
    for (const code of f.findings ?? [])
      drafts.push(
        draft('finding-recorded', on, findingOf(code) ? { code } : { code: 'cannot-examine', note: `table says ${code}` }),
      );
    return { line, tag, words: 'taken in' };
  });
  return { drafts, taken };
}
