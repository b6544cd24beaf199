import type { PackFacts } from '../logbook/fold';
import type { Ruling } from '../ruling/ruling';

/** Why a pack must not be brought down by a resistor; empty when nothing we know of speaks against it. Common practice, no source. */
export function whyNotBleed(facts: PackFacts, ruling: Ruling): string[] {
  const { judgement: j, electrical: e } = ruling;
  const codes = j.findings.map((f) => f.code);
  return [
    ...(j.condition === 'sound' || j.condition === 'spent' ? [] : [`it is ${j.condition}: only sound or spent packs`]),
    ...(codes.includes('no-output') ? ['it gives no output: do not force it, use its notebook'] : []),
    ...(codes.includes('deep-discharge') ? ['it was deeply discharged'] : []),
    ...(e.cellsSeen ? [] : ['no cell voltage was seen: read its gauge first']),
    ...(e.charge?.ofFull ? [] : ['its charge is not known']),
    ...(j.nature.series === null || j.nature.curves.length === 0 ? ['its cells are not known'] : []),
    ...(facts.discharge ? ['it is being brought down already'] : []),
    ...(facts.use === 'fitted' ? ['it is in its machine: run the machine'] : []),
  ];
}
