import {
  type Figure,
  foldPack,
  previewRuling,
  type Instrument,
  type InstrumentBody,
  type Limit,
  localDay,
  type LoggedEntry,
  oddReading,
  parseDigits,
  RANGE,
  rule,
  type Ruling,
  value,
} from '@gavrel/core';
import { useEffect, useMemo, useRef, useState } from 'react';
import { View } from 'react-native';
import type { Draft } from '../device/write';
import { useAppSelector } from '../state';
import { useZone } from '../state/rulings';
import { BIG_TARGET, useTokens } from '../theme';
import { Asked } from '../ui/asked';
import { Row } from '../ui/frame';
import { Choice, Button } from '../ui/buttons';
import { LimitScale } from '../ui/limit-scale';
import { HollowStrip } from '../ui/ruling-strip';
import { Sheet } from '../ui/sheet';
import { Figures, Words } from '../ui/words';
import { accuracyWords, useInstrument } from './instruments';
import { ReadKey } from './read-key';
import { type PackRecord, useRecord } from './use-record';

/** What the keypad knows beside the number. */
export interface Extra {
  readonly restMinutes?: number;
  readonly confirmedOdd?: boolean;
  readonly instrument?: Instrument;
}

/** One number to take: what it is, its units, and what it becomes when it is kept. */
export interface NumberTask {
  /** The pack it is about, where a screen shows more than one. */
  readonly packId?: string;
  readonly title: string;
  readonly units: readonly string[];
  readonly unit: string;
  readonly last?: string;
  /** Quantity for the plausibility question; label figures have none. */
  readonly quantity?: string;
  readonly series: number | null;
  readonly instrument?: string;
  /** Which of the shift's instruments takes it. */
  readonly measures?: InstrumentBody['measures'];
  /** Which limit of the ruling the scale shows. */
  readonly limits?: readonly string[];
  readonly point?: string;
  /** A scale of its own, for figures that are compared exactly. */
  readonly ownLimit?: (x: number) => Limit;
  readonly askRest?: boolean;
  readonly signed?: boolean;
  readonly draft: (figure: Figure, extra: Extra) => Draft;
  /** What comes next on the path; its title is on the key. */
  readonly next?: () => NumberTask | null;
}

const REST = ['now', '10 min', '30 min', '2 h', '5 h'] as const;
const REST_MINUTES: Record<(typeof REST)[number], number> = { now: 0, '10 min': 10, '30 min': 30, '2 h': 120, '5 h': 300 };
const ROWS = [
  ['7', '8', '9', '⌫'],
  ['4', '5', '6', '±'],
  ['1', '2', '3', 'unit'],
  [',', '0', 'last'],
] as const;

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

interface PadKeyProps {
  readonly name: (typeof ROWS)[number][number];
  readonly task: NumberTask;
  readonly unit: string;
  readonly onUnit: () => void;
  readonly onPress: (k: string) => void;
  readonly onLast: (digits: string) => void;
}

/** One key of the pad: a digit, or one of the four at its right edge. */
function PadKey({ name, task, unit, onUnit, onPress, onLast }: PadKeyProps) {
  const special = {
    '⌫': { label: 'delete', shown: '⌫', act: () => onPress('⌫'), off: false },
    '±': { label: 'change the sign', shown: '±', act: () => onPress('±'), off: !task.signed },
    unit: { label: `unit ${unit}`, shown: unit, act: onUnit, off: task.units.length < 2 },
    last: {
      label: task.last === undefined ? '=, no last time' : `= ${task.last}, same as last time`,
      shown: task.last === undefined ? '=' : `= ${task.last}`,
      act: () => onLast((task.last ?? '').replace('.', ',')),
      off: task.last === undefined,
    },
  }[name as '⌫'];
  return (
    <Button
      label={special?.label ?? name}
      sign
      height={BIG_TARGET}
      style={{ flex: name === 'last' ? 2.07 : 1, paddingHorizontal: 2 }}
      disabled={special?.off}
      onPress={special?.act ?? (() => onPress(name))}
      testID={`key-${name}`}
    >
      <Figures size={special ? 19 : 26} bold>
        {special?.shown ?? name}
      </Figures>
    </Button>
  );
}

