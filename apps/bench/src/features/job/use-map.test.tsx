import 'fake-indexeddb/auto';
import { act, cleanup, renderHook } from '@testing-library/react';
import fc from 'fast-check';
import type { PropsWithChildren } from 'react';
import { Provider } from 'react-redux';
import { dropDrafts } from '../../device/drafts';
import { makeStore } from '../../state';
import { signedIn } from '../../state/session';
import { useMap } from './use-map';

const person = { id: 'a0000000-0000-4000-8000-000000000001', name: 'Anna', role: 'technician' as const, competent: false };
function editor(job = 'j') {
  const store = makeStore();
  store.dispatch(signedIn({ person, workshop: { id: 'w', name: 'W', zone: 'UTC' }, people: [] }));
  const wrapper = ({ children }: PropsWithChildren) => <Provider store={store}>{children}</Provider>;
  const { result } = renderHook(() => useMap(job, { habit: 'map', screws: [] }), { wrapper });
  return {
    map: () => result.current,
    screws: () => result.current.body.screws,
    do: (what: (m: ReturnType<typeof useMap>) => void) => act(() => what(result.current)),
  };
}

beforeEach(() => dropDrafts());
afterEach(cleanup);

test('a tap draws with the brush, a tap on a screw picks it, and a choice then changes that one alone', () => {
  const e = editor();
  e.do((m) => m.tap(0.2, 0.2));
  e.do((m) => m.set({ length: { digits: '6', unit: 'mm' } }));
  e.do((m) => m.tap(0.8, 0.2));
  e.do((m) => m.tap(0.2, 0.2));
  expect(e.map().picked).toBe(1);
  e.do((m) => m.set({ state: 'stripped' }));
  expect(e.screws().map((s) => [s.id, s.length?.digits, s.state])).toEqual([
    [1, '4', 'stripped'],
    [2, '6', undefined],
  ]);
  e.do((m) => m.set({ state: undefined }));
  expect(e.screws()[0]).not.toHaveProperty('state');
});

test('undo takes the last act back, also the picked screw, and the choices show the brush again', () => {
  const e = editor();
  e.do((m) => m.tap(0.2, 0.2));
  e.do((m) => m.tap(0.2, 0.2));
  e.do((m) => m.undo());
  expect([e.screws(), e.map().picked, e.map().now.thread]).toEqual([[], null, 'M2']);
  e.do((m) => m.undo());
  expect(e.screws()).toEqual([]);
});

test('the screws are there again when the page was left in the middle, and another job has its own', () => {
  const e = editor('one');
  e.do((m) => m.tap(0.5, 0.5));
  expect(editor('one').screws()).toHaveLength(1);
  expect(editor('two').screws()).toEqual([]);
});

test('whatever a careless hand does, no two screws share a number and none lies beside the base', () => {
  const share = fc.double({ min: 0, max: 1, noNaN: true });
  const acts = fc.array(
    fc.oneof(
      fc.tuple(fc.constant('tap' as const), share, share),
      fc.constantFrom(...(['undo', 'mirror', 'repeat', 'makeSame', 'takeAway'] as const)).map((a) => [a] as const),
      fc.constant(['set'] as const),
    ),
    { maxLength: 25 },
  );
  fc.assert(
    fc.property(acts, (all) => {
      dropDrafts();
      const e = editor();
      for (const a of all)
        e.do((m) => {
          if (a[0] === 'tap') m.tap(a[1], a[2]);
          else if (a[0] === 'set') m.set({ captive: true });
          else if (a[0] !== 'takeAway' || m.picked !== null) m[a[0]]();
        });
      const ids = e.screws().map((s) => s.id);
      expect(new Set(ids).size).toBe(ids.length);
      expect(e.screws().filter((s) => s.x < 0 || s.x > 1 || s.y < 0 || s.y > 1)).toEqual([]);
      expect(e.map().picked === null || ids.includes(e.map().picked!)).toBe(true);
      cleanup();
    }),
    { numRuns: 100 },
  );
});
