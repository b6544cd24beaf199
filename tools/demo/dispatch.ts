import type { BoxBody, CarrierBody, Subject } from '@gavrel/core';
import { v5 } from 'uuid';
import { modelAt, type Model } from './models';
import type { Scribe } from './scribe';

/** What the dispatch of the demo needs of its world. */
export interface Shed {
  readonly scribe: Scribe;
  readonly workshop: string;
  daysAgo(days: number, hours?: number): Date;
  pack(m: Model, at: Date, use: 'removed' | 'replacement' | 'spare'): Subject;
  look(p: Subject): void;
  weigh(p: Subject, m: Model): void;
  form(p: Subject, m: Model): void;
  tested(p: Subject): void;
  find(p: Subject, code: string): string;
  move(p: Subject, to: string): void;
}

const BOXES: readonly BoxBody[] = [
  {
    name: 'F30',
    inner: { length: 320, width: 230, height: 140 },
    tareKg: 0.28,
    maxGrossKg: 10,
    kind: 'fibreboard',
    un: false,
    stock: 40,
    price: 0.9,
  },
  {
    name: 'F40',
    inner: { length: 400, width: 300, height: 220 },
    tareKg: 0.46,
    maxGrossKg: 20,
    kind: 'fibreboard',
    un: false,
    stock: 22,
    price: 1.4,
  },
  {
    name: 'F40 with UN mark',
    inner: { length: 390, width: 290, height: 210 },
    tareKg: 0.72,
    maxGrossKg: 22,
    kind: 'fibreboard',
    un: true,
    stock: 4,
    price: 4.8,
  },
  {
    name: 'Steel case',
    inner: { length: 420, width: 320, height: 180 },
    tareKg: 5.4,
    maxGrossKg: 30,
    kind: 'steel',
    un: true,
    stock: 3,
    price: 38,
  },
];

const CARRIERS: readonly CarrierBody[] = [
  {
    name: 'Marram Freight',
    modes: ['road', 'sea'],
    takes: { loose: true, withEquipment: true, inEquipment: true, damaged: true, recycling: true, class9: true },
    days: [1, 2, 3, 4, 5],
    cutOff: '15:30',
    contract: true,
    telephone: 'inner line 40',
    wasteRegistration: 'WT-20411',
    price: { perPackage: 11.5, perKg: 0.75, class9: 28 },
  },
  {
    name: 'Eider Post',
    modes: ['road'],
    takes: { loose: false, withEquipment: true, inEquipment: true, damaged: false, recycling: false, class9: false },
    maxGrossKg: 20,
    maxSideMm: 1000,
    price: { perPackage: 4.2, perKg: 0.4 },
  },
  {
    name: 'Kittiwake Express',
    modes: ['road', 'air-cargo'],
    takes: { loose: true, withEquipment: true, inEquipment: true, damaged: false, recycling: false, class9: true },
    maxGrossKg: 25,
    groundFlies: true,
    contract: true,
    price: { perPackage: 8, perKg: 1.6, class9: 45 },
  },
];

/** A maker's notice that concerns some packs of the demo. */
export function notice(w: Pick<Shed, 'scribe' | 'workshop' | 'daysAgo'>, by: string): void {
  w.scribe.from(w.daysAgo(9));
  w.scribe.write(by, 'notice-filed', [`notice:${v5('notice SK-PL16-99', w.workshop)}`], {
    title: 'Plover 16: may overheat while it charges',
    says: 'Stop using and charging it. We send a box and collect it by road.',
    on: w.daysAgo(10).toISOString().slice(0, 10),
    ranges: [{ typeCode: 'SK-PL16-99', madeFrom: '2023-01', madeTo: '2023-06' }],
  });
}

/** Boxes and carriers; one consignment half packed, one refused and back, one whose receipt is owed. @param by the shipper. */
export function dispatched(w: Shed, by: string, spent: readonly Subject[]): void {
  const id = (name: string) => v5(name, w.workshop);
  w.scribe.from(w.daysAgo(60));
  for (const b of BOXES) w.scribe.write(by, 'box-described', [`box:${id(`box ${b.name}`)}`], b);
  for (const c of CARRIERS) w.scribe.write(by, 'carrier-described', [`carrier:${id(`carrier ${c.name}`)}`], c);
  const carrier = id('carrier Marram Freight');
  const day = (days: number) => w.daysAgo(days).toISOString().slice(0, 10);
  const plainBox = id('box F40');

  /** Packs that lay here once, worn out, looked at, weighed and measured. */
  const worn = (n: number, days: number): Subject[] =>
    Array.from({ length: n }, (_, i) => {
      const m = modelAt((i * 2) % 4);
      const p = w.pack(m, w.daysAgo(days + 3, i), 'removed');
      w.look(p);
      w.weigh(p, m);
      w.form(p, m);
      w.find(p, 'worn-out');
      w.scribe.write(by, 'intended', [p], { purpose: 'recycling' });
      return p;
    });

  const consigned = (name: string, packs: readonly Subject[], days: number, on: string): Subject => {
    const c: Subject = `consignment:${id(`consignment ${name}`)}`;
    w.scribe.from(w.daysAgo(days, 4));
    w.scribe.write(by, 'consignment-described', [c], { name, destination: 'recycler', mode: 'road', region: 'eu', on, carrier });
    w.scribe.write(by, 'consigned', [c, ...packs], {});
    return c;
  };
  const idOf = (p: Subject) => p.slice(p.indexOf(':') + 1);
  const plan = (c: Subject, packs: readonly Subject[], name: string): string => {
    const one = id(`package ${name}`);
    w.scribe.write(by, 'plan-kept', [c], { packages: [{ id: one, box: plainBox, packs: packs.map(idOf) }], bound: 1 });
    return one;
  };
  const left = (c: Subject, packs: readonly Subject[], name: string, days: number): void => {
    const one = plan(c, packs, name);
    for (const p of packs) w.scribe.write(by, 'packed', [c, p], { package: one });
    w.scribe.write(by, 'package-closed', [c], {
      package: one,
      box: plainBox,
      weighed: { digits: (0.9 + packs.length * 0.27).toFixed(2), unit: 'kg' },
      seal: `00${31 + packs.length}`,
    });
    w.scribe.write(by, 'consignment-handed-over', [c, ...packs], {
      to: 'Marram Freight',
      number: `MF-${4400 + packs.length}`,
      on: day(days),
      mode: 'road',
      region: 'eu',
      packages: [
        { id: one, packs: packs.map(idOf), box: plainBox, un: 'UN 3480', provision: 'SP377-P909', rules: [{ rule: 'road.377' }] },
      ],
    });
  };

  const away = worn(5, 16);
  left(consigned('Recycling, early in the month', away, 16, day(16)), away, 'away', 16);

  const refused = worn(3, 6);
  const back = consigned('Recycling, small lot', refused, 6, day(6));
  left(back, refused, 'refused', 6);
  w.scribe.from(w.daysAgo(4)).write(by, 'consignment-ended', [back, ...refused], {
    how: 'refused',
    reason: 'the driver could not read the mark',
  });
  w.scribe.from(w.daysAgo(3, 20));
  for (const p of refused) w.move(p, 'Intake shelf');

  const half = spent.slice(0, 5);
  for (const [i, p] of half.entries()) {
    w.scribe.from(w.daysAgo(0, 9));
    w.form(p, modelAt(i));
  }
  const now = consigned('Recycling, this week', half, 0.2, day(0));
  const one = plan(now, half, 'half');
  for (const p of half.slice(0, 3)) w.scribe.write(by, 'packed', [now, p], { package: one });
}
