import { useEffect, useRef } from 'react';

/** The part of the browser's Navigation API that is used; not every browser has it. */
interface Traverse extends Event {
  readonly navigationType: string;
}

const open: { readonly close: () => void }[] = [];

/** Back closes the top sheet instead of leaving the screen. */
function onNavigate(e: Event): void {
  const top = open[open.length - 1];
  if (!top || (e as Traverse).navigationType !== 'traverse' || !e.cancelable) return;
  e.preventDefault();
  top.close();
}

/**
 * While a sheet stands, the browser's Back closes it and leaves the history as it is. Where the browser lets nobody stop it, Back leaves
 * the screen as ever; what was begun is kept as a draft.
 */
export function useBackCloses(onClose: () => void): void {
  const latest = useRef(onClose);
  latest.current = onClose;
  useEffect(() => {
    const navigation = (window as { navigation?: EventTarget }).navigation;
    const me = { close: () => latest.current() };
    open.push(me);
    if (open.length === 1) navigation?.addEventListener('navigate', onNavigate);
    return () => {
      open.splice(open.indexOf(me), 1);
      if (open.length === 0) navigation?.removeEventListener('navigate', onNavigate);
    };
  }, []);
}
