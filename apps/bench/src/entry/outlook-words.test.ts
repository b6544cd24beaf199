import { fadeOutlook } from '@gavrel/core/care';
import { outlookWords } from './outlook-words';

test('an outlook says how sure it is and that it is no word on danger; without enough it says what is missing', () => {
  const at = (years: number) => ({ years, cycles: 160 * years, health: 1 - 0.045 * Math.sqrt(years) - 1.2e-4 * 160 * years });
  const told = outlookWords(fadeOutlook([0.5, 1, 1.5, 2, 3].map(at)));
  expect(told).toMatch(
    /^Used as in its last year: \d+ % to \d+ % of its design in 2\.5 years.*Eight of ten.*nothing about danger\.$/,
  );
  expect(outlookWords(fadeOutlook([0.5, 1].map(at)))).toBe(
    'How it goes on cannot be told: 4 gauge readings with cycles and date are needed.',
  );
});
