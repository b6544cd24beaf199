import fc from 'fast-check';
import { MACHINE_ACTIONS, type MachineAction } from './acts';
import { hurt } from './machine';
import { MACHINES } from './machines';
import {
  actMachine,
  betMachine,
  endlessMachine,
  machineDebrief,
  machineOver,
  type MachineScenario,
  type MachineSession,
  machineWay,
  openingRuling,
  outsidePart,
} from './session';

const begin = (scenario: MachineScenario): MachineSession => ({ scenario, actions: [], bet: null });
/** Somebody who knows the rules does the first part, bets what they say, and goes on. */
const play = (scenario: MachineScenario, actions: readonly MachineAction[]): MachineSession => {
  const n = outsidePart(actions);
  const before = actions.slice(0, n).reduce(actMachine, begin(scenario));
  return actions.slice(n).reduce(actMachine, betMachine(before, openingRuling(before).word, 0.9));
};
const SEED = fc.integer({ min: 0, max: 2 ** 30 });
const ANY = fc.shuffledSubarray(Object.keys(MACHINE_ACTIONS) as MachineAction[]);

describe.each(MACHINES.map((s) => [s.id, s] as const))('%s', (_id, s) => {
  test('an expert has full marks, and a careless hand has not and is told why', () => {
    const good = play(s, s.expert);
    expect(good.actions).toEqual(s.expert);
    expect(machineDebrief(good)).toMatchObject({ harm: [], slips: [], full: true });
    const bad = machineDebrief(play(s, s.careless));
    expect(bad.full).toBe(false);
    expect(bad.harm.length + bad.slips.length).toBeGreaterThan(0);
  });
});

test('of any machine the way that is told has full marks, and no step of it can be left out', () => {
  fc.assert(
    fc.property(SEED, fc.nat(), (seed, k) => {
      const s = endlessMachine(seed);
      const way = machineWay(s.machine);
      expect(machineDebrief(play(s, way)).full).toBe(true);
      const out = way[k % way.length]!;
      // Feet without a screw under them, and looks that find nothing new, are only missed where they matter.
      if (['off', 'unplug', 'outer', 'map', 'plastic', 'shoulders', 'drain', 'dead', 'trained', 'run-down'].includes(out))
        expect(
          machineDebrief(
            play(
              s,
              way.filter((a) => a !== out),
            ),
          ).full,
        ).toBe(false);
    }),
    { numRuns: 150 },
  );
});

test('whatever is done: harm is never full marks, nothing happens after the end, and a session opened again is the same', () => {
  fc.assert(
    fc.property(SEED, ANY, fc.nat({ max: 10 }), (seed, actions, n) => {
      const s = endlessMachine(seed);
      const before = actions.slice(0, n).reduce(actMachine, begin(s));
      const bet = betMachine(before, openingRuling(before).word, 0.7);
      const played = actions.slice(n).reduce(actMachine, bet);
      const d = machineDebrief(played);
      if (d.harm.length > 0 || d.slips.length > 0) expect(d.full).toBe(false);
      const end = played.actions.findIndex((_, i) =>
        machineOver({ ...played, actions: played.actions.slice(0, i + 1), bet: null }),
      );
      if (end >= 0) expect(played.actions.length).toBe(end + 1);
      expect(machineDebrief(JSON.parse(JSON.stringify(played)) as MachineSession)).toEqual(d);
      // What keeps a machine closed is never found by not looking.
      if (d.found && d.settled === 'do not open' && s.machine.owner.consent === 'given')
        expect(played.actions).toContain('hands');
    }),
    { numRuns: 150 },
  );
});

test('a machine with a sign of a hurt pack is opened by the trained person or not at all, and is never run down', () => {
  fc.assert(
    fc.property(SEED, (seed) => {
      const { machine } = endlessMachine(seed);
      const way = machineWay(machine);
      if (!hurt(machine)) return;
      expect(way).not.toContain('run-down');
      if (way.includes('plastic')) expect(way).toContain('trained');
    }),
    { numRuns: 150 },
  );
});
