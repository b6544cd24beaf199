import { MODES, PLACEMENTS, PROVISIONS } from '@gavrel/core';
import { carryOf } from './carry';
import { bearsClass9, boxServes } from './packaging';

/** Each packing instruction of the air is for one way to lie. */
const LIES: Readonly<Record<string, string>> = {
  PI965: 'loose',
  PI966: 'with-equipment',
  PI967: 'in-equipment',
  PI968: 'loose',
  PI969: 'with-equipment',
  PI970: 'in-equipment',
};

test('what a box must bear and what a package bears is what its steps say, for every provision', () => {
  for (const provision of PROVISIONS)
    for (const mode of MODES)
      for (const placement of PLACEMENTS)
        for (const rules of (LIES[provision.slice(0, 5)] ?? placement) !== placement ? [] : [[], ['us.c'], ['us.c-iv']]) {
          const carry = carryOf({ provision, batteryMark: true, rules, un: 'UN 3480' }, { mode, placement });
          const told =
            carry?.packaging.some((l) => /^(UN packaging|one pack in each outer packaging of packing group)/.test(l)) ?? false;
          expect([provision, mode, placement, boxServes({ un: false, kind: 'steel' }, provision, placement)]).toEqual([
            provision,
            mode,
            placement,
            !told,
          ]);
          expect(bearsClass9(carry)).toBe(carry?.marks.some((m) => m.startsWith('class 9A label')) ?? false);
        }
});
