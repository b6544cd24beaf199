import { findingOf, type LabelBody, type ShippingFacts, type Subject, taggedId } from '@gavrel/core';
import { draft, type Draft } from '../../log/write';
import { MOST_STOCK } from './limits';

/** A line of a table with what it says of its pack. */
export interface StockLine {
  readonly line: number;
  readonly tag: string;
  readonly facts: ShippingFacts;
  readonly bad: boolean;
}

export interface Taken {
  readonly line: number;
  readonly tag: string;
  readonly words: 'taken in' | 'no tag' | 'tag is here already' | 'mend the line first';
}

const figure = <U extends string>(n: number | undefined, unit: U) => n !== undefined && { digits: String(n), unit };

/**
 * A table as packs of the workshop. Labels, weights and whatever speaks against a pack are taken; a clearing, a "nothing found" and
 * "tested" are not: they are said by somebody who stands at the pack.
 */
export function stockDrafts(lines: readonly StockLine[], workshop: string, here: (id: string) => boolean) {
  const drafts: Draft[] = [];
  const taken = lines.slice(0, MOST_STOCK).map(({ line, tag, facts: f, bad }): Taken => {
    if (bad) return { line, tag, words: 'mend the line first' };
    if (tag === '') return { line, tag, words: 'no tag' };
    const id = taggedId(workshop, 'pack', tag);
    if (here(id)) return { line, tag, words: 'tag is here already' };
    const on: readonly Subject[] = [`pack:${id}`];
    const [v, ah, wh] = [figure(f.nominalVoltage, 'V'), figure(f.ratedCapacity, 'Ah'), figure(f.ratedEnergy, 'Wh')];
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
    const kg = figure(f.mass, 'kg');
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
