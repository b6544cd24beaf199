import 'fake-indexeddb/auto';
import { act, cleanup, fireEvent, render, screen } from '@testing-library/react';
import { Provider } from 'react-redux';
import { draft } from '../../log/write';
import { makeStore } from '../../store';
import { ThemeProvider } from '../../theme';
import { Keypad, type NumberTask } from './keypad';

afterEach(cleanup);
Object.assign(globalThis, { structuredClone: (v: unknown) => JSON.parse(JSON.stringify(v)) as unknown });

const PACK = 'b0000000-0000-4000-8000-000000000001';
const mm = (title: string, next: NumberTask | null): NumberTask => ({
  title,
  units: ['mm'],
  unit: 'mm',
  series: null,
  draft: (f) => draft('reading-taken', [`pack:${PACK}`], { quantity: 'thickness', figure: f }),
  next: () => next,
});

/** A keypad whose writes end when the test says so. */
function open() {
  const kept: string[] = [];
  const ends: { keep: () => void; fail: () => void }[] = [];
  const onKeep = (_: unknown, words: string) =>
    new Promise<void>((resolve, reject) => {
      kept.push(words);
      ends.push({ keep: resolve, fail: () => reject(new Error('the storage is full')) });
    });
  const onClose = jest.fn();
  render(
    <Provider store={makeStore()}>
      <ThemeProvider>
        <Keypad packId={PACK} first={mm('length', mm('width', null))} onKeep={onKeep} onClose={onClose} />
      </ThemeProvider>
    </Provider>,
  );
  const press = (...keys: string[]) => keys.forEach((k) => fireEvent.click(screen.getByTestId(k)));
  const end = (i: number, how: 'keep' | 'fail') =>
    act(async () => {
      ends[i]![how]();
      await Promise.resolve();
    });
  return { kept, press, end, onClose };
}

test('what is typed while a number is written belongs to the next one, and the last is kept once', async () => {
  const pad = open();
  pad.press('key-2', 'key-4', 'key-8', 'keep', 'key-9', 'key-1');
  await pad.end(0, 'keep');
  expect(screen.getByTestId('typed').textContent).toBe('91');
  pad.press('keep', 'keep');
  expect(pad.kept).toEqual(['length 248 mm', 'width 91 mm']);
  expect(pad.onClose).not.toHaveBeenCalled();
  await pad.end(1, 'keep');
  expect(pad.onClose).toHaveBeenCalledTimes(1);
});

test('a number the device could not keep stands on the display again', async () => {
  const pad = open();
  pad.press('key-2', 'key-4', 'keep');
  await pad.end(0, 'fail');
  expect(screen.getByTestId('typed').textContent).toBe('24');
  expect(pad.onClose).not.toHaveBeenCalled();
  pad.press('keep');
  expect(pad.kept).toEqual(['length 24 mm', 'length 24 mm']);
});
