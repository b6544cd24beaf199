import { DEFAULT_POLICY, foldPack, type LoggedEntry, LOOK_GROUPS, DAY_MS } from '@gavrel/core';
import { act, cleanup, render, screen } from '@testing-library/react';
import { Provider } from 'react-redux';
import { makeStore } from '.';
import { conditionOf, dayEnd, useZone } from './rulings';
import { minuteCame, minuteOf } from './view';

afterEach(cleanup);

// Reference: the daylight saving changes of the IANA time zone database (2026-10-25 in Lisbon, a 25 hour day).
test.each([
  ['UTC', '2026-11-26T15:00:00.000Z', '2026-11-27T00:00:00.000Z'],
  ['Europe/Lisbon', '2026-10-25T00:30:00.000Z', '2026-10-26T00:00:00.000Z'],
  ['Asia/Kathmandu', '2026-11-26T18:14:59.999Z', '2026-11-26T18:15:00.000Z'],
])('the day ends in %s', (zone, now, end) => expect(new Date(dayEnd(zone, Date.parse(now))).toISOString()).toBe(end));

const LOOKED = Date.parse('2026-11-26T15:00:00.000Z');
const said = (n: number, kind: string, body: object): LoggedEntry =>
  ({ id: `e${n}`, kind, body, subjects: ['pack:p'], by: 'a', at: new Date(LOOKED + n).toISOString(), seq: n }) as never;
const facts = foldPack('p', [
  said(-5, 'pack-added', { tag: 'P', use: 'spare' }),
  said(-4, 'looked', { groups: LOOK_GROUPS }),
  said(-3, 'gauge-read', { maxError: 1 }),
  said(-2, 'cycled', { went: 'as-usual' }),
])!;

function Shown() {
  return <p data-testid="shown">{conditionOf(facts, DEFAULT_POLICY, useZone()).condition}</p>;
}

test('when a look ends, a screen that nobody touches changes by itself', () => {
  jest.useFakeTimers({ now: LOOKED + DAY_MS });
  const store = makeStore();
  render(
    <Provider store={store}>
      <Shown />
    </Provider>,
  );
  const shown = () => screen.getByTestId('shown').textContent;
  const at = (ms: number) =>
    act(() => {
      jest.setSystemTime(ms);
      store.dispatch(minuteCame(minuteOf(ms)));
    });
  const end = LOOKED + DEFAULT_POLICY.lookDays * DAY_MS;
  expect(shown()).toBe('sound');
  at(end - 60_000);
  expect(shown()).toBe('sound');
  at(end + 60_000);
  expect(shown()).toBe('unproven');
  jest.useRealTimers();
});
