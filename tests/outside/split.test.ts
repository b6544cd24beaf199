import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { classify, type Route, type ShippingFacts } from '@gavrel/core';
import { splitOf } from '@gavrel/core/dispatch';
import fc from 'fast-check';
import { ON, SMALL as pack } from '../../packages/core/src/shipping/testing';

/** Packs of one weight into packages as an integer programme: none over its limits, as few packages as can be. */
function programme(packs: number, grams: number, limitGrams: number, most: number): string {
  const bins = Array.from({ length: packs }, (_, b) => b);
  const sum = (terms: readonly string[]) => terms.join(' + ');
  return [
    'Minimize',
    ` n: ${sum(bins.map((b) => `y${b}`))}`,
    'Subject To',
    ` all: ${sum(bins.map((b) => `x${b}`))} = ${packs}`,
    ...bins.map((b) => ` kg${b}: ${grams} x${b} - ${limitGrams} y${b} <= 0`),
    ...bins.map((b) => ` count${b}: x${b} - ${most} y${b} <= 0`),
    // Packages are alike: used ones first, or the solver tries every renaming of them.
    ...bins.slice(1).map((b) => ` order${b}: y${b - 1} - y${b} >= 0`),
    'General',
    ...bins.map((b) => ` x${b}`),
    'Binary',
    ...bins.map((b) => ` y${b}`),
    'End',
  ].join('\n');
}

const LARGE = { ratedEnergy: 130, nominalVoltage: 14.4, ratedCapacity: 9.03, series: 4 };
// The limits once more, by hand from the published texts, from memory: net kg of a package; 173.185(f): one pack each.
const LIMITS = [
  ['PI 965-IA, cargo', { mode: 'air-cargo', on: ON }, LARGE, 35, 999],
  ['PI 967-I, passenger', { mode: 'air-passenger', on: ON }, { ...LARGE, placement: 'in-equipment' }, 5, 999],
  ['PI 967-II, passenger', { mode: 'air-passenger', on: ON }, { placement: 'in-equipment' }, 5, 999],
  ['173.185(f), road', { mode: 'road', region: 'us', on: ON }, { findings: ['swollen'] }, 999, 1],
] as const satisfies readonly (readonly [string, Route, Partial<ShippingFacts>, number, number])[];

// GLPK's integer solver (Debian's glpk-utils) on random small instances of these limits.
test.each(LIMITS)('no fewer packages exist, says a solver: %s', (_name, route, facts, kg, most) => {
  const folder = mkdtempSync(join(tmpdir(), 'gavrel-split-'));
  const [lp, out] = [join(folder, 'p.lp'), join(folder, 'p.txt')];
  const solve = (packs: number, grams: number): number | null => {
    writeFileSync(lp, programme(packs, grams, kg * 1000, most));
    execFileSync('glpsol', ['--lp', lp, '-w', out], { stdio: 'pipe' });
    const solved = /^s mip \d+ \d+ o ([\d.]+)$/m.exec(readFileSync(out, 'utf8'));
    return solved ? Number(solved[1]) : null;
  };
  try {
    fc.assert(
      fc.property(fc.integer({ min: 2, max: 16 }), fc.integer({ min: 150, max: 9000 }), (packs, grams) => {
        const f: ShippingFacts = { ...pack, ...facts, mass: grams / 1000, package: { packs } };
        fc.pre(classify(f, route).outcome === 'split');
        expect(splitOf(f, route)?.packages ?? null).toBe(solve(packs, grams));
      }),
      { numRuns: 40 },
    );
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
});
