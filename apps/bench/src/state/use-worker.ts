import { useEffect, useRef, useState } from 'react';

interface Trouble {
  readonly kind: 'trouble';
  readonly words: string;
}

/**
 * Asks a worker; the last question wins, and a worker goes with the screen that asked.
 * @param make a new worker; its file is named where it is called, so that the build finds it. @param broken what is said where it stops by itself.
 */
export function useWorker<Order, Answer>(make: () => Worker, broken: string) {
  const worker = useRef<Worker | null>(null);
  const [answer, setAnswer] = useState<Answer | Trouble | null>(null);
  const stop = () => {
    worker.current?.terminate();
    worker.current = null;
  };
  useEffect(() => stop, []);
  const ask = (order: Order) => {
    stop();
    const w = make();
    worker.current = w;
    w.onmessage = (e: MessageEvent<Answer>) => setAnswer(e.data);
    w.onerror = () => setAnswer({ kind: 'trouble', words: broken });
    w.postMessage(order);
  };
  return { answer, setAnswer, ask, stop };
}
