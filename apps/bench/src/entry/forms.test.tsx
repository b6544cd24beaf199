import 'fake-indexeddb/auto';
import { act, cleanup, fireEvent, render, screen } from '@testing-library/react';
import type { ReactElement } from 'react';
import { Provider } from 'react-redux';
import { draft, type Draft } from '../device/write';
import type { Store } from '../state';
import { ThemeProvider } from '../theme';
import { GaugeSheet } from './gauge-sheet';
import { PACK, storeWith } from './testing';
import { WordsSheet } from './words-sheet';

afterEach(cleanup);
Object.assign(globalThis, { structuredClone: (v: unknown) => JSON.parse(JSON.stringify(v)) as unknown });

/** A sheet on a pack of 11.4 V and 5000 mAh, its record read. */
async function open(sheet: (store: Store, onKeep: (d: Draft) => Promise<void>) => ReactElement, key: string) {
  const on = [`pack:${PACK}`] as const;
  const figures = { nominalVoltage: { digits: '11.4', unit: 'V' }, ratedCapacity: { digits: '5000', unit: 'mAh' } } as const;
  const store = await storeWith([
    draft('pack-added', on, { tag: 'T-1', use: 'removed' }),
    draft('label-read', on, { chemistry: 'li-ion', ...figures }),
  ]);
  const kept: Draft[] = [];
  render(
    <Provider store={store}>
      <ThemeProvider>{sheet(store, async (d) => void kept.push(d))}</ThemeProvider>
    </Provider>,
  );
  await act(async () => void (await new Promise((r) => setTimeout(r, 80))));
  const type = (id: string, text: string) => fireEvent.change(screen.getByTestId(id), { target: { value: text } });
  const keep = () => act(async () => void fireEvent.click(screen.getByTestId(key)));
  return { kept, type, keep, asked: () => screen.queryByRole('alert')?.textContent ?? null };
}
const facts = (store: Store) => store.getState().logbook.packs[PACK]!;
const words = () =>
  open(
    (s, onKeep) => <WordsSheet facts={facts(s)} label={facts(s).labels[0]!.body} onKeep={onKeep} onClose={() => undefined} />,
    'keep-words',
  );
const gauge = () =>
  open((s, onKeep) => <GaugeSheet facts={facts(s)} series={3} onKeep={onKeep} onClose={() => undefined} />, 'keep-gauge');

test.each([
  ['2026-02-30', 'no day of the calendar'],
  ['2999', 'lies in the future'],
  ['spring', 'no day of the calendar'],
])('a label made on %s is refused', async (day, why) => {
  const sheet = await words();
  sheet.type('made-on', day);
  await sheet.keep();
  expect(sheet.kept).toEqual([]);
  expect(document.body.textContent).toContain(why);
});

test('a designation of four cells on a label of three is asked about, and kept when it is meant', async () => {
  const sheet = await words();
  sheet.type('designation', '4ICP5/57/101');
  await sheet.keep();
  expect([sheet.asked(), sheet.kept.length]).toEqual([expect.stringContaining('4 in series: count the cells'), 0]);
  await sheet.keep();
  expect(sheet.kept.map((d) => d.kind)).toEqual(['label-read']);
});

test.each([
  [{ 'gauge-full': '0' }, null],
  [{ 'gauge-full': 'x' }, null],
  [{ 'gauge-cells': '3,7 3,7' }, null],
  [{ 'gauge-full': '45600' }, 'mWh'],
  [{ 'gauge-full': '4000', 'gauge-left': '4400' }, '4400 mAh left of 4000 mAh full'],
] as const)('a gauge of %j is not kept without a question', async (typed, question) => {
  const sheet = await gauge();
  for (const [id, text] of Object.entries(typed)) sheet.type(id, text);
  await sheet.keep();
  expect(sheet.kept).toEqual([]);
  if (question) expect(sheet.asked()).toContain(question);
  else expect(document.body.textContent).toMatch(/nothing real|Numbers only/);
});
