import 'fake-indexeddb/auto';
import { DEFAULT_POLICY, rule } from '@gavrel/core';
import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import { Provider } from 'react-redux';
import { draft, type Draft } from '../device/write';
import { ThemeProvider } from '../theme';
import { RuntimeCard } from './runtime-card';
import { PACK, storeWith } from './testing';

afterEach(cleanup);
Object.assign(globalThis, { structuredClone: (v: unknown) => JSON.parse(JSON.stringify(v)) as unknown });

/** The card of a pack of 50 Wh whose gauge says 85 %. */
async function card(...more: Draft[]) {
  const on = [`pack:${PACK}`] as const;
  const store = await storeWith([
    draft('pack-added', on, { tag: 'T-1', use: 'removed' }),
    draft('label-read', on, {
      chemistry: 'li-ion',
      nominalVoltage: { digits: '11.4', unit: 'V' },
      ratedCapacity: { digits: '4386', unit: 'mAh' },
      ratedEnergy: { digits: '50', unit: 'Wh' },
    }),
    draft('gauge-read', on, {
      designCapacity: { digits: '4386', unit: 'mAh' },
      fullChargeCapacity: { digits: '3728', unit: 'mAh' },
    }),
    ...more,
  ]);
  const now = new Date();
  const ruling = rule(store.getState().logbook.packs[PACK]!, DEFAULT_POLICY, now, now.toISOString().slice(0, 10));
  render(
    <Provider store={store}>
      <ThemeProvider>
        <RuntimeCard ruling={ruling} />
      </ThemeProvider>
    </Provider>,
  );
}
const text = () => document.body.textContent ?? '';

test('what it lasted is told as a draw, and what no notebook draws speaks against the pack', async () => {
  await card();
  fireEvent.click(screen.getByTestId('open-lasted'));
  const type = (value: string) => fireEvent.change(screen.getByTestId('lasted'), { target: { value } });
  type('soon');
  expect(text()).toMatch(/Write it as 2:40/);
  type('5:00');
  // 50 Wh × 0.85 × 0.95 over 5 h are 8.1 W.
  const [lo, hi] = /([\d.]+) to ([\d.]+) W/.exec(screen.getByTestId('lasted-watts').textContent!)!.slice(1).map(Number);
  expect(lo! < 8.1 && 8.1 < hi!).toBe(true);
  type('15');
  expect(text()).toMatch(/the pack gives less than its gauge says/);
});

test('of a damaged pack nothing is told: nobody is to use what it still gives', async () => {
  await card(draft('finding-recorded', [`pack:${PACK}`], { code: 'swollen' }));
  expect(screen.queryByTestId('card-runtime')).toBeNull();
});
