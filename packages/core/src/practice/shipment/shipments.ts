import type { WrittenStaged } from '../staged/scenario';
import type { Mode, ShippingFacts } from '../../shipping/facts';
import { LARGE, ORDINARY, type TrueShipment } from './shipment';

const sent = (mode: Mode, more: Partial<ShippingFacts> = {}, facts: ShippingFacts = ORDINARY): TrueShipment => ({
  facts: { ...facts, ...more },
  mode,
  region: 'eu',
  kg: facts === LARGE ? 0.62 : 0.24,
});
const LOOKING = ['look', 'label', 'summary', 'gauge', 'weigh'] as const;

/** Packs that shall go somewhere, of our own; people and figures are invented. */
export const SHIPMENTS: readonly WrittenStaged[] = [
  {
    id: 'send-1',
    grade: 'dispatch',
    title: 'A spare for the next valley',
    story: 'A workshop two hours away asked for one pack by parcel, by road, to be used again. The driver comes at four.',
    shipment: sent('road'),
    expert: [...LOOKING, 'tape', 'plain', 'battery-mark', 'hand'],
    careless: [...LOOKING, 'plain', 'hand'],
  },
  {
    id: 'send-2',
    grade: 'dispatch',
    title: 'It has to be there tomorrow',
    story: 'One pack by itself by cargo aircraft, to be used again. It was topped up for the customer.',
    shipment: sent('air-cargo', { stateOfCharge: 71 }),
    expert: [...LOOKING, 'down', 'tape', 'plain', 'battery-mark', 'class9', 'cargo-only', 'paper', 'hand'],
    careless: ['away'],
  },
  {
    id: 'send-3',
    grade: 'dispatch',
    title: 'The thick one to the recycler',
    story: 'One pack by road. The recycler fetches on Thursdays and wants it named as what it is.',
    shipment: sent('road', { findings: ['swollen'], stateOfCharge: 55 }),
    expert: [...LOOKING, 'tape', 'inner', 'un', 'class9', 'damaged-mark', 'paper', 'hand'],
    careless: ['label', 'down'],
  },
  {
    id: 'send-4',
    grade: 'dispatch',
    title: 'Back where it came from',
    story: 'The seller sent an air label with the box: one pack by itself, by cargo aircraft, under warranty.',
    shipment: sent('air-cargo', { findings: ['cell-dented'] }),
    expert: LOOKING,
    careless: ['label', 'weigh', 'away'],
  },
  {
    id: 'send-5',
    grade: 'dispatch',
    title: 'In her own bag',
    story: 'The owner flies home tonight and wants the spare pack posted ahead, by passenger aircraft.',
    shipment: sent('air-passenger'),
    expert: LOOKING,
    careless: [...LOOKING, 'away'],
  },
  {
    id: 'send-6',
    grade: 'dispatch',
    title: 'The big one',
    story: 'A field machine’s pack, by itself, by road, to be used again.',
    shipment: sent('road', {}, LARGE),
    expert: [...LOOKING, 'tape', 'un', 'class9', 'paper', 'hand'],
    careless: [...LOOKING, 'tape', 'plain', 'battery-mark', 'hand'],
  },
];
