import { figureOf, asRule, type Rule, Rulebook } from '../rules/rule';

const IFC = 'International Fire Code 2024 §320';

/** Storage thresholds of the fire code. From memory, and only a help: the local code decides. */
// prettier-ignore
export const FIRE_RULES: readonly Rule[] = [
  asRule('fire.permit', 'more than 15 cubic feet in all: a permit', IFC, 'M', null, null, 'IFC 2024', { litres: 425 }),
  asRule('fire.group', 'a container or group holds up to 7.5 cubic feet, open-top and non-combustible, or approved', IFC, 'M', null, null, 'IFC 2024', { litres: 212 }),
  asRule('fire.apart', 'groups 3 feet apart, 10 feet where anything burns beside them', IFC, 'M', null, null, 'IFC 2024', { metres: 0.91, combustible: 3.05 }),
  asRule('fire.exit', '5 feet from exits', IFC, 'M', null, null, 'IFC 2024', { metres: 1.52 }),
  asRule('fire.charge', 'relief where the charge is at most 30 %', IFC, 'M', null, null, 'IFC 2024', { percent: 30 }),
  asRule('fire.outdoors', 'outdoors: up to 900 square feet, 10 feet high, 20 feet from buildings', IFC, 'M', null, null, 'IFC 2024', { squareMetres: 83.6, height: 3.05, metres: 6.1 }),
  asRule('fire.insurer', 'insurers ask for 2.5 m or 5 m', 'insurers’ guidance, look it up', 'L', null, null, null, { metres: 2.5, far: 5 }),
];

export const FIRE = new Rulebook(FIRE_RULES);

/** A container or group of packs; what is not known is left out and is then not within the limit. */
export interface StoredGroup {
  readonly litres?: number;
  /** To the next group, m. */
  readonly apart?: number;
  readonly combustibleBeside?: boolean;
  readonly toExit?: number;
}

export interface FireLine {
  readonly rule: string;
  readonly words: string;
}

/** What of these groups is beyond the thresholds, or not known to be within them. Empty never means allowed: the local code decides. */
export function fireCheck(groups: readonly StoredGroup[]): FireLine[] {
  const f = (id: string, name: string) => figureOf(FIRE.undated(id), name);
  const out: FireLine[] = [];
  const volumes = groups.map((g) => g.litres);
  const total = volumes.reduce<number>((sum, v) => sum + (v ?? 0), 0);
  if (total > f('fire.permit', 'litres')) out.push({ rule: 'fire.permit', words: `${Math.round(total)} l in all: a permit` });
  groups.forEach((g, i) => {
    const name = `group ${i + 1}`;
    if (g.litres === undefined) out.push({ rule: 'fire.group', words: `${name}: volume not known` });
    else if (g.litres > f('fire.group', 'litres'))
      out.push({ rule: 'fire.group', words: `${name}: ${g.litres} l is too much for one` });
    const need = g.combustibleBeside === false ? f('fire.apart', 'metres') : f('fire.apart', 'combustible');
    if (groups.length > 1 || g.combustibleBeside !== false) {
      if (g.apart === undefined) out.push({ rule: 'fire.apart', words: `${name}: distance not known` });
      else if (g.apart < need) out.push({ rule: 'fire.apart', words: `${name}: ${g.apart} m, ${need} m are asked for` });
    }
    if (g.toExit === undefined) out.push({ rule: 'fire.exit', words: `${name}: distance to the exit not known` });
    else if (g.toExit < f('fire.exit', 'metres')) out.push({ rule: 'fire.exit', words: `${name}: ${g.toExit} m from the exit` });
  });
  return out;
}
