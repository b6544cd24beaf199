import { INSTRUMENTS, type PlaceDescription, type Subject, taggedId } from '@gavrel/core';
import { v5 } from 'uuid';
import type { Hands } from './earlier';
import { modelAt } from './models';

const HOUR = 1 / 24;
const box = (x: number, y: number, width: number, depth: number) => ({ x, y, width, depth });

/** What the lead said of each place: limits, surroundings by tape, and where it stands. */
const PLACES: Readonly<Record<string, PlaceDescription>> = {
  'Intake shelf': { room: 'Workshop', turn: 1, limits: { packs: 24, wattHours: 1600 }, box: box(0.3, 0.3, 2.4, 0.5) },
  'Bench 1': { room: 'Workshop', turn: 2, limits: { packs: 8 }, box: box(0.3, 2.2, 1.8, 0.8) },
  'Bench 2': { room: 'Workshop', turn: 3, limits: { packs: 8 }, box: box(2.9, 2.2, 1.8, 0.8) },
  'Spares cabinet': { room: 'Workshop', turn: 4, limits: { packs: 40, wattHours: 2500 }, box: box(4.2, 0.3, 1.2, 0.6) },
  'Quarantine box A': {
    room: 'Shed',
    turn: 5,
    limits: { packs: 12, wattHours: 1000, kg: 12 },
    fill: 'vermiculite',
    bags: true,
    near: { burns: 3.4, openings: 3.2, exit: 4 },
    box: box(0.4, 0.4, 0.8, 0.6),
  },
  'Quarantine box B': {
    room: 'Shed',
    turn: 6,
    limits: { packs: 12, wattHours: 1000, kg: 12 },
    fill: 'sand',
    bags: true,
    near: { burns: 2.2, openings: 3.1, exit: 3.5 },
    box: box(1.9, 0.4, 0.8, 0.6),
  },
  'Recycling drum 3': {
    room: 'Shed',
    turn: 7,
    limits: { packs: 60, kg: 12 },
    fill: 'vermiculite',
    bags: true,
    near: { burns: 3.5, openings: 3 },
    box: box(3.6, 1.6, 0.6, 0.6),
  },
  'Yard, steel bin': {
    room: 'Yard',
    turn: 8,
    outdoors: true,
    limits: { packs: 4 },
    fill: 'sand',
    near: { burns: 6, openings: 7.5, exit: 9 },
    box: box(0.4, 0.4, 1, 0.8),
  },
};

/** Days ago, °C at the wall, °C of the room: box A stays quiet, box B was not looked at since yesterday. */
const LOOKS: Readonly<Record<string, readonly (readonly [number, string, string])[]>> = {
  'Quarantine box A': [
    [3, '14.5', '14.0'],
    [2, '15.0', '14.0'],
    [1.3, '13.5', '13.0'],
    [0.9, '16.0', '14.5'],
    [0.4, '14.5', '13.5'],
    [3 * HOUR, '15.5', '14.5'],
  ],
  'Quarantine box B': [
    [2.2, '14.0', '14.0'],
    [1.4, '15.5', '14.0'],
  ],
};

/** Describes the places of the demo and writes some days of looks at the quarantine boxes. */
export function describedYard(w: Hands, lead: string, trained: string): void {
  const place = (name: string): Subject => `place:${taggedId(w.workshop, 'place', name)}`;
  w.scribe.from(w.daysAgo(180));
  for (const [name, body] of Object.entries(PLACES)) w.scribe.write(lead, 'place-described', [place(name)], body);
  for (const [name, looks] of Object.entries(LOOKS)) {
    for (const [days, wall, room] of looks) {
      const at = w.daysAgo(days);
      const inside = new Set<Subject>();
      for (const e of [...w.scribe.entries].sort((a, b) => (a.at < b.at ? -1 : 1))) {
        if (e.kind !== 'moved' || e.at > at.toISOString()) continue;
        const pack = e.subjects.find((s) => s.startsWith('pack:'))!;
        if (e.subjects.includes(place(name))) inside.add(pack);
        else inside.delete(pack);
      }
      w.scribe.from(at).write(trained, 'container-looked', [place(name), ...inside], {
        smell: 'none',
        sound: 'none',
        smoke: 'none',
        lid: 'closed',
        seen: 'nothing',
        probe: 'wall',
        against: 'room',
        temperature: { digits: wall, unit: '°C' },
        room: { digits: room, unit: '°C' },
        instrument: INSTRUMENTS.contactProbe,
      });
    }
  }
  // One pack has waited almost a year: the drum is close to its date.
  const old = w.pack(modelAt(4), w.daysAgo(343), 'removed', []);
  w.look(old);
  w.volts(old, w.simulated(modelAt(4), 18));
  w.find(old, 'worn-out');
  w.scribe.from(w.daysAgo(342)).write(trained, 'intended', [old], { purpose: 'recycling' });
  w.move(old, 'Recycling drum 3');
  const opening = {
    'nothing charging': 'yes',
    'nothing discharging': 'yes',
    'lids closed': 'yes',
    'ways out free': 'yes',
  } as const;
  w.scribe.from(w.today(5)).write(trained, 'sweep-walked', [`round:${v5('opening', w.workshop)}`], {
    sweep: 'opening',
    points: { ...opening, 'no suspect pack on a bench': 'no' },
    note: 'one unproven pack on bench 1',
  });
}
