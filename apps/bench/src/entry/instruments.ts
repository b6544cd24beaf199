import { type Cable, hasCables } from '../device/serial';
import { counted, type Instrument, type InstrumentBody, localDay } from '@gavrel/core';
import { useMemo } from 'react';
import { useAppSelector } from '../state';
import { useZone } from '../state/rulings';
import { useApart } from './apart';

/** "meter 2, ±0.5 % + 2 digits". */
export function accuracyWords(i: Instrument): string {
  const { percent, digits, fixed } = i.accuracy;
  const parts = [percent > 0 && `${percent} %`, digits > 0 && counted(digits, 'digit'), fixed && `${fixed}`].filter(Boolean);
  return `${i.name}, ±${parts.join(' + ')}`;
}

export interface ChosenInstrument {
  readonly id: string;
  readonly measures: InstrumentBody['measures'];
  /** It talks: the keypad can ask it, by way of the server or by a cable of this device. */
  readonly talks: boolean;
  readonly cable?: Cable;
  /** As an entry carries it. */
  readonly plain: Instrument;
  readonly calibratedUntil?: string;
}

/** The instrument this person chose for today; null when none was, or the choice is from another day. */
export function useInstrument(measures: InstrumentBody['measures'] | undefined): ChosenInstrument | null {
  const shift = useAppSelector((s) => s.view.shift);
  const instruments = useAppSelector((s) => s.logbook.instruments);
  const cables = useAppSelector((s) => s.view.cables);
  const person = useAppSelector((s) => s.session.session?.person.id);
  const today = localDay(useZone(), new Date());
  const apart = useApart() !== null;
  return useMemo(() => {
    if (apart || !measures || !shift || shift.person !== person || shift.day !== today) return null;
    const found = instruments[shift.chosen[measures] ?? ''];
    if (!found) return null;
    const { id, name, accuracy, range, calibratedUntil, address } = found;
    const cable = hasCables() ? cables[id] : undefined;
    return {
      id,
      measures,
      talks: address !== undefined || cable !== undefined,
      ...(cable && { cable }),
      plain: { name, accuracy, ...(range !== undefined && { range }) },
      ...(calibratedUntil && { calibratedUntil }),
    };
  }, [apart, cables, instruments, measures, person, shift, today]);
}
