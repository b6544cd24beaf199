import type { BenchTestResponse } from '@gavrel/contract';
import type { InstrumentFacts } from '@gavrel/core';
import { type BenchRow, isDrawn } from '@gavrel/core/discharge';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { api, errorMessage } from '../../device/api';
import { useAppSelector } from '../../state';

/** Between two questions while a test runs, ms. */
const EVERY_MS = 1500;

/** Electronic loads that the server reaches. */
function useLoads(): readonly InstrumentFacts[] {
  const instruments = useAppSelector((s) => s.logbook.instruments);
  return useMemo(
    () => Object.values(instruments).filter((i) => i.measures === 'discharge' && i.address?.speaks === 'scpi'),
    [instruments],
  );
}

/** A test as this screen knows it, with every row that was told. */
export interface Watched extends Omit<BenchTestResponse, 'rows' | 'next'> {
  readonly rows: readonly BenchRow[];
}

/** A test that the server knows no more, started anew meanwhile: its rows are here, and its load's own time-out ends it. */
const lost = (t: Watched | null): Watched | null =>
  t === null || t.end !== null
    ? t
    : {
        ...t,
        end: { whole: false, off: false, words: 'The server was started anew in the middle of it: look that the load is off.' },
      };

/** The screen stays lit while a test runs, where the device can do that: a dark one asks nothing, and then nobody watches. */
function useLitScreen(runs: boolean): void {
  useEffect(() => {
    if (!runs || !('wakeLock' in navigator)) return;
    const lock = navigator.wakeLock.request('screen').catch(() => null);
    return () => void lock.then((l) => l?.release());
  }, [runs]);
}

/** The load that was chosen, and the test on it. */
export interface Bench {
  readonly loads: readonly InstrumentFacts[];
  readonly load: InstrumentFacts;
  readonly choose: (name: string) => void;
  readonly test: Watched | null;
  readonly trouble: string;
  /** @returns whether current flowed. */
  readonly begin: (order: { readonly pack: string; readonly amperes: number; readonly cutOff: number }) => Promise<boolean>;
  readonly stop: () => Promise<void>;
}

/** Watches the test on a load while its pack stands on the screen; null where there is no load. */
export function useBenchTest(): Bench | null {
  const loads = useLoads();
  const [chosen, choose] = useState('');
  const found = loads.find((l) => l.name === chosen) ?? loads[0];
  const load = found?.id;
  const [test, setTest] = useState<Watched | null>(null);
  const [trouble, setTrouble] = useState('');
  const rows = useRef<{ readonly of: string; readonly all: BenchRow[] }>({ of: '', all: [] });
  const busy = useRef<object | null>(null);
  const take = useCallback((t: BenchTestResponse) => {
    if (rows.current.of !== t.began) rows.current = { of: t.began, all: [] };
    rows.current.all.push(...t.rows);
    setTest({ ...t, rows: [...rows.current.all] });
    setTrouble('');
  }, []);
  const ask = useCallback(async () => {
    // A slow answer is waited for: asked twice, its rows would stand twice.
    const mine = rows.current;
    if (load === undefined || busy.current === mine) return;
    busy.current = mine;
    const { of, all } = mine;
    const from = (n: number) => api<BenchTestResponse | null>('GET', `/instruments/${load}/bench-test?from=${n}`);
    try {
      let t = await from(all.length);
      // Another one was begun meanwhile: from its first row.
      if (t && t.began !== of && all.length > 0) t = await from(0);
      // Another load was chosen, or another test begun, while it was asked.
      if (rows.current !== mine) return;
      if (!t) return setTest(lost);
      // A long one comes in parts; one that ended is shown when all of it is here.
      const parts = [...t.rows];
      for (let part = t; part.end !== null && part.rows.length > 0; parts.push(...part.rows)) {
        const more = await from(part.next);
        if (more?.began !== t.began) break;
        part = more;
      }
      if (rows.current === mine) take({ ...t, rows: parts });
    } catch (e) {
      // Nothing is lost by not hearing of a test that nobody runs here.
      if (rows.current.of !== '') setTrouble(errorMessage(e));
    } finally {
      if (busy.current === mine) busy.current = null;
    }
  }, [load, take]);
  const runs = test !== null && test.end === null;
  useLitScreen(runs);
  useEffect(() => {
    // Another load: what was seen of the one before says nothing of it.
    rows.current = { of: '', all: [] };
    setTest(null);
    void ask();
  }, [ask]);
  useEffect(() => {
    if (!runs) return;
    const timer = setInterval(() => void ask(), EVERY_MS);
    return () => clearInterval(timer);
  }, [ask, runs]);
  const begin: Bench['begin'] = async (body) => {
    try {
      const t = await api<BenchTestResponse>('POST', `/instruments/${load}/bench-test`, body);
      take(t);
      return isDrawn(t.rows, body);
    } catch (e) {
      setTrouble(errorMessage(e));
      return false;
    }
  };
  const stop = async () => {
    try {
      const { off } = await api<{ off: boolean }>('DELETE', `/instruments/${load}/bench-test`);
      setTrouble(off ? '' : 'It does not say that it is off: look at its display, and take the lead off if it still draws.');
    } catch (e) {
      setTrouble(`${errorMessage(e)} Take the lead off if it has to stop now.`);
    }
    await ask();
  };
  return found ? { loads, load: found, choose, test, trouble, begin, stop } : null;
}
