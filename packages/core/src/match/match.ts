import type { Judgement } from '../condition/condition';
import { latest, seriesOf } from '../condition/series';
import { formOf, type PackFacts } from '../logbook/fold';
import type { PackRemovedBody } from '../logbook/entry';
import { printed } from '../pack/label';
import { natureOf } from '../pack/nature';
import { matchCode } from '../pack/type-code';
import { type Figure, micro, show, value } from '../quantity/figure';
import { overlaps } from '../quantity/interval';

export type MatchVerdict = 'fits' | 'does not fit' | 'not known yet';

/** One thing compared. */
export interface Criterion {
  readonly id: string;
  readonly title: string;
  readonly old: string;
  readonly new: string;
  /** `warn` does not stop it, `unknown` keeps it from fitting, `note` is for the record. */
  readonly result: 'same' | 'fits' | 'differs' | 'unknown' | 'warn' | 'note';
  readonly words: string;
}

export interface Match {
  readonly verdict: MatchVerdict;
  readonly criteria: readonly Criterion[];
}

/** A pack with what it is, as matching needs it. */
export interface Candidate {
  readonly facts: PackFacts;
  readonly judgement: Judgement;
}

/** Play that an outline may have, mm, and how much smaller it may be before it lies loose. Common practice, no source. */
export const PLAY = { over: 0.5, loose: 3 } as const;
/** Volts per cell by which nominal voltages of one family may differ. Common practice, no source. */
const NOMINAL_APART = 0.15;
/** Beyond this a label claims more than cells hold: Wh per kg of pack, Wh per litre. Data sheet classes, from memory. */
export const MOST = { perKg: 280, perLitre: 750 } as const;
const HUNDRED = 100_000_000;

const known = (f: Figure | undefined) => (f ? show(f) : '?');
const mm = (x: number | null) => (x === null ? '?' : `${Math.round(x * 100) / 100} mm`);

function chemistry(a: Candidate, b: Candidate): Criterion {
  const [x, y] = [a.judgement.label.sure.chemistry, b.judgement.label.sure.chemistry];
  const base = { id: 'chemistry', title: 'chemistry', old: x ?? '?', new: y ?? '?' };
  if (!x || !y) return { ...base, result: 'unknown', words: 'read it off both labels' };
  return x === y
    ? { ...base, result: 'same', words: '' }
    : { ...base, result: 'differs', words: 'another chemistry is never a match' };
}

function series(a: Candidate, b: Candidate): Criterion {
  const [x, y] = [a, b].map((c) => natureOf(c.judgement.label.sure).series) as [number | null, number | null];
  const base = { id: 'series', title: 'cells in series', old: x === null ? '?' : `${x}S`, new: y === null ? '?' : `${y}S` };
  if (x === null || y === null) return { ...base, result: 'unknown', words: 'nominal voltage or charge limit decides it' };
  return x === y
    ? { ...base, result: 'same', words: '' }
    : { ...base, result: 'differs', words: 'another series count is never a match' };
}

function nominal(a: Candidate, b: Candidate): Criterion {
  const [x, y] = [a.judgement.label.sure.nominalVoltage, b.judgement.label.sure.nominalVoltage];
  const base = { id: 'nominal', title: 'nominal voltage', old: known(x), new: known(y) };
  if (!x || !y) return { ...base, result: 'unknown', words: 'read it off both labels' };
  if (overlaps(printed(x), printed(y))) return { ...base, result: 'same', words: '' };
  const cells = natureOf(a.judgement.label.sure).series ?? 1;
  if (Math.abs(value(x) - value(y)) / cells <= NOMINAL_APART)
    return { ...base, result: 'warn', words: 'another cell family: the charge limit decides' };
  return { ...base, result: 'differs', words: 'another nominal voltage' };
}

function chargeLimit(a: Candidate, b: Candidate): Criterion {
  const [x, y] = [a.judgement.label.sure.limitedChargeVoltage, b.judgement.label.sure.limitedChargeVoltage];
  const base = { id: 'limit', title: 'charge limit', old: known(x), new: known(y) };
  // The nominal voltage leaves 0.05 to 0.10 V per cell open: a limit is never inferred from it.
  if (!x || !y)
    return { ...base, result: 'unknown', words: 'not printed: from the maker’s data, never from the nominal voltage' };
  if (micro(x) === micro(y)) return { ...base, result: 'same', words: '' };
  return micro(y) < micro(x)
    ? { ...base, result: 'differs', words: 'the machine would overcharge it: refused' }
    : { ...base, result: 'warn', words: 'higher than the machine charges to: it will not fill' };
}

