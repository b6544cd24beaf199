import { type TrueMachine, USUAL } from './machine';
import type { WrittenStaged } from '../staged/scenario';

type Odd = { readonly [K in keyof TrueMachine]?: TrueMachine[K] extends object ? Partial<TrueMachine[K]> : TrueMachine[K] };

/** A usual machine but for what is named. */
const machine = ({ hands, eyes, owner, ...rest }: Odd): TrueMachine => ({
  ...USUAL,
  ...rest,
  hands: { ...USUAL.hands, ...hands },
  eyes: { ...USUAL.eyes, ...eyes },
  owner: { ...USUAL.owner, ...owner },
});

/** Machines of our own; people and figures are invented. */
export const MACHINES: readonly WrittenStaged[] = [
  {
    id: 'open-1',
    grade: 'opening',
    title: 'Lasts twenty minutes',
    story: 'Three years old, used every day. The charger hangs on it, the light is green.',
    machine: machine({ charge: 96, plugged: true, hidden: 2 }),
    expert: ['owner', 'hands', 'eyes', 'shown', 'run-down', 'off', 'feet', 'map', 'plastic', 'shoulders', 'drain', 'dead'],
    careless: ['hurry', 'owner', 'hands', 'eyes', 'shown'],
  },
  {
    id: 'open-2',
    grade: 'opening',
    title: 'It never sat well on the desk',
    story: 'The owner has put a folded card under one corner. For a month now the pointer jumps.',
    machine: machine({ hands: { base: 'rocks' }, eyes: { trackpad: 'stiff' }, charge: 71 }),
    expert: ['owner', 'hands', 'eyes', 'trained', 'off', 'feet', 'map', 'plastic', 'shoulders', 'drain', 'dead'],
    careless: ['owner', 'shown', 'run-down'],
  },
  {
    id: 'open-3',
    grade: 'opening',
    title: 'The one with the spare on its back',
    story: 'A field machine. It arrives with its dock, its charger and a second pack.',
    machine: machine({ charge: 18, plugged: true, outer: true, screws: 7, hidden: 1 }),
    expert: ['owner', 'hands', 'eyes', 'shown', 'off', 'unplug', 'outer', 'feet', 'map', 'plastic', 'shoulders', 'drain', 'dead'],
    careless: ['owner', 'hands', 'eyes', 'shown', 'off', 'feet', 'map', 'plastic', 'shoulders', 'drain', 'dead'],
  },
  {
    id: 'open-4',
    grade: 'opening',
    title: 'Only have a look at it',
    story: 'Bought last autumn, says the owner, and still under warranty.',
    machine: machine({ owner: { consent: 'refused' }, charge: 40 }),
    expert: ['owner', 'hands', 'eyes'],
    careless: ['hands', 'hurry'],
  },
  {
    id: 'open-5',
    grade: 'opening',
    title: 'From a warm car',
    story: 'It lay on the back seat since morning. Something about it is odd, nobody can say what.',
    machine: machine({ hands: { smell: 'smell' }, charge: 60 }),
    expert: ['hands', 'owner', 'eyes'],
    careless: ['shown', 'charge'],
  },
  {
    id: 'open-6',
    grade: 'opening',
    title: 'Somebody brings a bag',
    story: 'The bag is put down on the counter. It hisses.',
    machine: machine({ eyes: { sound: 'hiss' }, hands: { touch: 'hot' } }),
    expert: ['leave'],
    careless: ['hands'],
  },
];
