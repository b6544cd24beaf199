import 'fake-indexeddb/auto';
import { act, cleanup, renderHook } from '@testing-library/react';
import type { PropsWithChildren } from 'react';
import { Provider } from 'react-redux';
import { dropDrafts } from '../device/drafts';
import { makeStore } from '../state';
import { useWords } from './use-words';

beforeEach(() => dropDrafts());
afterEach(cleanup);

/** A form of two fields; what is kept stands on record once the writing went well. */
function form(writes: (f: string, text: string) => Promise<unknown>) {
  const store = makeStore();
  const wrapper = ({ children }: PropsWithChildren) => <Provider store={store}>{children}</Provider>;
  const record = { supplier: '', lot: '' };
  const keep = async (f: 'supplier' | 'lot', text: string) => {
    await writes(f, text);
    record[f] = text;
  };
  const mount = () => renderHook(() => useWords('form', record, 20, keep), { wrapper });
  let hook = mount();
  return {
    field: (f: 'supplier' | 'lot') => hook.result.current(f),
    do: (what: () => unknown) => act(async () => void (await what())),
    reopen: () => {
      hook.unmount();
      hook = mount();
    },
  };
}

test('left once is kept once, however often it is left; nothing new is not kept', async () => {
  const writes = jest.fn(() => Promise.resolve());
  const e = form(writes);
  await e.do(() => e.field('supplier').onChange(' Mereline Parts '));
  await e.do(() => {
    e.field('supplier').onLeave();
    e.field('supplier').onLeave();
  });
  await e.do(() => e.field('supplier').onLeave());
  await e.do(() => e.field('lot').onLeave());
  expect(writes.mock.calls).toEqual([['supplier', 'Mereline Parts']]);
  expect(e.field('supplier').value).toBe('Mereline Parts');
});

test('a field that is emptied shows again what stands on record', async () => {
  const writes = jest.fn(() => Promise.resolve());
  const e = form(writes);
  await e.do(() => e.field('lot').onChange('L-0815'));
  await e.do(() => e.field('lot').onLeave());
  await e.do(() => e.field('lot').onChange(' '));
  expect(e.field('lot').value).toBe(' ');
  await e.do(() => e.field('lot').onLeave());
  expect(e.field('lot').value).toBe('L-0815');
  expect(writes).toHaveBeenCalledTimes(1);
});

test('what is not kept stays as it was typed, also when the form is opened again', async () => {
  const e = form(() => Promise.reject(new Error('no room')));
  await e.do(() => e.field('lot').onChange('L-0815'));
  await e.do(() => e.field('lot').onLeave());
  e.reopen();
  expect(e.field('lot').value).toBe('L-0815');
  await e.do(() => e.field('lot').onChange('x'.repeat(21)));
  await e.do(() => e.field('lot').onLeave());
  expect(e.field('lot').value).toHaveLength(21);
});

test('what is typed on while it is being written is not lost', async () => {
  let finish = (): void => undefined;
  const e = form(() => new Promise<void>((done) => (finish = done)));
  await e.do(() => e.field('lot').onChange('A'));
  await e.do(() => e.field('lot').onLeave());
  await e.do(() => e.field('lot').onChange('AB'));
  await e.do(() => finish());
  expect(e.field('lot').value).toBe('AB');
});
