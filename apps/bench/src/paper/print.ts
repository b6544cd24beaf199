import { saveFile } from '../device/picture';
import type { Order } from './paper.worker';

const face = async (name: string) => {
  const r = await fetch(`/fonts/${name}.ttf`);
  if (!r.ok) throw new Error('the fonts of the paper are not here: open the application once with the server');
  return new Uint8Array(await r.arrayBuffer());
};

/** Makes a paper in a worker and gives it to the user as a PDF. @throws Error with what to do. */
export async function print(name: string, order: Order): Promise<void> {
  const [words, bold] = await Promise.all([face('Next_400Regular'), face('Next_700Bold')]);
  const worker = new Worker(new URL('./paper.worker', import.meta.url));
  try {
    const bytes = await new Promise<Uint8Array<ArrayBuffer>>((done, fail) => {
      worker.onmessage = (e: MessageEvent<{ bytes?: Uint8Array<ArrayBuffer>; error?: string }>) =>
        e.data.bytes ? done(e.data.bytes) : fail(new Error(e.data.error ?? 'no paper came'));
      worker.onerror = () => fail(new Error('the paper could not be made: reload the application'));
      worker.postMessage({ order, faces: { words, bold } });
    });
    saveFile(`${name}.pdf`, new Blob([bytes], { type: 'application/pdf' }));
  } finally {
    worker.terminate();
  }
}
