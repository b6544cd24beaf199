import type * as Rulebooks from './rulebook';
import type * as Classify from './classify';
import { Rulebook } from '../rules/rule';
import { SMALL } from './testing';

const CARGO = { mode: 'air-cargo', region: 'international' } as const;
const loose = (packs: number) => ({ ...SMALL, placement: 'loose' as const, stateOfCharge: 25, mass: 0.3, package: { packs } });

/** The computation with one more air edition in its rulebook. The figure is made up: a dry run, no rule. */
function withEdition2027(): typeof Classify {
  let made: typeof Classify | undefined;
  jest.isolateModules(() => {
    jest.doMock('./rulebook', () => {
      const held = jest.requireActual<typeof Rulebooks>('./rulebook');
      const rules = [...held.SHIPPING_RULES, ...held.airEdition(2027, { 'air.965-IB': { cargoKg: 6 } })];
      return { ...held, SHIPPING_RULES: rules, SHIPPING: new Rulebook(rules) };
    });
    made = jest.requireActual<typeof Classify>('./classify');
  });
  return made!;
}

test('an edition is a line of the rulebook: its figures count from its first day, and nothing else changes', () => {
  const { classify } = withEdition2027();
  const on = (day: string, packs: number) => {
    const { outcome, provision } = classify(loose(packs), { ...CARGO, on: day });
    return [outcome, provision];
  };
  expect(on('2026-12-31', 24)).toEqual(['allowed', 'PI965-IB']);
  expect(on('2027-01-01', 24)).toEqual(['allowed', 'PI965-IA']);
  expect(on('2027-01-01', 20)).toEqual(['allowed', 'PI965-IB']);
  // Neither the road nor the day after the edition knows of it.
  expect(classify(loose(24), { mode: 'road', region: 'eu', on: '2027-01-01' }).provision).toBe('SP188');
  expect(on('2028-01-01', 20)).toEqual(['hold', null]);
});
