import { type Cell, type PolicyFacts, provisionWords, SHIPPING } from '@gavrel/core';
import { carryOf, draftBand, fromMemory } from '@gavrel/core/dispatch';
import type { ReportPaper } from '../paper/draw';

/** A pack with its answer on one route. */
export interface Answered {
  readonly tag: string;
  readonly cell: Cell;
}

/** Does it go, whole or in several packages? */
export const goes = ({ outcome }: Pick<Cell['result'], 'outcome'>): boolean => outcome === 'allowed' || outcome === 'split';
const heading = ({ result }: Cell) =>
  [result.un, provisionWords(result.provision), result.batteryMark ? 'battery mark' : null].filter(Boolean).join(', ');

/** Packs that are answered alike, the first of them speaking for all. */
export function alike(all: readonly Answered[]): { readonly first: Cell; readonly tags: readonly string[] }[] {
  const groups = new Map<string, { first: Cell; tags: string[] }>();
  for (const { tag, cell } of all) {
    const key = [cell.word, heading(cell), ...cell.result.notes, ...cell.result.missing].join('|');
    const known = groups.get(key);
    if (known) known.tags.push(tag);
    else groups.set(key, { first: cell, tags: [tag] });
  }
  return [...groups.values()];
}

/**
 * What to do to send them, in the order of the work, as a paper to lie beside the box. It is a draft until every rule it rests on
 * was compared with the printed edition, and then it still defers to a trained person.
 */
export function stepsPaper(
  title: string,
  all: readonly Answered[],
  on: string,
  policy: Pick<PolicyFacts, 'checked'>,
  workshop: string,
): ReportPaper {
  const going = all.filter((a) => goes(a.cell.result));
  const rules = [...new Set(going.flatMap((a) => a.cell.result.rules))];
  const stay = all.filter((a) => !goes(a.cell.result)).map((a) => a.tag);
  return {
    workshop,
    title,
    owner: '',
    date: `dispatch on ${on}`,
    band: draftBand(fromMemory(rules, on, policy)) ?? undefined,
    sections: [
      ...(stay.length > 0 ? [{ title: 'Stay here', lines: [stay.join(', ')] }] : []),
      ...alike(going).flatMap(({ first, tags }) => {
        const { result } = first;
        const carry = carryOf(result, first);
        return [
          {
            title: heading(first),
            lines: [
              `${tags.length === 1 ? 'Pack' : `${tags.length} packs`}: ${tags.join(', ')}`,
              ...(carry?.packaging ?? []).map((l) => `Pack it: ${l}`),
              ...(carry?.marks ?? []).map((l) => `On the package: ${l}`),
              ...(carry?.papers ?? []).map((l) => `Papers: ${l}`),
              ...(carry ? [`Who: ${carry.trained}`] : []),
              ...result.notes.map((l) => `Limit: ${l}`),
            ],
          },
        ];
      }),
      {
        title: 'Rules',
        lines: rules.map((id) => {
          const check = policy.checked[id];
          const r = SHIPPING.shown(id, on);
          return `${r.title} (${r.source}${check ? `; compared with ${check.edition} on ${check.on}` : ''})`;
        }),
      },
    ],
    foot: 'Not a transport document. It does not state that a pack is safe. A trained person, the carrier and local law decide.',
  };
}
