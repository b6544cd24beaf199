import { type Display, displayText, METRIC } from '@gavrel/core';
import { createContext, type ReactNode, useCallback, useContext, useMemo } from 'react';
import { useAppSelector } from '../state';

const DisplayContext = createContext<Display>(METRIC);

/** How the workshop reads figures and days. */
export const useDisplay = (): Display => useContext(DisplayContext);

/** Words with their figures and days as the workshop reads them, for what is no text on the screen: names of keys and drawings. */
export function useShownText(): (text: string) => string {
  const d = useDisplay();
  return useCallback((text) => displayText(text, d), [d]);
}

/** Everything below shows figures and days as the policy of the workshop says. */
export function DisplayProvider({ children }: { children: ReactNode }) {
  const lengths = useAppSelector((s) => s.logbook.policy.lengths);
  const temperatures = useAppSelector((s) => s.logbook.policy.temperatures);
  const decimalMark = useAppSelector((s) => s.logbook.policy.decimalMark);
  const days = useAppSelector((s) => s.logbook.policy.days);
  const display = useMemo(() => ({ lengths, temperatures, decimalMark, days }), [lengths, temperatures, decimalMark, days]);
  return <DisplayContext.Provider value={display}>{children}</DisplayContext.Provider>;
}

/** Everything below as the program words it: the examples among which a form is chosen. */
export const AsWorded = ({ children }: { children: ReactNode }) => (
  <DisplayContext.Provider value={METRIC}>{children}</DisplayContext.Provider>
);

/** Metric threads, and marks whose millimetres a rule prints: a rounded inch would be another size. */
export function MetricLengths({ children }: { children: ReactNode }) {
  const d = useDisplay();
  const metric = useMemo((): Display => ({ ...d, lengths: METRIC.lengths }), [d]);
  return <DisplayContext.Provider value={metric}>{children}</DisplayContext.Provider>;
}