/** Speaks a number back, where the device can. */
function say(text: string): void {
  if (!('speechSynthesis' in window)) return;
  window.speechSynthesis.cancel();
  window.speechSynthesis.speak(new SpeechSynthesisUtterance(text));
}

/** The keypad: an instrument's face with the limit scale as its display. Typed keys, a keyboard-like calliper, and thumbs all work. */
export function Keypad({
  packId,
  first,
  onKeep,
  onClose,
}: {
  packId: string;
  first: NumberTask;
  onKeep: (d: Draft, words: string) => Promise<unknown>;
  onClose: () => void;
}) {
  const t = useTokens();
  const today = localDay(useZone(), new Date());
  const [task, setTask] = useState(first);
  const [text, setText] = useState('');
  const [unit, setUnit] = useState(first.unit);
  const [rest, setRest] = useState<(typeof REST)[number] | null>(null);
  const [asked, setAsked] = useState<string | null>(null);
  const digits = text === '' ? null : parseDigits(text);
  const figure = useMemo<Figure | null>(() => (digits === null ? null : { digits, unit }), [digits, unit]);
  const restMinutes = task.askRest && rest !== null ? REST_MINUTES[rest] : undefined;
  const instrument = useInstrument(task.measures);
  const extra = useMemo<Extra>(
    () => ({ ...(restMinutes !== undefined && { restMinutes }), ...(instrument && { instrument: instrument.plain }) }),
    [instrument, restMinutes],
  );
  const record = useRecord(packId);
  const { committed, typed } = usePreview(packId, record, task, figure, extra);
  const range = task.quantity ? RANGE[task.quantity] : undefined;
  const beyond = figure !== null && range !== undefined && (value(figure) < range[0] || value(figure) > range[1]);
  const bad = text !== '' && digits === null;
  const nothing = figure !== null && value(figure) === 0 && !MAY_BE_ZERO.includes(task.quantity ?? '');

  const press = (k: string) => {
    setAsked(null);
    if (k === '⌫') setText((s) => s.slice(0, -1));
    else if (k === '±') setText((s) => (s.startsWith('-') ? s.slice(1) : task.signed ? `-${s}` : s));
    else setText((s) => (s.length < 12 ? s + k : s));
  };

  const speak = useAppSelector((s) => s.view.speak);
  const [kept, setKept] = useState<string | null>(null);
  const [blind, setBlind] = useState(false);
  const closing = useRef(false);

  const keep = async (again = false) => {
    if (!figure || beyond || nothing || closing.current) return;
    const unusual = task.quantity ? oddReading(task.quantity, value(figure), task.series) : null;
    const odd = [...(unusual === null ? [] : [unusual]), ...record.asks([task.draft(figure, extra)])].join('\n');
    if (odd !== '' && asked !== odd) {
      setAsked(odd);
      return;
    }
    const drafted = task.draft(figure, { ...extra, ...(odd !== '' && { confirmedOdd: true }) });
    record.kept([drafted]);
    const said = `${figure.digits} ${figure.unit}`;
    const next = again ? { ...task, last: figure.digits } : (task.next?.() ?? null);
    const written = onKeep(drafted, `${task.title} ${said}`);
    if (next) {
      // At once, not when the write ends: what is typed meanwhile belongs to the next number.
      setTask(next);
      setText('');
      setUnit(next.unit);
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
    if (speak) say(said);
    setKept(said);
    if (!next) onClose();
  };

  const locked = useAppSelector((s) => s.view.locked);
  const latest = useRef({ press, keep });
  latest.current = { press, keep };
  useEffect(() => {
    if (locked) return;
    const onKey = (e: KeyboardEvent) => {
      if (e.target instanceof HTMLInputElement) return;
      const k = e.key === '.' ? ',' : e.key === 'Backspace' ? '⌫' : e.key === '-' ? '±' : e.key;
      if (/^[0-9,]$|^[⌫±]$/.test(k)) {
        e.preventDefault();
        latest.current.press(k);
      } else if (e.key === 'Enter' && !(e.target instanceof Element && e.target.closest('[data-testid="close-sheet"]'))) {
        // Wherever one is, a digit's key too: Space presses a key, Enter keeps the number.
        e.preventDefault();
        e.stopPropagation();
        void latest.current.keep();
      }
    };
    window.addEventListener('keydown', onKey, true);
    return () => window.removeEventListener('keydown', onKey, true);
  }, [locked]);

  // The display has the focus, so that Enter keeps the number and Tab goes to the keys.
  const display = useRef<View>(null);
  useEffect(() => {
    const timer = setTimeout(() => display.current?.focus(), 30);
    return () => clearTimeout(timer);
  }, []);

  const shown = committed && typed ? previewRuling(committed, typed) : null;
  const scale =
    figure && task.ownLimit
      ? task.ownLimit(value(figure))
      : typed?.limits.find((l) => task.limits?.includes(l.id) && (task.point === undefined || l.point === task.point));
  const next = task.next?.();
  const over = instrument?.calibratedUntil !== undefined && instrument.calibratedUntil < today;
  const nextUnit = task.units[(task.units.indexOf(unit) + 1) % task.units.length]!;
  return (
    <Sheet
      title={task.title}
      onClose={onClose}
      footer={
        <Button
          label={asked ? 'Keep it all the same' : next ? `Keep, then ${next.title}` : 'Keep'}
          tone="next"
          height={BIG_TARGET}
          size={19}
          disabled={!figure || beyond || nothing}
          onPress={() => void keep()}
          testID="keep"
        />
      }
    >
      {kept ? (
        <Words size={15} soft live>
          {`kept ${kept}`}
        </Words>
      ) : null}
      {shown && !blind ? <HollowStrip ruling={shown} typed={`${text} ${unit}`} /> : null}
      {scale && !blind ? <LimitScale limit={scale} /> : null}
      <View
        ref={display}
        tabIndex={-1}
        style={{
          flexDirection: 'row',
          alignItems: 'baseline',
          justifyContent: 'flex-end',
          outlineWidth: 0,
          gap: 8,
          borderBottomWidth: 2,
          borderColor: t.ink,
          minHeight: 60,
        }}
      >
        <Figures size={44} bold testID="typed" live>
          {text === '' ? ' ' : text}
        </Figures>
        <Figures size={24}>{unit}</Figures>
      </View>
      {instrument?.talks ? (
        <ReadKey
          instrument={instrument}
          units={task.units}
          onReading={(read, of) => {
            setAsked(null);
            setText(read.replace('.', ','));
            setUnit(of);
          }}
        />
      ) : null}
      {bad ? <Words>{`"${text}" is not one number: mend it with ⌫.`}</Words> : null}
      {nothing ? <Words bold>Nothing real is 0: mend it, or close this where it is not known.</Words> : null}
      {beyond ? <Words bold>{`Beyond any instrument here (${range![0]} to ${range![1]} in base units): mend it.`}</Words> : null}
      <Asked words={asked} />
      {task.askRest ? (
        <View style={{ gap: 4 }}>
          <Words size={15} soft>
            Rest before the reading
          </Words>
          <Choice label="Rest before the reading" options={REST} value={rest} onChange={setRest} />
        </View>
      ) : null}
      <View style={{ gap: 6 }}>
        {ROWS.map((row) => (
          <View key={row[0]} style={{ flexDirection: 'row', gap: 6 }}>
            {row.map((k) => (
              <PadKey
                key={k}
                name={k}
                task={blind ? { ...task, last: undefined } : task}
                unit={unit}
                onUnit={() => setUnit(nextUnit)}
                onPress={press}
                onLast={(d) => setText(d)}
              />
            ))}
          </View>
        ))}
      </View>
      {task.measures ? (
        <Row gap={6}>
          <Button
            label="Keep, once more"
            hint="the same reading again; a set is averaged"
            disabled={!figure || beyond || nothing}
            onPress={() => void keep(true)}
            testID="keep-again"
          />
          <Button
            label="Blind"
            hint="hide the last value and the ruling"
            role="checkbox"
            selected={blind}
            onPress={() => setBlind(!blind)}
            testID="blind"
          />
        </Row>
      ) : null}
      {task.instrument ? (
        <Words size={14} soft={!over} bold={over}>
          {instrument ? accuracyWords(instrument.plain) : task.instrument}
          {over ? `: calibration ended ${instrument.calibratedUntil}` : ''}
        </Words>
      ) : null}
    </Sheet>
  );
}
