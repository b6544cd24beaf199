import { useEffect, useState } from 'react';

/** False in the first frame of a component, true from the next on: what is costly and not looked at first lets the rest be seen before it. */
export function useAfterPaint(): boolean {
  const [painted, setPainted] = useState(false);
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout> | undefined;
    // A frame is asked for before it is painted: what follows it is after the paint. A page that is not shown paints none.
    const frame = requestAnimationFrame(() => (timer = setTimeout(() => setPainted(true))));
    const unseen = setTimeout(() => setPainted(true), 100);
    return () => {
      cancelAnimationFrame(frame);
      clearTimeout(timer);
      clearTimeout(unseen);
    };
  }, []);
  return painted;
}
