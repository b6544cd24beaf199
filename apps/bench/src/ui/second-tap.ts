import { useLayoutEffect } from 'react';

/** A second tap so soon and so near is the first one's: a gloved finger bounces, ms and px. */
const SOON_MS = 400;
const NEAR_PX = 30;

let last = { x: Number.NaN, y: Number.NaN };
let closedAt = Number.NEGATIVE_INFINITY;
let ignoredAt = Number.NEGATIVE_INFINITY;

function onPointer(e: PointerEvent): void {
  const second = e.timeStamp - closedAt < SOON_MS && Math.hypot(e.clientX - last.x, e.clientY - last.y) < NEAR_PX;
  last = { x: e.clientX, y: e.clientY };
  // Only the first press after it can be that.
  closedAt = Number.NEGATIVE_INFINITY;
  ignoredAt = second ? e.timeStamp : Number.NEGATIVE_INFINITY;
  stop(e);
}

/** What the browser makes of the same tap afterwards. */
const FOLLOWING = ['pointerup', 'mousedown', 'mouseup', 'touchstart', 'touchend', 'click'] as const;

function stop(e: Event): void {
  // Not for longer: what a keyboard presses later is no tap.
  if (e.timeStamp - ignoredAt > SOON_MS) return;
  e.stopImmediatePropagation();
  if (e.cancelable) e.preventDefault();
}

let listening = false;
function listen(): void {
  if (listening) return;
  listening = true;
  addEventListener('pointerdown', onPointer, true);
  for (const name of FOLLOWING) addEventListener(name, stop, { capture: true, passive: false });
}

/** Once this is gone, the second half of the double tap that closed it does nothing to what lay beneath: Undo, or a tab. */
export function useNoSecondTap(): void {
  // With the sheet itself, not some time after it: on a busy device the second half comes before that.
  useLayoutEffect(() => {
    listen();
    return () => void (closedAt = performance.now());
  }, []);
}
