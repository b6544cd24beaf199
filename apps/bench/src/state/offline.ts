import { Workbox } from 'workbox-window';
import { canKeep } from './storage';

/**
 * Keeps the whole application on the device, so that it opens when the server is away.
 * @param onNew called when a newer version lies ready; its argument changes over to it and loads the page anew.
 */
export async function keepApplication(onNew: (change: () => void) => void): Promise<void> {
  if (!canKeep()) return;
  const worker = new Workbox('/sw.js');
  worker.addEventListener('waiting', () =>
    onNew(() => {
      worker.addEventListener('controlling', () => window.location.reload());
      worker.messageSkipWaiting();
    }),
  );
  await worker.register();
}
