import 'fake-indexeddb/auto';
import { act, cleanup, fireEvent, render, screen } from '@testing-library/react';
import { Provider } from 'react-redux';
import type { ReadingBody } from '@gavrel/core';
import { draft, type Draft } from '../device/write';
import { makeStore } from '../state';
import { ThemeProvider } from '../theme';
import { DisplayProvider } from '../ui/display';
import { Keypad } from './keypad';
import type { NumberTask } from './number-task';
import { type FigureKey, oneFigure } from './label-draft';
import { readingTask } from './tasks';
import { PACK, storeWith } from './testing';

afterEach(cleanup);
Object.assign(globalThis, { structuredClone: (v: unknown) => JSON.parse(JSON.stringify(v)) as unknown });

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

test('in a workshop of inches the keypad asks for them, and last time is told in them', async () => {
  const on = [`pack:${PACK}`] as const;
  const subject = 'policy:11111111-1111-4111-8111-111111111111' as const;
  const mm = { quantity: 'thickness', point: 'centre', figure: { digits: '6.31', unit: 'mm' } } as const;
  const store = await storeWith([
    draft('pack-added', on, { tag: 'T-1', use: 'removed' }),
    draft('reading-taken', on, mm),
    draft('policy-set', [subject], { lengths: 'inch', decimalMark: 'comma' }),
  ]);
  const kept: Draft[] = [];
  const facts = store.getState().logbook.packs[PACK]!;
  render(
    <Provider store={store}>
      <ThemeProvider>
        <DisplayProvider>
          <Keypad
            packId={PACK}
            first={readingTask(facts, 3, 'thickness', ['centre', 'front-left'])}
            onKeep={async (d) => void kept.push(d)}
            onClose={() => undefined}
          />
        </DisplayProvider>
      </ThemeProvider>
    </Provider>,
  );
  const press = (...keys: string[]) => act(async () => keys.forEach((k) => fireEvent.click(screen.getByTestId(k))));
  await press('key-last');
  expect(screen.getByTestId('typed').textContent).toBe('0,2484');
  await press('keep', 'key-6', 'key-,', 'key-3', 'key-unit');
  // The same key shows the unit it stands at.
  expect(screen.getByTestId('key-unit').textContent).toBe('mm');
  await press('keep', 'keep');
  expect(kept.map((d) => (d.body as ReadingBody).figure)).toEqual([
    { digits: '0.2484', unit: 'inch' },
    { digits: '6.3', unit: 'mm' },
  ]);
});

describe('a number that contradicts what stands', () => {
  const volts = (digits: string) => ({ digits, unit: 'V' as const });
  const facts = () => store.getState().logbook.packs[PACK]!;
  let store: ReturnType<typeof makeStore>;
  /** The keypad of a task on a pack of 11.4 V and 5000 mAh, its record read. */
  async function ask(task: () => NumberTask) {
    const on = [`pack:${PACK}`] as const;
    store = await storeWith([
      draft('pack-added', on, { tag: 'T-1', use: 'removed' }),
      draft('label-read', on, {
        chemistry: 'li-ion',
        nominalVoltage: volts('11.4'),
        ratedCapacity: { digits: '5000', unit: 'mAh' },
      }),
    ]);
    const kept: Draft[] = [];
    render(
      <Provider store={store}>
        <ThemeProvider>
          <Keypad packId={PACK} first={task()} onKeep={async (d) => void kept.push(d)} onClose={() => undefined} />
        </ThemeProvider>
      </Provider>,
    );
    await act(async () => void (await new Promise((r) => setTimeout(r, 80))));
    const press = (digits: string) => [...digits].forEach((k) => fireEvent.click(screen.getByTestId(`key-${k}`)));
    const keep = () => act(async () => void fireEvent.click(screen.getByTestId('keep')));
    return { kept, press, keep, asked: () => screen.queryByRole('alert')?.textContent ?? null };
  }
  const label = (key: FigureKey) => () => oneFigure(facts(), facts().labels[0]!.body, key);
  const pack = (key: 'volts' | 'mass') => () => readingTask(facts(), 3, key);

  test.each<[string, () => NumberTask, string, RegExp]>([
    [
      'watt-hours that volts times capacity do not make',
      label('ratedEnergy'),
      '75',
      /75 Wh is printed, but 11\.4 V times 5000 mAh is 57\.0 Wh/,
    ],
    [
      'a charge limit of another count of cells',
      label('limitedChargeVoltage'),
      '17,4',
      /3 in series.*4 in series: count the cells/,
    ],
    ['pack volts that no three cells have', pack('volts'), '17,9', /17\.9 V/],
    ['grams taken for kilograms', pack('mass'), '9', /Wh a kg.*weigh it again/],
  ])('%s: asked once, kept when it is meant', async (_what, task, digits, sentence) => {
    const pad = await ask(task);
    pad.press(digits);
    await pad.keep();
    expect(pad.asked()).toMatch(sentence);
    expect(pad.kept).toEqual([]);
    await pad.keep();
    expect(pad.kept).toHaveLength(1);
  });
  test.each<[string, () => NumberTask, string]>([
    ['watt-hours that agree', label('ratedEnergy'), '57'],
    ['volts of three cells', pack('volts'), '11,52'],
  ])('%s are not asked about', async (_what, task, digits) => {
    const pad = await ask(task);
    pad.press(digits);
    await pad.keep();
    expect([pad.asked(), pad.kept.length]).toEqual([null, 1]);
  });
  test('nothing real is 0', async () => {
    const pad = await ask(label('ratedEnergy'));
    pad.press('0');
    await pad.keep();
    expect(pad.kept).toEqual([]);
    expect(document.body.textContent).toContain('Nothing real is 0');
  });
  test('cells of one run carry its id and how many there should be, the next run another', () => {
    const bodies = (t: NumberTask): ReadingBody[] => {
      const next = t.next?.();
      return [t.draft({ digits: '3.7', unit: 'V' }, {}).body as ReadingBody, ...(next ? bodies(next) : [])];
    };
    const run = () => bodies(readingTask(facts(), 3, 'cell', ['1', '2', '3']));
    const [one, two] = [run(), run()];
    expect(one.map((b) => [b.point, b.set!.of])).toEqual([
      ['1', 3],
      ['2', 3],
      ['3', 3],
    ]);
    expect(new Set([...one, ...two].map((b) => b.set!.id)).size).toBe(2);
  });
});
