import { type Asked, batteryMark, CONFLICT, netKg, typeTest } from './common';
import type { Placement, Provision, Route } from './facts';
import type { Leaf, Reader } from './leaf';
import { SHIPPING } from './rulebook';
import { markDuty, metalSize, sideOf, sizeOf } from './size';

const TABLE: Record<'ion' | 'metal', Record<Placement, readonly [Provision, Provision]>> = {
  ion: {
    loose: ['PI965-IA', 'PI965-IB'],
    'with-equipment': ['PI966-I', 'PI966-II'],
    'in-equipment': ['PI967-I', 'PI967-II'],
  },
  metal: {
    loose: ['PI968-IA', 'PI968-IB'],
    'with-equipment': ['PI969-I', 'PI969-II'],
    'in-equipment': ['PI970-I', 'PI970-II'],
  },
};

const ruleOf = (p: Provision) => `air.${p.slice(2)}`;
const figures = (p: Provision, on: string) => SHIPPING.on(ruleOf(p), on)?.figures ?? SHIPPING.any(ruleOf(p)).figures;

/** Charge: over the limit only with the approval of State of origin and operator (A331). Null when nothing stands against it. */
function charge(r: Reader, q: Asked, on: string): Leaf | null {
  if (q.metal) return null;
  if (q.placement === 'in-equipment') {
    r.cite('air.967-charge');
    return null;
  }
  const id = q.placement === 'loose' ? 'air.965-charge' : 'air.966-charge';
  const rule = SHIPPING.on(id, on);
  const percent = rule?.figures.percent;
  if (percent === undefined) return null;
  const exempt = rule?.figures.exemptWh;
  if (exempt !== undefined && sideOf(r, exempt) === 'inside') return null;
  r.cite(id);
  if (r.need<number>('stateOfCharge', [20, 80]) <= percent) return null;
  r.say(`bring the charge to ${percent} % of rated capacity or less, or get the approval of State of origin and operator (A331)`);
  return r.leaf('approval', 'A331', q.un);
}

/** Packed with equipment: no more than the equipment needs plus two spare sets, fitted packs counted. */
function tooMany(r: Reader, on: string): number {
  const f = SHIPPING.on('air.966-count', on)!.figures;
  const packs = r.need<number>('package.packs', [1, 99]);
  const equipment = r.need<number>('package.equipment', [1, 99]);
  const each = r.need<number>('package.packsPerEquipment', [1, 99]);
  return Math.max(0, packs - equipment * each * f.sets!);
}

/** Air, any region: damaged and recycling first, then size, placement, charge, and the package. */
export function airRoute(r: Reader, route: Route, q: Asked): Leaf {
  const passenger = q.mode === 'air-passenger';
  if (q.damaged) {
    r.cite('air.A154');
    r.say('damaged packs go by road or sea, never by air');
    return r.leaf('forbidden', 'A154', q.un);
  }
  if (q.recycling) {
    r.cite('air.A183');
    if (passenger && q.placement === 'loose') {
      r.cite('air.965-passenger');
      return r.leaf('forbidden', 'A183', q.un);
    }
    r.say('waste flies only with the approval of both States; go by road');
    return r.leaf('approval', 'A183', q.un);
  }
  if (passenger && q.placement === 'loose') {
    r.cite('air.965-passenger');
    r.say('send it on a cargo aircraft, by road, or with its equipment');
    return r.leaf('forbidden', null, q.un);
  }
  const untested = typeTest(r, q);
  if (untested) return untested;

  const [full, light] = TABLE[q.metal ? 'metal' : 'ion'][q.placement];
  const size = q.metal ? metalSize(r) : sizeOf(r);
  if (size === 'conflict') {
    r.say(CONFLICT);
    return r.leaf('hold', full, q.un, null, ['ratedEnergy']);
  }
  if (!q.metal && markDuty(r, size === 'small') !== 'met') {
    r.say('no watt-hours on the case: ask the maker');
    return r.leaf('hold', full, q.un, null, ['energyMarked']);
  }
  const charged = charge(r, q, route.on);
  if (charged) return charged;

  if (q.placement === 'with-equipment') {
    const excess = tooMany(r, route.on);
    r.cite('air.966-count');
    if (excess > 0 && !passenger) {
      // What is too many flies beside it as loose packs, charge included.
      const loose = charge(r, { ...q, placement: 'loose' }, route.on);
      if (loose) return loose;
    }
    if (excess > 0) {
      r.say(`take ${excess} out: more than the equipment needs plus two spare sets`);
      return passenger
        ? r.leaf('forbidden', null, q.un)
        : r.leaf('split', size === 'small' ? light : full, q.un, size === 'small');
    }
  }
  return packageLimits(r, route.on, q, size, full, light);
}

function packageLimits(r: Reader, on: string, q: Asked, size: 'small' | 'over', full: Provision, light: Provision): Leaf {
  const passenger = q.mode === 'air-passenger';
  const lightKg = figures(light, on).kg ?? figures(light, on).cargoKg!;
  const fullKg = passenger ? figures(full, on).passengerKg! : figures(full, on).cargoKg!;
  if (size === 'small' && passenger) {
    r.cite(ruleOf(light));
    const net = netKg(r, [1, 20]);
    r.say(`at most ${lightKg} kg of packs in a package`);
    return r.leaf(net <= lightKg ? 'allowed' : 'split', light, q.un, batteryMark(r, q));
  }
  const net = netKg(r, [1, lightKg + 1, 40]);
  if (size === 'small' && net <= lightKg) {
    r.cite(ruleOf(light));
    r.say(`at most ${lightKg} kg of packs in a package`);
    return r.leaf('allowed', light, q.un, batteryMark(r, q));
  }
  r.cite(ruleOf(full));
  if (size === 'small') r.say(`packages up to ${lightKg} kg would travel under ${light}`);
  r.say(`at most ${fullKg} kg of packs in a package`);
  return r.leaf(net <= fullKg ? 'allowed' : 'split', full, q.un, false);
}
