import { useEffect, useRef } from 'react';

/** What stands in front of the screen, the top one last. */
const over: { close: () => void }[] = [];
/** Steps back that we asked for ourselves and nobody shall hear of. */
let ours = 0;
let listening = false;

const depthHere = (): number => (history.state as { over?: number } | null)?.over ?? 0;

/** Before the router hears of it: the way back out of something in front is no way to another screen. */
function onBack(e: PopStateEvent): void {
  if (ours > 0) {
    ours -= 1;
    e.stopImmediatePropagation();
  } else if (over.length > 0) {
    e.stopImmediatePropagation();
    over[over.length - 1]!.close();
  }
}

/** Long enough for a screen that is opened together with the closing to stand in the history, ms. */
const SETTLE_MS = 100;

/** The browser's Back closes what stands in front, the top one first, and leaves the screen as it is. */
export function useBackCloses(onClose: () => void): void {
  const close = useRef(onClose);
  close.current = onClose;
  useEffect(() => {
    if (!listening) window.addEventListener('popstate', onBack, true);
    listening = true;
    const mine = { close: () => close.current() };
    over.push(mine);
    const depth = over.length;
    // The step of one that just closed serves the next.
    if (depthHere() < depth) history.pushState({ ...(history.state as object | null), over: depth }, '', location.href);
    return () => {
      const at = over.indexOf(mine);
      if (at >= 0) over.splice(at, 1);
      // Closed by a key: its step in the history goes too, unless another screen was opened behind it.
      setTimeout(() => {
        if (depthHere() !== depth || over.length >= depth) return;
        ours += 1;
        history.back();
      }, SETTLE_MS);
    };
  }, []);
}
