import { findingOf } from '@gavrel/core';
import { type Action, ACTIONS, FAULTS, foundBy, type Scenario } from '@gavrel/core/practice';
import { shownWords } from './shown';

const ALL = (Object.keys(ACTIONS) as Action[]).filter((a) => a !== 'leave');
/** Everything that shows of a pack with this fault. */
const shownOf = (faults: Scenario['faults']) => {
  const scenario: Scenario = { id: 'x', grade: 'signs', title: '', story: '', seed: 5, faults, set: { growth: 30 } };
  return foundBy({ scenario, actions: ALL, bet: null }).flatMap((w) => w.entries);
};

test.each(FAULTS)(
  '%s: what shows is told as it is met, never by the name it has on record, and no figure is left out',
  (fault) => {
    for (const e of shownOf([fault])) {
      const words = shownWords(e).join(' ');
      expect(words).not.toBe('');
      if (e.kind === 'finding-recorded') expect(words.toLowerCase()).not.toContain(findingOf(e.body.code)!.words);
      if (e.kind === 'reading-taken') expect(words).toContain(`${e.body.figure.digits} ${e.body.figure.unit}`);
    }
  },
);
