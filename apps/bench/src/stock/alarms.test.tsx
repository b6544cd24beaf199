import 'fake-indexeddb/auto';
import type { ContainerLookBody, Subject } from '@gavrel/core';
import { cleanup, render, screen } from '@testing-library/react';
import { Provider } from 'react-redux';
import { draft, type Draft } from '../device/write';
import { ThemeProvider } from '../theme';
import { conditionOf } from '../state/rulings';
import { PACK, storeWith } from '../entry/testing';
import { useYard } from './use-yard';
import { troubleOf } from './place-words';
import { AlarmBand } from './alarms';

jest.mock('expo-router', () => ({ router: { push: jest.fn() } }));
afterEach(cleanup);
Object.assign(globalThis, { structuredClone: (v: unknown) => JSON.parse(JSON.stringify(v)) as unknown });

const BOX: Subject = 'place:d0000000-0000-4000-8000-000000000001';
const INCIDENT: Subject = 'incident:e0000000-0000-4000-8000-000000000001';
const ON = `pack:${PACK}` as const;
const degrees = (inside: string, room: string): ContainerLookBody => ({
  temperature: { digits: inside, unit: '°C' },
  room: { digits: room, unit: '°C' },
});
const look = (body: ContainerLookBody) => [draft('container-looked', [BOX, ON], body)];

/** The line of every place, as the Yard and the round show it. */
function Places() {
  return <p data-testid="places">{useYard().places.flatMap(troubleOf).join('; ')}</p>;
}

test.each<[string, Draft[], RegExp]>([
  ['smoke', look({ smoke: 'smoke' }), /smoke/],
  ['hiss', look({ sound: 'hiss' }), /hiss/],
  ['smell', look({ smell: 'smell' }), /smell/],
  ['growth', look({ seen: 'growing' }), /grows/],
  ['heat', look(degrees('33.0', '18.5')), /14\.5 K over its room/],
  ['a rise', [...look(degrees('20.0', '20.0')), ...look(degrees('26.0', '20.0'))], /6\.0 K more/],
  ['an incident', [draft('incident-opened', [INCIDENT, BOX, ON], { what: 'smoke' })], /Smoke in Box A/],
])('%s stands over every screen, on its place and on the pack that lies there', async (what, said, words) => {
  const store = await storeWith([
    draft('pack-added', [ON], { tag: 'T-1', use: 'removed' }),
    draft('place-added', [BOX], { name: 'Box A', kind: 'quarantine', holds: ['damaged'] }),
    draft('moved', [ON, BOX], {}),
    ...said,
  ]);
  render(
    <Provider store={store}>
      <ThemeProvider>
        <AlarmBand />
        <Places />
      </ThemeProvider>
    </Provider>,
  );
  expect(screen.getByTestId('alarm-band').textContent).toMatch(words);
  if (what !== 'an incident') expect(screen.getByTestId('places').textContent).toMatch(new RegExp(`ALARM.*${words.source}`));
  const { packs, policy } = store.getState().logbook;
  expect(conditionOf(packs[PACK]!, policy).condition).toMatch(/damaged|critical/);
});
