import { displayDigits, localDay, previewRuling, value } from '@gavrel/core';
import { useEffect, useLayoutEffect, useRef, useState } from 'react';
import { View } from 'react-native';
import type { Draft } from '../device/write';
import { useAppSelector } from '../state';
import { useZone } from '../state/rulings';
import { BIG_TARGET, useTokens } from '../theme';
import { Asked } from '../ui/asked';
import { Row } from '../ui/frame';
import { Choice, Button } from '../ui/buttons';
import { LimitScale } from '../ui/limit-scale';
import { PreviewStrip } from '../ui/ruling-strip';
import { Sheet } from '../ui/sheet';
import { useDisplay } from '../ui/display';
import { Figures, Words } from '../ui/words';
import { useApart } from './apart';
import { ShownHere } from './shown-here';
import { accuracyWords, type ChosenInstrument } from './instruments';
import type { NumberTask } from './number-task';
import { Pad } from './pad';
import { ReadKey } from './read-key';
import { REST, useNumber } from './use-number';
import { dayWords } from '../ui/say';

/** Digits, Backspace and Enter of a real keyboard, or of a calliper that types, wherever the focus is. */
function useTypedKeys(press: (k: string) => void, keep: () => Promise<void>): void {
  const locked = useAppSelector((s) => s.view.locked);
  const latest = useRef({ press, keep });
  latest.current = { press, keep };
  // With the first drawing, not after it: whoever sees the keypad can type.
  useLayoutEffect(() => {
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
}

/** The number as it is typed. It has the focus, so that Enter keeps the number and Tab goes to the keys. */
function Display({ text, unit }: { text: string; unit: string }) {
  const t = useTokens();
  const display = useRef<View>(null);
  const shown = displayDigits(text, useDisplay());
  useEffect(() => {
    const timer = setTimeout(() => display.current?.focus(), 30);
    return () => clearTimeout(timer);
  }, []);
  return (
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
        {shown === '' ? ' ' : shown}
      </Figures>
      <Figures size={24}>{unit}</Figures>
    </View>
  );
}

/** What the number is taken with, how exact that is, and whether its calibration is over. */
function TakenWith({ instrument, usual }: { instrument: ChosenInstrument | null; usual: string }) {
  const today = localDay(useZone(), new Date());
  const until = instrument?.calibratedUntil;
  const over = until !== undefined && until < today;
  return (
    <Words size={14} soft={!over} bold={over}>
      {instrument ? accuracyWords(instrument.plain) : usual}
      {over ? `: calibration ended ${dayWords(until)}` : ''}
    </Words>
  );
}

/** The keypad: an instrument's face with the limit scale as its display. Typed keys, a keyboard-like calliper, and thumbs all work. */
export function Keypad(props: {
  packId: string;
  first: NumberTask;
  onKeep: (d: Draft, words: string) => Promise<unknown>;
  onClose: () => void;
}) {
  const n = useNumber(props);
  const { task, figure } = n;
  const apart = useApart() !== null;
  const [hidden, setHidden] = useState(false);
  const blind = apart || hidden;
  useTypedKeys(n.press, () => n.keep());
  const { committed, typed } = n.preview;
  const shown = committed && typed ? previewRuling(committed, typed) : null;
  const scale =
    figure && task.ownLimit
      ? task.ownLimit(value(figure))
      : typed?.limits.find((l) => task.limits?.includes(l.id) && (task.point === undefined || l.point === task.point));
  const next = task.next?.();
  const off = !figure || n.trouble !== null;
  return (
    <Sheet
      title={task.title}
      onClose={props.onClose}
      footer={
        <Button
          label={n.asked ? 'Keep it all the same' : next ? `Keep, then ${next.title}` : 'Keep'}
          tone="next"
          height={BIG_TARGET}
          size={19}
          disabled={off}
          onPress={() => void n.keep()}
          testID="keep"
        />
      }
    >
      {n.kept ? (
        <Words size={15} soft live>
          {`kept ${n.kept}`}
        </Words>
      ) : null}
      {shown && !blind ? <PreviewStrip ruling={shown} typed={`${n.text.replace(',', '.')} ${n.unit}`} /> : null}
      {scale && !blind ? <LimitScale limit={scale} /> : null}
      <ShownHere kind={task.quantity ? 'reading-taken' : 'label-read'} quantity={task.quantity} />
      <Display text={n.text} unit={n.unit} />
      {n.instrument?.talks ? <ReadKey instrument={n.instrument} units={task.units} onReading={n.take} /> : null}
      {n.trouble ? <Words bold>{n.trouble}</Words> : null}
      <Asked words={n.asked} />
      {task.askRest ? (
        <View style={{ gap: 4 }}>
          <Words size={15} soft>
            Rest before the reading
          </Words>
          <Choice label="Rest before the reading" options={REST} value={n.rest} onChange={n.setRest} />
        </View>
      ) : null}
      <Pad
        task={task}
        unit={n.unit}
        last={blind ? undefined : n.last}
        onUnit={n.nextUnit}
        onPress={n.press}
        onLast={() => n.last && n.take(n.last.digits, n.last.unit)}
      />
      {task.measures && !apart ? (
        <Row gap={6}>
          <Button
            label="Keep, once more"
            hint="the same reading again; a set is averaged"
            disabled={off}
            onPress={() => void n.keep(true)}
            testID="keep-again"
          />
          <Button
            label="Blind"
            hint="hide the last value and the ruling"
            role="checkbox"
            selected={blind}
            onPress={() => setHidden(!hidden)}
            testID="blind"
          />
        </Row>
      ) : null}
      {task.instrument ? <TakenWith instrument={n.instrument} usual={task.instrument} /> : null}
    </Sheet>
  );
}