function connector(a: Candidate, b: Candidate): Criterion {
  const [x, y] = [formOf(a.facts).connector, formOf(b.facts).connector];
  const base = { id: 'connector', title: 'connector', old: x ?? '?', new: y ?? '?' };
  if (!x || !y) return { ...base, result: 'unknown', words: 'look at both' };
  return x === y ? { ...base, result: 'same', words: '' } : { ...base, result: 'differs', words: 'another connector' };
}

function ears(a: Candidate, b: Candidate): Criterion {
  const [x, y] = [formOf(a.facts).ears, formOf(b.facts).ears];
  const base = {
    id: 'ears',
    title: 'screw ears',
    old: x === undefined ? '?' : String(x),
    new: y === undefined ? '?' : String(y),
  };
  if (x === undefined || y === undefined) return { ...base, result: 'unknown', words: 'lay them side by side' };
  return x === y ? { ...base, result: 'same', words: '' } : { ...base, result: 'differs', words: 'ears do not line up' };
}

/** Thickness of a pack when new: as said, or as its new thickness was stated, the smaller where both were; a swollen reading is none. */
function newThickness(f: PackFacts): number | null {
  const said = formOf(f).thickness;
  const stated = f.readings.filter((r) => r.body.quantity === 'new-thickness').pop()?.body.figure;
  const all = [said, stated].flatMap((x) => (x ? [value(x)] : []));
  return all.length === 0 ? null : Math.min(...all);
}

/** What the pack takes up now: its thickest reading, or its thickness as said, whichever is more. */
function thickest(f: PackFacts): number | null {
  const all = seriesOf(f.readings, 'thickness').map((s) => s.mean);
  const { thickness } = formOf(f);
  const said = thickness ? [value(thickness)] : [];
  return all.length + said.length === 0 ? null : Math.max(...all, ...said);
}

interface Side {
  readonly id: string;
  readonly title: string;
  readonly old: number | null;
  readonly new: number | null;
  /** Room in the bay, mm. */
  readonly bay: number | null;
}

function side(s: Side): Criterion {
  const room = s.bay ?? (s.old === null ? null : s.old + PLAY.over);
  const base = { id: s.id, title: s.title, old: s.bay === null ? mm(s.old) : `bay ${mm(s.bay)}`, new: mm(s.new) };
  if (room === null || s.new === null) return { ...base, result: 'unknown', words: 'measure it' };
  if (s.new > room) return { ...base, result: 'differs', words: `${mm(s.new - room)} too much` };
  const short = (s.old ?? room) - s.new;
  return short > PLAY.loose
    ? { ...base, result: 'warn', words: `${mm(short)} smaller: it must not lie loose` }
    : { ...base, result: 'fits', words: '' };
}

function outline(a: Candidate, b: Candidate, bay: PackRemovedBody['bay']): Criterion[] {
  const of = (f: Figure | undefined) => (f ? value(f) : null);
  const [x, y] = [formOf(a.facts), formOf(b.facts)];
  return [
    side({ id: 'length', title: 'length', old: of(x.length), new: of(y.length), bay: of(bay?.length) }),
    side({ id: 'width', title: 'width', old: of(x.width), new: of(y.width), bay: of(bay?.width) }),
    side({ id: 'thickness', title: 'thickness', old: newThickness(a.facts), new: thickest(b.facts), bay: of(bay?.depth) }),
  ];
}

/** Only a sound pack goes into a machine; a rebuilt one never. */
function state(b: Candidate): Criterion {
  const { condition, findings } = b.judgement;
  const base = { id: 'condition', title: 'condition', old: '', new: condition as string };
  if (findings.some((f) => f.code === 'recelled'))
    return { ...base, result: 'differs', words: 'rebuilt with other cells: never charged here' };
  if (condition === 'sound') return { ...base, result: 'fits', words: '' };
  if (condition === 'unproven') return { ...base, result: 'unknown', words: b.judgement.open[0] ?? 'examine it first' };
  return { ...base, result: 'differs', words: `${condition}: it does not go into a machine` };
}

/** Declared energy in millionths of a Wh, the larger of what is printed and volts times capacity. */
function energy(c: Candidate): number | null {
  const l = c.judgement.label.sure;
  const product = l.nominalVoltage && l.ratedCapacity ? (micro(l.nominalVoltage) / 1000) * (micro(l.ratedCapacity) / 1000) : null;
  const stated = l.ratedEnergy ? micro(l.ratedEnergy) : null;
  return stated === null ? product : product === null ? stated : Math.max(stated, product);
}

function energies(a: Candidate, b: Candidate): Criterion[] {
  const [x, y] = [energy(a), energy(b)];
  const say = (e: number | null) => (e === null ? '?' : `${Math.round(e / 10_000) / 100} Wh`);
  const base = { id: 'energy', title: 'energy', old: say(x), new: say(y) };
  if (x === null || y === null) return [{ ...base, result: 'note', words: 'not on both labels' }];
  if (y > HUNDRED && x <= HUNDRED)
    return [{ ...base, result: 'warn', words: 'over 100 Wh: the machine travels under other rules' }];
  return [{ ...base, result: 'note', words: y >= x ? '' : 'runs shorter than the old one when new' }];
}

