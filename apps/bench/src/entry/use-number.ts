import {
  type Display,
  displayText,
  displayUnit,
  type Figure,
  foldPack,
  inDisplayUnit,
  localDay,
  type LoggedEntry,
  oddReading,
  parseDigits,
  RANGE,
  rule,
  type Ruling,
  value,
} from '@gavrel/core';
import { useMemo, useRef, useState } from 'react';
import type { Draft } from '../device/write';
import { useAppSelector } from '../state';
import { useZone } from '../state/rulings';
import { useDisplay } from '../ui/display';
import { useInstrument } from './instruments';
import type { Extra, NumberTask } from './number-task';
import { type PackRecord, useRecord } from './use-record';

export const REST = ['now', '10 min', '30 min', '2 h', '5 h'] as const;
export type Rest = (typeof REST)[number];
const REST_MINUTES: Record<Rest, number> = { now: 0, '10 min': 10, '30 min': 30, '2 h': 120, '5 h': 300 };

/** Folds the typed number as if it were kept. Nothing acts on it; it is never shown milder than what is committed. */
function usePreview(
  packId: string,
  record: PackRecord,
  task: NumberTask,
  figure: Figure | null,
  extra: Extra,
): { committed: Ruling | null; typed: Ruling | null } {
  const policy = useAppSelector((s) => s.logbook.policy);
  const zone = useZone();
  const { entries, made } = record;
  return useMemo(() => {
    if (!entries) return { committed: null, typed: null };
    const now = new Date();
    const day = localDay(zone, now);
    const ruled = (all: readonly LoggedEntry[]) => {
      const facts = foldPack(packId, all);
      return facts ? rule(facts, policy, now, day) : null;
    };
    const committed = ruled(entries);
    const e = figure ? made(task.draft(figure, extra)) : null;
    return { committed, typed: e ? ruled([...entries, e]) : null };
  }, [entries, figure, extra, made, packId, policy, task, zone]);
}

/** Quantities of which 0 is a reading: a dead pack, a frosty room. Nothing else that is real is 0. */
const MAY_BE_ZERO: readonly string[] = ['pack-voltage', 'cell-voltage', 'surface-temperature', 'room-temperature'];

/** Speaks a number back, where the device can. */
function say(text: string): void {
  if (!('speechSynthesis' in window)) return;
  window.speechSynthesis.cancel();
  window.speechSynthesis.speak(new SpeechSynthesisUtterance(text));
}

/** Why a typed number cannot be kept, as the person is told; null where it can, or nothing is typed yet. */
function refusal(text: string, figure: Figure | null, task: NumberTask): string | null {
  if (text === '') return null;
  if (!figure) return `"${text}" is not one number: mend it with ⌫.`;
  const n = value(figure);
  const range = task.quantity ? RANGE[task.quantity] : undefined;
  if (range && (n < range[0] || n > range[1]))
    return `Beyond any instrument here (${range[0]} to ${range[1]} ${range[2]}): mend it.`;
  if (n === 0 && !MAY_BE_ZERO.includes(task.quantity ?? ''))
    return 'Nothing real is 0: mend it, or close this where it is not known.';
  return null;
}

/** The number of last time, in the unit in which it is shown. @param shown null: as it stands. */
function lastOf({ last, unit }: NumberTask, shown: Display | null): Figure | undefined {
  if (last === undefined) return undefined;
  return shown === null ? { digits: last, unit } : inDisplayUnit({ digits: last, unit }, shown);
}

interface NumberProps {
  readonly packId: string;
  readonly first: NumberTask;
  readonly onKeep: (d: Draft, words: string) => Promise<unknown>;
  readonly onClose: () => void;
}

/** The number being typed and the task it is for: what it would make of the pack, what speaks against it, and how it is kept. */
export function useNumber({ packId, first, onKeep, onClose }: NumberProps) {
  const [task, setTask] = useState(first);
  const [text, setText] = useState('');
  const display = useDisplay();
  const usualUnit = (of: NumberTask) => {
    const shown = displayUnit(of.unit, display);
    return of.units.includes(shown) ? shown : of.unit;
  };
  const [unit, setUnit] = useState(() => usualUnit(first));
  const last = lastOf(task, usualUnit(task) === task.unit ? null : display);
  const [rest, setRest] = useState<Rest | null>(null);
  const [asked, setAsked] = useState<string | null>(null);
  const [kept, setKept] = useState<string | null>(null);
  const digits = text === '' ? null : parseDigits(text);
  const figure = useMemo<Figure | null>(() => (digits === null ? null : { digits, unit }), [digits, unit]);
  const restMinutes = task.askRest && rest !== null ? REST_MINUTES[rest] : undefined;
  const instrument = useInstrument(task.measures);
  const extra = useMemo<Extra>(
    () => ({ ...(restMinutes !== undefined && { restMinutes }), ...(instrument && { instrument: instrument.plain }) }),
    [instrument, restMinutes],
  );
  const record = useRecord(packId);
  const preview = usePreview(packId, record, task, figure, extra);
  const trouble = refusal(text, figure, task);
  const speak = useAppSelector((s) => s.view.speak);
  const closing = useRef(false);

  const press = (k: string) => {
    setAsked(null);
    if (k === '⌫') setText((s) => s.slice(0, -1));
    else if (k === '±') setText((s) => (s.startsWith('-') ? s.slice(1) : task.signed ? `-${s}` : s));
    else setText((s) => (s.length < 12 ? s + k : s));
  };
  /** A number read or kept before stands on the display as if it were typed. */
  const take = (read: string, of = unit) => {
    setAsked(null);
    setText(read.replace('.', ','));
    setUnit(of);
  };
  const nextUnit = () => setUnit(task.units[(task.units.indexOf(unit) + 1) % task.units.length]!);

  const keep = async (again = false) => {
    if (!figure || trouble || closing.current) return;
    const unusual = task.quantity ? oddReading(task.quantity, value(figure), task.series) : null;
    const odd = [...(unusual === null ? [] : [unusual]), ...record.asks([task.draft(figure, extra)])].join('\n');
    if (odd !== '' && asked !== odd) {
      setAsked(odd);
      return;
    }
    const drafted = task.draft(figure, { ...extra, ...(odd !== '' && { confirmedOdd: true }) });
    record.kept([drafted]);
    const said = `${figure.digits} ${figure.unit}`;
    const next = again ? { ...task, last: figure.digits, unit: figure.unit } : (task.next?.() ?? null);
    const written = onKeep(drafted, `${task.title} ${said}`);
    if (next) {
      // At once, not when the write ends: what is typed meanwhile belongs to the next number.
      setTask(next);
      setText('');
      setUnit(again ? unit : usualUnit(next));
      setAsked(null);
    }
    closing.current = !next;
    try {
      await written;
    } catch {
      // Not kept, and the sheet says why: the number stands there again.
      closing.current = false;
      setTask(task);
      setText(text);
      setUnit(unit);
      return;
    }
    if (speak) say(displayText(said, display));
    setKept(said);
    if (!next) onClose();
  };
  return {
    task,
    text,
    unit,
    last,
    rest,
    setRest,
    asked,
    kept,
    figure,
    instrument,
    preview,
    trouble,
    press,
    take,
    nextUnit,
    keep,
  };
}
