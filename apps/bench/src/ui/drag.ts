import { type RefObject, useEffect, useRef } from 'react';
import type { View } from 'react-native';

/** The element that a view is drawn as. */
const elementOf = (ref: RefObject<View | null>): HTMLElement | null => ref.current as unknown as HTMLElement | null;

/** Listens on a view for as long as it is there. */
function useListeners(
  ref: RefObject<View | null>,
  on: boolean,
  listeners: Readonly<Record<string, (e: DragEvent) => void>>,
): void {
  const latest = useRef(listeners);
  latest.current = listeners;
  useEffect(() => {
    const e = elementOf(ref);
    if (!on || !e) return;
    const bound = Object.keys(latest.current).map((kind) => {
      const listener = (event: Event) => latest.current[kind]?.(event as DragEvent);
      e.addEventListener(kind, listener);
      return () => e.removeEventListener(kind, listener);
    });
    return () => bound.forEach((stop) => stop());
  }, [ref, on]);
}

/** A view that a pointer can drag; whatever it does is also done by keys elsewhere. @param text what other programs are given. */
export function useDragged(text: string, begin: () => void, end: () => void): RefObject<View | null> {
  const ref = useRef<View>(null);
  useEffect(() => {
    elementOf(ref)?.setAttribute('draggable', 'true');
  }, []);
  useListeners(ref, true, {
    dragstart: (e) => {
      e.dataTransfer?.setData('text/plain', text);
      begin();
    },
    dragend: end,
  });
  return ref;
}

/** A view that what is dragged can be dropped on. @param on does it take what is dragged now? */
export function useDropped(on: boolean, over: (here: boolean) => void, drop: () => void): RefObject<View | null> {
  const ref = useRef<View>(null);
  useListeners(ref, on, {
    dragenter: () => over(true),
    // Only what is prevented here may be dropped.
    dragover: (e) => e.preventDefault(),
    dragleave: (e) => {
      if (!elementOf(ref)?.contains(e.relatedTarget as Node | null)) over(false);
    },
    drop: (e) => {
      e.preventDefault();
      over(false);
      drop();
    },
  });
  return ref;
}