/** Does the label promise more than its mass and volume can hold? */
function plausible(b: Candidate): Criterion[] {
  const e = energy(b);
  if (e === null) return [];
  const wh = e / 1_000_000;
  const out: Criterion[] = [];
  const kg = latest(seriesOf(b.facts.readings, 'mass'))?.mean ?? null;
  const base = { title: 'plausible', old: '' };
  if (kg !== null && kg > 0) {
    const d = wh / kg;
    const over = d > MOST.perKg;
    out.push({
      ...base,
      id: 'per-kg',
      new: `${Math.round(d)} Wh/kg`,
      result: over ? 'warn' : 'note',
      words: over ? 'claims more than its mass can hold' : '',
    });
  }
  const { length, width } = formOf(b.facts);
  const t = thickest(b.facts);
  if (length && width && t !== null) {
    const d = wh / ((value(length) * value(width) * t) / 1_000_000);
    const over = d > MOST.perLitre;
    out.push({
      ...base,
      id: 'per-litre',
      new: `${Math.round(d)} Wh/L`,
      result: over ? 'warn' : 'note',
      words: over ? 'claims more than its size can hold' : '',
    });
  }
  return out;
}

function papers(b: Candidate): Criterion[] {
  const { source, evidence } = b.facts;
  const form = formOf(b.facts);
  const tested = evidence.filter((e) => !e.doubted).pop()?.body.typeTested;
  const summary = source.summary ?? (tested === 'yes' ? 'type tested' : '?');
  const ok = source.summary === 'on file' || tested === 'yes';
  return [
    {
      id: 'cable',
      title: 'cable',
      old: '',
      new: form.cable ?? '?',
      result: form.cable === 'without' ? 'warn' : 'note',
      words: form.cable === 'without' ? 'keep the old cable' : '',
    },
    {
      id: 'source',
      title: 'source',
      old: '',
      new: source.school ?? '?',
      result: source.school === 'compatible' && !ok ? 'warn' : 'note',
      words: source.school === 'compatible' && !ok ? 'ask the supplier for the test summary' : (source.supplier ?? ''),
    },
    {
      id: 'summary',
      title: 'test summary',
      old: '',
      new: summary,
      result: ok ? 'note' : 'warn',
      words: ok ? '' : 'UN 38.3 not shown',
    },
  ];
}

/** Years after which a spare is old; common practice, no source. */
const OLD_YEARS = 3;

function age(b: Candidate, today: string): Criterion[] {
  const made = b.judgement.label.sure.madeOn;
  if (!made) return [{ id: 'age', title: 'made', old: '', new: '?', result: 'note', words: '' }];
  const years = Number(today.slice(0, 4)) - Number(made.slice(0, 4));
  const old = years > OLD_YEARS;
  return [
    {
      id: 'age',
      title: 'made',
      old: '',
      new: made,
      result: old ? 'warn' : 'note',
      words: old ? `${years} years old: look at its health` : '',
    },
  ];
}

/**
 * Old pack against a candidate. A different series count, a lower charge limit, a rebuilt pack never match; a hard criterion
 * nobody has measured keeps the verdict open. Same type code is not enough, another one is no bar.
 * @param today YYYY-MM-DD.
 */
export function matchPacks(old: Candidate, candidate: Candidate, today: string): Match {
  const [x, y] = [old.judgement.label.sure.typeCode, candidate.judgement.label.sure.typeCode];
  const same = x && y ? matchCode(y, x) : null;
  const code: Criterion = {
    id: 'code',
    title: 'type code',
    old: x ?? '?',
    new: y ?? '?',
    result: 'note',
    words: !same
      ? ''
      : same.kind === 'none'
        ? 'another code'
        : same.kind === 'forgiven'
          ? same.pairs.join(', ')
          : 'same code, look all the same',
  };
  const hard = [
    state(candidate),
    chemistry(old, candidate),
    series(old, candidate),
    nominal(old, candidate),
    chargeLimit(old, candidate),
    connector(old, candidate),
    ...outline(old, candidate, old.facts.removed?.body.bay),
    ears(old, candidate),
  ];
  const verdict = hard.some((c) => c.result === 'differs')
    ? 'does not fit'
    : hard.some((c) => c.result === 'unknown')
      ? 'not known yet'
      : 'fits';
  return {
    verdict,
    criteria: [
      ...hard,
      code,
      ...energies(old, candidate),
      ...plausible(candidate),
      ...papers(candidate),
      ...age(candidate, today),
    ],
  };
}
