import { SHIPPING_RULES } from '../shipping/rulebook';
import { casesByRule, WORKED } from './index';

test('every shipping rule is shown by a worked case that names its day and gets its answer', () => {
  const shown = casesByRule();
  // The bound on a mass is used before the rules are asked; ways without a carrier are no answer of theirs.
  const none = [...new Set(SHIPPING_RULES.map((r) => r.id))].filter(
    (id) => id !== 'mass-bound' && !id.startsWith('own.') && !shown.has(id),
  );
  expect(none).toEqual([]);
  expect(new Set(WORKED.map((c) => c.id)).size).toBe(WORKED.length);
  expect(WORKED.filter((c) => !/^\d{4}-\d\d-\d\d$/.test(c.route.on))).toEqual([]);
});
