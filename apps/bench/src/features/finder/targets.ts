import {
  findPack,
  foldedCode,
  type NotebookFacts,
  normalTag,
  packColumns,
  type PackFacts,
  type PlaceFacts,
  type Rule,
} from '@gavrel/core';

import { whereWords } from '../../state/rulings';

/** Something the finder leads to. */
export interface Target {
  readonly key: string;
  /** What it is: "pack", "place", "screen". */
  readonly what: string;
  readonly words: string;
  readonly more: string;
  /** Path of the screen. */
  readonly to: string;
}

/** Screens by the words people look for. */
const SCREENS: readonly (readonly [string, string, string])[] = [
  ['Bench', '/', 'jobs in hand, due, start a job'],
  ['Due', '/due', 'everything due, late, looks, signatures, proofs'],
  ['Take in a load', '/batch', 'many machines at once'],
  ['Packs', '/packs', 'stock, list, add a pack'],
  ['Yard', '/yard', 'places, drums, room, quarantine'],
  ['Round', '/round', 'opening check, closing sweep, looks'],
  ['Dispatch', '/dispatch', 'send, ship, routes, consignments'],
  ['Boxes and carriers', '/means', 'packaging, stock of boxes, prices'],
  ['Notices of makers', '/notices', 'recall, safety notice'],
  ['Rules', '/rules', 'editions, provisions'],
  ['Table of packs', '/table', 'CSV, spreadsheet, import'],
  ['Practice', '/practice', 'learn, rehearse, scenarios, first day'],
  ['People', '/people', 'invite, roles, training'],
  ['More', '/more', 'settings, instruments, policy, backup, theme'],
];

const fits = (text: string, typed: string): boolean => foldedCode(text).includes(foldedCode(typed));

export interface Findable {
  readonly packs: Readonly<Record<string, PackFacts>>;
  readonly notebooks: Readonly<Record<string, NotebookFacts>>;
  readonly places: Readonly<Record<string, PlaceFacts>>;
  readonly rules: readonly Rule[];
}

/** How near a text is to what was typed: the whole, its beginning, or somewhere in it. */
const near = (text: string, typed: string): number => {
  const [t, s] = [foldedCode(text), foldedCode(typed)];
  return t === s ? 0 : t.startsWith(s) ? 1 : 2;
};

/**
 * What fits the typed words, the nearest first: packs and machines by tag, type code, serial or model, places, screens, rules. Look-alike
 * characters are forgiven as in every search here.
 * @param most how many.
 */
export function targetsOf(all: Findable, typed: string, most: number): Target[] {
  if (typed.trim() === '') return [];
  const out: { target: Target; rank: number }[] = [];
  const add = (target: Target, rank: number) => out.push({ target, rank });
  for (const p of Object.values(all.packs)) {
    if (findPack(packColumns(p), typed) === null) continue;
    const where = whereWords(p, all.places) || 'not placed';
    add(
      { key: `pack ${p.id}`, what: 'pack', words: p.tag, more: where, to: `/pack/${p.id}` },
      near(p.tag, typed) + (p.left === null ? 0 : 3),
    );
  }
  for (const n of Object.values(all.notebooks)) {
    const machine = [n.maker, n.model].filter(Boolean).join(' ');
    if (![n.tag, machine, n.serial].some((x) => x !== '' && fits(x, typed)) || n.job === null) continue;
    add({ key: `job ${n.id}`, what: 'job', words: n.tag, more: machine, to: `/job/${n.job}` }, near(n.tag, typed));
  }
  for (const p of Object.values(all.places)) {
    if (!fits(p.name, typed)) continue;
    add({ key: `place ${p.id}`, what: 'place', words: p.name, more: p.kind, to: `/place/${p.id}` }, near(p.name, typed));
  }
  for (const [words, to, more] of SCREENS)
    if (fits(words, typed) || fits(more, typed)) add({ key: to, what: 'screen', words, more, to }, near(words, typed) + 1);
  const rules = new Map(all.rules.map((r) => [r.id, r]));
  for (const r of rules.values())
    if (fits(r.id, typed) || fits(r.title, typed))
      add(
        { key: `rule ${r.id}`, what: 'rule', words: r.title, more: r.source, to: `/rules?find=${encodeURIComponent(r.id)}` },
        4,
      );
  return out
    .sort((a, b) => a.rank - b.rank || (a.target.words < b.target.words ? -1 : 1))
    .slice(0, most)
    .map((x) => x.target);
}

/** What a scanned code is the tag or name of, to the letter; nothing where several are called so: a scan forgives no look-alikes. */
export function scannedTarget(found: readonly Target[], code: string): Target | undefined {
  const called = found.filter((t) => ['pack', 'job', 'place'].includes(t.what) && normalTag(t.words) === normalTag(code));
  return called.length === 1 ? called[0] : undefined;
}
