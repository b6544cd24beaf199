import { figureWords } from '../rules/figure-words';
import { FIRE_RULES } from '../storage/fire-code';
import { SHIPPING_RULES } from '../shipping/rulebook';
import { WASTE_RULES } from '../recycling/rules-waste';

test('every figure of every rule is said in words with its unit, and none twice in one rule', () => {
  for (const r of [...SHIPPING_RULES, ...WASTE_RULES, ...FIRE_RULES]) {
    const words = figureWords(r.figures);
    expect(words).not.toMatch(/[a-z][A-Z]|#/);
    for (const figure of Object.values(r.figures)) expect(words).toContain(String(figure));
    expect(new Set(words.split(', ')).size).toBe(Object.keys(r.figures).length || 1);
  }
  expect(() => figureWords({ nobodyNamed: 3 })).toThrow('no words');
});
