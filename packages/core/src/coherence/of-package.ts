import { EPS, NET_APART } from './limits';
import { type Contradiction, one } from './relation';
import type { StatedFacts } from './stated';
import { counted } from '../quantity/counted';

const fittedWords = (n: number): string => counted(n, 'pack is fitted', 'packs are fitted');

export function countFitted(f: StatedFacts): Contradiction[] {
  const p = f.package ?? {};
  const { packs, fittedPacks: fitted, equipment, packsPerEquipment: each } = p;
  const holds = equipment !== undefined && each !== undefined ? equipment * each : undefined;
  if (fitted !== undefined && packs !== undefined && fitted > packs)
    return one(
      'count-fitted',
      ['package.fittedPacks', 'package.packs'],
      `${fittedWords(fitted)}, but the package holds ${packs}: count them`,
    );
  if (fitted !== undefined && holds !== undefined && fitted > holds)
    return one(
      'count-fitted',
      ['package.fittedPacks', 'package.equipment', 'package.packsPerEquipment'],
      `${fittedWords(fitted)}, but ${counted(equipment ?? 0, 'machine')} of ${each} take ${holds}: count them`,
    );
  if (fitted === 0 && f.placement === 'in-equipment')
    return one(
      'count-fitted',
      ['package.fittedPacks', 'placement'],
      'in equipment, but no pack is fitted: say where the packs lie',
    );
  if (fitted !== undefined && fitted > 0 && packs === fitted && f.placement === 'loose')
    return one(
      'count-fitted',
      ['package.fittedPacks', 'placement'],
      `loose, but ${fittedWords(fitted)} and no other is in it: say where the packs lie`,
    );
  return [];
}

export function netCount(f: StatedFacts): Contradiction[] {
  const { packs, netKg, fittedPacks } = f.package ?? {};
  if (netKg === undefined || !f.mass) return [];
  // Packs not counted are at least those fitted.
  const count = packs ?? fittedPacks ?? 0;
  const product = count * f.mass.value;
  const apart = packs === undefined ? product - netKg : Math.abs(netKg - product);
  if (count === 0 || apart <= NET_APART * product + EPS) return [];
  return one(
    'net-count',
    ['package.netKg', 'package.packs', 'mass'],
    `${netKg} kg net, but ${counted(count, 'pack')} of ${f.mass.words} ${count === 1 ? 'is' : 'are'} ${product.toFixed(2)} kg: weigh again`,
  );
}

/** The least the packs of a package can weigh by what is stated, kg. */
function leastNet(f: StatedFacts): number | undefined {
  const { packs, netKg, fittedPacks } = f.package ?? {};
  const product = f.mass && f.mass.value * Math.max(packs ?? 1, fittedPacks ?? 1);
  return netKg ?? product;
}

export function grossNet(f: StatedFacts): Contradiction[] {
  const gross = f.package?.grossKg;
  const net = leastNet(f);
  if (gross === undefined || net === undefined || gross > net) return [];
  return one(
    'gross-net',
    ['package.grossKg', f.package?.netKg === undefined ? 'mass' : 'package.netKg'],
    `${gross} kg gross, but the packs alone are ${Number(net.toFixed(3))} kg: weigh the package again`,
  );
}
