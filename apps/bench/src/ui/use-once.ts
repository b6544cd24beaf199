import { useRef } from 'react';

/** An act that is not begun again while it runs, however often somebody presses Enter or its key meanwhile. */
export function useOnce(act: () => Promise<unknown>): () => Promise<unknown> {
  const running = useRef<Promise<unknown> | null>(null);
  return () => {
    running.current ??= act().finally(() => (running.current = null));
    return running.current;
  };
}
