import { foldPack } from '../logbook/fold';
import { entry, PACK } from '../logbook/testing';
import { thicknessTrend } from './trend';

type Day = '2026-11-01' | '2026-11-03' | '2026-11-11';
const thick = (day: Day, digits: string, point = 'centre', minutes = 0) =>
  entry('reading-taken', { quantity: 'thickness', point, figure: { digits, unit: 'mm' } }, { day, minutes });
const fresh = (digits: string) =>
  entry(
    'reading-taken',
    { quantity: 'new-thickness', figure: { digits, unit: 'mm' }, source: 'data-sheet' },
    { day: '2026-11-01' },
  );
const trend = (...entries: ReturnType<typeof entry>[]) =>
  thicknessTrend(foldPack(PACK, [entry('pack-added', { tag: 'T', use: 'removed' }, { day: '2026-11-01' }), ...entries])!, 5);

test('one day is no trend; the point measured most often is followed, oldest first', () => {
  expect(trend(thick('2026-11-01', '5.10'))).toBeNull();
  const t = trend(
    thick('2026-11-11', '5.60'),
    thick('2026-11-01', '5.10'),
    thick('2026-11-01', '6.10', 'front-left'),
    fresh('5.00'),
  );
  expect(t).toMatchObject({ point: 'centre', measured: [{ mm: 5.1 }, { mm: 5.6 }], fresh: 5 });
  expect(t!.limit).toBeCloseTo(5.25, 9);
});

test('the thickest point of those measured as often, and the smallest new thickness, as the judgement takes them', () => {
  const both = (point: string, a: string, b: string) => [thick('2026-11-01', a, point), thick('2026-11-03', b, point)];
  const t = trend(...both('centre', '5.10', '5.20'), ...both('front-left', '5.00', '5.90'), fresh('5.20'), fresh('5.00'));
  expect(t).toMatchObject({ point: 'front-left', fresh: 5 });
});

test('without a new thickness there is no line to cross', () => {
  expect(trend(thick('2026-11-01', '5.10'), thick('2026-11-03', '5.20'))).toMatchObject({ fresh: null, limit: null });
});
