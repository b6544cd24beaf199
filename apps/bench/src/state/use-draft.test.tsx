import 'fake-indexeddb/auto';
import { act, cleanup, renderHook } from '@testing-library/react';
import type { PropsWithChildren } from 'react';
import { Provider } from 'react-redux';
import { DAY_MS } from '@gavrel/core';
import { dropDrafts, loadDrafts } from '../device/drafts';
import { readDrafts } from '../device/store';
import { makeStore } from './index';
import { signedIn } from './session';
import { useDraft } from './use-draft';

const as = (n: number) => {
  const store = makeStore();
  const id = `a0000000-0000-4000-8000-00000000000${n}`;
  const person = { id, name: `P${n}`, role: 'technician' as const, competent: false };
  store.dispatch(signedIn({ person, workshop: { id: 'w', name: 'W', zone: 'UTC' }, people: [] }));
  return ({ children }: PropsWithChildren) => <Provider store={store}>{children}</Provider>;
};
const form = (person: number, name = 'map') => renderHook(() => useDraft(name, ''), { wrapper: as(person) });
const settled = () => new Promise((r) => setTimeout(r, 400));

beforeEach(() => dropDrafts());
afterEach(cleanup);

test('what was begun is there again for whoever began it, also after the page was lost, until it is done', async () => {
  const first = form(1);
  act(() => first.result.current[1]('ten screws'));
  first.unmount();
  expect(form(1).result.current[0]).toBe('ten screws');
  expect([form(2).result.current[0], form(1, 'another').result.current[0]]).toEqual(['', '']);
  await settled();
  // A new page knows only what the device kept.
  await loadDrafts();
  const again = form(1);
  expect(again.result.current[0]).toBe('ten screws');
  act(() => again.result.current[2]());
  await settled();
  await loadDrafts();
  expect(form(1).result.current[0]).toBe('');
});

test('what is empty again is no draft, and what nobody came back to for two weeks is forgotten', async () => {
  const f = form(1);
  act(() => f.result.current[1]('x'));
  act(() => f.result.current[1](''));
  await settled();
  expect(await readDrafts()).toEqual({});
  act(() => f.result.current[1]('y'));
  await settled();
  await loadDrafts(Date.now() + 15 * DAY_MS);
  expect(form(1).result.current[0]).toBe('');
});
