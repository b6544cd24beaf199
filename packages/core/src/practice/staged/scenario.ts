import { machineCourse } from '../machine/course';
import { machineOf, type TrueMachine } from '../machine/machine';
import { randomOf } from '../random';
import type { Grade } from '../scenario';
import { shipmentCourse } from '../shipment/course';
import { shipmentOf, type TrueShipment } from '../shipment/shipment';
import { yardCourse } from '../yard/course';
import { type TrueYard, yardOf } from '../yard/yard';
import type { Course } from './course';

interface Told {
  readonly id: string;
  readonly grade: Grade;
  readonly title: string;
  readonly story: string;
}

/** A machine that is opened, a pack that shall go somewhere, or be put somewhere, with its story. */
export type StagedScenario = Told &
  ({ readonly machine: TrueMachine } | { readonly shipment: TrueShipment } | { readonly yard: TrueYard });

/** A written one, with the two ways through it that are tried. */
export type WrittenStaged = StagedScenario & { readonly expert: readonly string[]; readonly careless: readonly string[] };

/** What a scenario is played by. */
export const courseOf = (s: StagedScenario): Course =>
  'machine' in s ? machineCourse(s.machine) : 'shipment' in s ? shipmentCourse(s.shipment) : yardCourse(s.yard);

/** A machine nobody wrote a story for; the same seed is the same machine. @param seed a whole number from 0. */
export const endlessMachine = (seed: number): StagedScenario => ({
  id: `machine-${seed}`,
  grade: 'opening',
  title: `Machine ${seed % 10_000}`,
  story: 'Its owner waits at the counter: the battery does not last.',
  machine: machineOf(randomOf(seed)),
});

const BY = {
  road: 'by road',
  rail: 'by rail',
  sea: 'by sea',
  'air-cargo': 'by cargo aircraft',
  'air-passenger': 'by passenger aircraft',
} as const;

/** How a pack shall go, as somebody asks for it. */
export const askedWords = ({ facts, mode }: TrueShipment): string =>
  `One pack ${facts.placement === 'loose' ? 'by itself' : 'in its machine'}, ${facts.purpose === 'recycling' ? 'to the recycler' : 'to be used again'}, ${BY[mode]}, within Europe.`;

/** A pack nobody wrote a way for. @param seed a whole number from 0. */
export function endlessShipment(seed: number): StagedScenario {
  const shipment = shipmentOf(randomOf(seed));
  return { id: `shipment-${seed}`, grade: 'dispatch', title: `Parcel ${seed % 10_000}`, story: askedWords(shipment), shipment };
}

/** A pack to be put somewhere that nobody wrote a story for. @param seed a whole number from 0. */
export const endlessStore = (seed: number): StagedScenario => ({
  id: `place-${seed}`,
  grade: 'yard and watch',
  title: `Pack ${seed % 10_000}`,
  story: 'It lies on the bench, and the bench has to be empty.',
  yard: yardOf(randomOf(seed)),
});
