import type { Page } from 'puppeteer-core';
import { addJobs, inDemo, JOBS_OF_A_FULL_DEVICE, onPhone, SLOW, untilOnDevice } from './bench-screen';
import { percentile } from './bench-parts';
import { PHONE, tap } from './browser';
import { build } from './build';

/** The screen's own beat, ms, and how far it is scrolled at which speed: a thumb that flicks through a stock. */
const BEAT = 1000 / 60;
const FAR = { pixels: 12_000, perSecond: 2_000 };

/** Times between frames while the middle of the screen is scrolled, sorted, ms. */
async function scrolled(page: Page): Promise<number[]> {
  await page.evaluate(`(() => {
    window.beats = []; window.beating = true;
    let last = performance.now();
    const beat = (now) => { window.beats.push(now - last); last = now; if (window.beating) requestAnimationFrame(beat); };
    requestAnimationFrame((now) => { last = now; requestAnimationFrame(beat); });
  })()`);
  const wire = await page.createCDPSession();
  await wire.send('Input.synthesizeScrollGesture', {
    x: PHONE.width / 2,
    y: PHONE.height * 0.6,
    yDistance: -FAR.pixels,
    speed: FAR.perSecond,
    preventFling: true,
    // A headless browser takes no touch for a scroll.
    gestureSourceType: 'mouse',
  });
  await wire.detach();
  const beats = (await page.evaluate('(() => { window.beating = false; return window.beats; })()')) as number[];
  return beats.sort((a, b) => a - b);
}

const inTime = (beats: readonly number[]): number => (100 * beats.filter((b) => b < BEAT * 1.5).length) / beats.length;

/** Frames while the packs of a full device are scrolled on a slow phone, against bare lines of text of the same number in the same browser. */
export const scrolling = (say: (line: string) => void): Promise<void> =>
  inDemo('scrolling', async (urls, owner) => {
    await addJobs(owner, urls, JOBS_OF_A_FULL_DEVICE);
    await onPhone(urls, await build(say), async (page) => {
      await untilOnDevice(page, 7 * JOBS_OF_A_FULL_DEVICE);
      await tap(page, 'tab-packs');
      await page.waitForSelector('[data-testid="search"]', { visible: true });
      await page.emulateCPUThrottling(SLOW.cpu);
      const list = await scrolled(page);
      await page.evaluate(`document.body.innerHTML =
        '<div style="height:100vh;overflow:auto">' + Array.from({ length: ${JOBS_OF_A_FULL_DEVICE} }, (_, i) => '<p>line ' + i + '</p>').join('') + '</div>'`);
      const bare = await scrolled(page);
      const at = (beats: readonly number[]) => percentile(beats, 0.99);
      say(
        `scroll:  ${JOBS_OF_A_FULL_DEVICE} packs at a quarter of the speed: ${list.length} frames, ${inTime(list).toFixed(0)} % of them in time, p99 ${at(list).toFixed(0)} ms; bare lines ${bare.length}, ${inTime(bare).toFixed(0)} %, p99 ${at(bare).toFixed(0)} ms, ratio ${(at(list) / at(bare)).toFixed(2)}`,
      );
    });
  });
