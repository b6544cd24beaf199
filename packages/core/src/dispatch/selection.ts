import type { PolicyFacts } from '../logbook/fold';
import type { Rule, Rulebook } from '../rules/rule';
import { type Load, loadPoints } from './load';
import type { Region, ShippingFacts } from '../shipping/facts';
import { SHIPPING } from '../shipping/rulebook';
import { ALL_ROUTES, type AskedRoute, type Cell, CELL_WORDS, type CellWord, matrix } from '../ruling/matrix';

/** A pack as a selection asks about it. */
export interface Chosen {
  readonly id: string;
  readonly tag: string;
  readonly shipping: ShippingFacts;
}

export interface ChosenCell extends AskedRoute {
  /** The most severe word of all packs: what the whole selection may do. */
  readonly word: CellWord;
  /** Packs that go: yes, split or as damaged. */
  readonly going: number;
  /** Every pack with its own answer, the most severe first. */
  readonly packs: readonly { readonly pack: Chosen; readonly cell: Cell }[];
}

const severity = (c: Cell) => CELL_WORDS.indexOf(c.word);
const GOES: ReadonlySet<CellWord> = new Set(['yes', 'split', 'as damaged']);

/** The routes side by side for several packs, each alone in its package: the worst decides, and which it is stays in sight. */
export function chosenMatrix(
  chosen: readonly Chosen[],
  on: string,
  { region = 'eu', routes = ALL_ROUTES }: { readonly region?: Region; readonly routes?: readonly AskedRoute[] } = {},
): ChosenCell[] {
  if (chosen.length === 0) return [];
  const each = chosen.map((pack) => ({ pack, cells: matrix(pack.shipping, on, { region, routes }) }));
  return routes.map((route, i) => {
    const packs = each
      .map(({ pack, cells }) => ({ pack, cell: cells[i]! }))
      .sort((a, b) => severity(b.cell) - severity(a.cell) || (a.pack.tag < b.pack.tag ? -1 : 1));
    return { ...route, word: packs[0]!.cell.word, going: packs.filter((p) => GOES.has(p.cell.word)).length, packs };
  });
}

export interface ChosenLoad extends Load {
  /** Net kg of packs counted. */
  readonly netKg: number;
  /** Tags of packs counted by a bound on their mass, because nobody weighed them. */
  readonly notWeighed: readonly string[];
  /** Tags of packs without any figure: the points are then too few, and the relief is not shown. */
  readonly unknown: readonly string[];
}

/**
 * Points of ADR 1.1.3.6 if every pack of the cell were in one vehicle. A pack whose provision nobody knows yet is counted like one
 * that is not relieved; one without a weight or a bound ends the relief, because the sum is not known.
 */
export function chosenLoad(cell: ChosenCell): ChosenLoad {
  const notWeighed: string[] = [];
  const unknown: string[] = [];
  const items = cell.packs.flatMap(({ pack, cell: { result } }) => {
    const kg = pack.shipping.mass ?? pack.shipping.package?.netKg;
    if (kg === undefined) unknown.push(pack.tag);
    else if (pack.shipping.mass === undefined) notWeighed.push(pack.tag);
    const provision = result.condition === 'critical' ? 'SP376-P911' : (result.provision ?? 'P903');
    return kg === undefined && provision !== 'SP376-P911' ? [] : [{ provision, netKg: kg ?? 0 } as const];
  });
  const load = loadPoints(items);
  const netKg = items.reduce((sum, i) => sum + i.netKg, 0);
  return {
    ...load,
    netKg,
    notWeighed,
    unknown,
    ...(unknown.length > 0 && load.relief && { relief: false, why: 'the weight of some packs is not known' }),
  };
}

/**
 * Rules of published editions that decided something and that nobody has compared with the printed edition: a paper that rests on
 * one of them is a draft. A check counts for its edition only.
 */
export function fromMemory(
  ids: readonly string[],
  on: string,
  policy: Pick<PolicyFacts, 'checked'>,
  book: Rulebook = SHIPPING,
): Rule[] {
  return [...new Set(ids)]
    .map((id) => book.shown(id, on))
    .filter((r) => !/no source/.test(r.source))
    .filter((r) => {
      const check = policy.checked[r.id];
      return check === undefined || (r.edition !== null && check.edition !== r.edition);
    });
}

/** What such a paper carries across its head, or null when every rule it rests on was compared. */
export function draftBand(rules: readonly Rule[]): string | null {
  if (rules.length === 0) return null;
  const editions = [...new Set(rules.map((r) => r.edition ?? r.source))].sort();
  return `Draft, from memory: check ${editions.join('; ')}`;
}
