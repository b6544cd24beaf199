import { beginning, dropDrafts, keepBeginning, loadDrafts } from './drafts';
import { readDrafts, writeDrafts } from './store';

jest.mock('./store', () => ({
  readDrafts: jest.fn().mockResolvedValue({}),
  writeDrafts: jest.fn().mockResolvedValue(undefined),
  forgetDrafts: jest.fn().mockResolvedValue(undefined),
}));
const written = jest.mocked(writeDrafts);
const DAY = 86_400_000;

beforeEach(() => {
  jest.useFakeTimers();
  dropDrafts();
  jest.runAllTimers();
  written.mockClear();
});
afterEach(() => jest.useRealTimers());

test('words that somebody types without a pause are on the disk a second later, whatever comes then', () => {
  let text = '';
  for (let i = 0; i < 100; i++) {
    text += 'a';
    keepBeginning('form', text);
    jest.advanceTimersByTime(100);
    const last = written.mock.lastCall?.[0].form as { value: string } | undefined;
    // A crash now loses what was typed in the last second, and no more.
    if (i >= 11) expect(text.length - last!.value.length).toBeLessThanOrEqual(11);
  }
  // Hundreds of keys are not hundreds of writes.
  expect(written.mock.calls.length).toBeLessThanOrEqual(12);
  jest.advanceTimersByTime(300);
  expect(written.mock.lastCall![0]).toEqual({ form: { value: text, at: expect.any(Number) as number } });
});

test('what is done is forgotten at once, the oldest of too many goes, and what lay for a fortnight is not offered', async () => {
  keepBeginning('done', 'x');
  keepBeginning('done', undefined);
  expect(written.mock.lastCall![0]).toEqual({});
  for (let i = 0; i < 41; i++) keepBeginning(`form ${i}`, i);
  expect([beginning('form 0'), beginning('form 1'), beginning('form 40')]).toEqual([undefined, 1, 40]);
  jest.mocked(readDrafts).mockResolvedValueOnce({ old: { value: 1, at: 0 }, new: { value: 2, at: 10 * DAY } });
  await loadDrafts(15 * DAY);
  expect([beginning('old'), beginning('new')]).toEqual([undefined, 2]);
});
