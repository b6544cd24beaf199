import { SMALL } from '../shipping/testing';
import { ahead } from './ahead';

const pack = { ...SMALL, stateOfCharge: 60, mass: 0.27, package: { packs: 1, equipment: 1, packsPerEquipment: 1 } };
const stock = [
  { id: 'a', tag: 'TH-1', shipping: pack },
  { id: 'b', tag: 'TH-2', shipping: { ...pack, stateOfCharge: 25 } },
];

// The charge rule of packs with equipment begins with 2026 (PI 966, from memory).
test('before 2026: packs on the shelf that will not fly with equipment at their present charge are named', () => {
  const [first] = ahead(stock, '2025-11-25', '2026-06-30');
  expect(first!.day).toBe('2026-01-01');
  expect(first!.rules.map((r) => r.id)).toEqual(['air.966-charge']);
  expect(first!.packs.map((p) => p.tag)).toEqual(['TH-1']);
  expect(first!.packs[0]!.cells.map((c) => [c.before.placement, c.before.word, c.after.word])).toEqual([
    ['with-equipment', 'yes', 'approval'],
    ['with-equipment', 'yes', 'approval'],
  ]);
});

test('the end of an edition holds what it let go', () => {
  const days = ahead(stock, '2026-11-25', '2027-12-31');
  expect(days.map((d) => d.day)).toEqual(['2027-01-01', '2027-07-01']);
  expect(days[0]!.packs.map((p) => p.tag)).toEqual(['TH-1', 'TH-2']);
  expect(days[0]!.packs[1]!.cells.every((c) => c.before.mode !== 'road' && c.after.word === 'hold')).toBe(true);
});
