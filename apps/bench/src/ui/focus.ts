import { useEffect, useState } from 'react';

/** Gives the focus back to what had it before, once this is gone: taken at the first drawing, before a field in it takes the focus. */
export function useFocusReturns(): void {
  const [before] = useState(() => document.activeElement as HTMLElement | null);
  useEffect(
    () => () => {
      // What came instead may have taken it already; what is gone cannot have it.
      setTimeout(() => {
        const now = document.activeElement;
        if (before?.isConnected && (now === null || now === document.body)) before.focus();
      }, 0);
    },
    [before],
  );
}
