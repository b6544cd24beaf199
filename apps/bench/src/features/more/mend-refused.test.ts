import { checkEntry } from '@gavrel/contract/schemas';
import type { Kind } from '@gavrel/core';
import { draft, type Draft, makeEntry, wire } from '../../device/write';
import { mended, wrongValues } from './mend-refused';

const U = 'b0000000-0000-4000-8000-000000000001';
const author = { workshop: U, person: U, device: 'd' };
const made = (d: Draft) => makeEntry(author, d, Date.now(), null);
const errorsOf = (d: Draft) => {
  const checked = checkEntry(wire(made(d)));
  return checked.ok ? [] : checked.errors;
};

describe('what the server refused is typed anew in its own words', () => {
  const story = 'x'.repeat(4001);
  test.each<[string, Draft, string, string]>([
    ['a text that is too long', draft('job-opened', [`job:${U}`], { complaint: story }), 'shorter', 'what is wrong is longer'],
    ['a number below 0', draft('topped-up', [`pack:${U}`], { to: -3 }), '50,5', 'to must be'],
    [
      'a figure deep inside',
      draft('reading-taken', [`pack:${U}`], { quantity: 'mass', figure: { digits: '1,2', unit: 'kg' } } as never),
      '1.2',
      'digits',
    ],
  ])('%s', (_what, d, typed, why) => {
    const errors = errorsOf(d);
    const wrong = wrongValues(made(d), errors);
    expect(wrong).toHaveLength(1);
    expect(wrong[0]!.why).toContain(why);
    expect(errorsOf(mended(made(d), wrong, [typed]))).toEqual([]);
    // Nothing typed changes nothing.
    expect(mended(made(d), wrong, []).body).toEqual(d.body);
  });
  test('what is no text and no number is written again where it was written', () => {
    const d = draft('looked' as Kind, [`pack:${U}`], { groups: [] } as never);
    expect(errorsOf(d)).not.toEqual([]);
    expect(wrongValues(made(d), errorsOf(d))).toEqual([]);
  });
});
