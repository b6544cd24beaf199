import { relationOf } from '../coherence/relations';
import { findingOf } from '../condition/findings';
import type { Condition } from '../logbook/entry';
import { airRoute } from './air';
import { MODES, type Mode, type Placement, PLACEMENTS, type Route } from './facts';
import type { Leaf, Reader } from './leaf';
import { landRoute } from './land';
import { net } from './package';
import { REGION_RULES } from './regions';
import { SHIPPING } from './rulebook';
import { usRoute } from './us';
import { counted } from '../quantity/counted';

export const UN = { ion: ['UN 3480', 'UN 3481'], metal: ['UN 3090', 'UN 3091'] } as const;

/** How it lies: fitted and loose packs in one package count as packed with equipment. */
function placementOf(r: Reader): Placement {
  const p = (field: string) => r.peek<number>(`package.${field}`);
  const [packs, fitted, equipment, each] = [p('packs'), p('fittedPacks'), p('equipment'), p('packsPerEquipment')];
  if (packs !== undefined && fitted !== undefined && packs > fitted && fitted > 0) {
    r.cite('with.mixed');
    return 'with-equipment';
  }
  const placement = r.need<Placement>('placement', PLACEMENTS);
  const holds = equipment !== undefined && each !== undefined ? equipment * each : undefined;
  // More packs than the machines take: the rest lies beside them.
  if (placement === 'in-equipment' && fitted === undefined && packs !== undefined && holds !== undefined && packs > holds) {
    r.cite('with.mixed');
    r.say(`${counted(packs, 'pack')}, but the machines take ${holds}: the rest is loose beside them`);
    return 'with-equipment';
  }
  return placement;
}

/** Condition, with "nobody has looked" asked as a question: damaged, or sound? */
function conditionOf(r: Reader): Condition {
  r.peek('findings');
  const result = r.ladder;
  if (result.condition !== 'unproven') return result.condition;
  // A rebuilt pack's way is decided by its type test; everything else unproven waits to be examined.
  const only = result.because.filter((c) => c !== 'recelled');
  const looked = r.facts.findings !== undefined && r.facts.conditionKnown !== false;
  if (looked && only.length === 0 && result.because.length > 0) return 'unproven';
  return r.decide<Condition>('findings#condition', ['findings'], ['damaged', 'sound']);
}

/** Nickel-metal hydride: not subject by road and rail, few words by air, a limit at sea; damaged or not examined our own caution. */
function nickel(r: Reader, mode: Mode): Leaf {
  const air = mode === 'air-cargo' || mode === 'air-passenger';
  const { condition } = r.ladder;
  if (condition === 'unproven') {
    r.cite('unknown');
    r.say('examine the pack');
    return r.leaf('hold', null, null, null, ['findings']);
  }
  if (condition === 'damaged') {
    r.cite('ni-mh.damaged');
    r.say('damaged: isolate it; these rules name no way for it, a trained person decides');
    if (air) return r.leaf('hold', null, null);
  }
  if (mode === 'sea') {
    r.cite('sea.ni-mh');
    const limit = r.figure('sea.ni-mh', 'unitKg');
    if (loadOver(r, limit) && !nickelExempt(r)) {
      r.say(`over ${limit} kg in a transport unit: UN 3496, ask a trained person`);
      return r.leaf('hold', null, 'UN 3496');
    }
    r.say(`at most ${limit} kg in a transport unit; above it UN 3496`);
  }
  r.cite('ni-mh');
  r.say('cover the contacts against short circuit');
  return r.leaf('allowed', 'none', null, false);
}

/** Is more than a limit stated for the transport unit, or by what the packages are said to weigh? */
function loadOver(r: Reader, limit: number): boolean {
  const packages = r.peek<number>('consignment.packages') ?? 1;
  const gross = r.peek<number>('package.grossKg') ?? net(r).lo;
  return Math.max(r.peek<number>('consignment.netKgTransportUnit') ?? 0, gross * packages) > limit;
}

const nickelExempt = (r: Reader): boolean => {
  if (r.peek<boolean>('buttonCell') === true) return true;
  return r.need<Placement>('placement', PLACEMENTS) === 'in-equipment';
};

/** Facts that contradict each other whatever the route: what is settled first. Null when nothing does. */
function contradiction(r: Reader): Leaf | null {
  const lithium = r.facts.chemistry === 'li-ion' || r.facts.chemistry === 'li-metal';
  // Where size plays no part in the rules, a label that contradicts itself holds all the same.
  const holds = lithium ? ['hold'] : ['hold', 'size'];
  const broken = r.asked.contradictions.filter((c) => holds.includes(relationOf(c.relation).effect));
  if (broken.length === 0) return null;
  r.cite('contradiction');
  for (const b of broken) r.say(b.sentence);
  return r.leaf('hold', null, null, null, [...new Set(broken.map((b) => b.fields[0]!))]);
}

/**
 * The order of decision: emergency, what it is, edition, condition, purpose, type test, size, placement, mode, package limits.
 * Throws `Unknown` for a fact it needs and nobody has.
 */
export function decide(r: Reader, route: Route): Leaf {
  const state = r.ladder;
  const chemistry = r.peek<string>('chemistry');
  const mode = route.mode ?? r.decide<Mode>('mode', ['mode'], MODES);
  const air = mode === 'air-cargo' || mode === 'air-passenger';
  const sea = mode === 'sea';
  const here = REGION_RULES[route.region ?? 'international'];
  const us = here.road === '49cfr' && !air && !sea;

  if (state.condition === 'critical') {
    r.peek('findings');
    r.cite('critical');
    if (us) r.cite('us.21c');
    r.say('do not move it; leave, alarm, call: follow the site emergency plan');
    r.say('a way out only once it is stable: tested packaging, an authority’s approval or a permit');
    const fitted = r.peek<Placement>('placement');
    const un = chemistry === 'li-metal' ? UN.metal : UN.ion;
    const lithium = chemistry === undefined || chemistry === 'li-ion' || chemistry === 'li-metal';
    return r.leaf(
      'forbidden',
      lithium ? (air ? 'A154' : us ? '173.21(c)' : 'SP376-P911') : null,
      lithium ? un[fitted && fitted !== 'loose' ? 1 : 0] : null,
    );
  }
  const settle = contradiction(r);
  if (chemistry === 'none') {
    if (settle) return settle;
    r.cite('not-dangerous');
    return r.leaf('allowed', 'none', null, false);
  }
  if (!air && !sea && here.road === null) {
    r.say(here.says ?? '');
    r.cite('region.unheld');
    return r.leaf('hold', null, null);
  }
  const edition = SHIPPING.on(`${air ? 'air' : sea ? 'sea' : us ? 'us' : 'road'}.edition`, route.on);
  if (!edition) {
    r.cite('no-edition');
    r.say('no edition held for this day');
    return r.leaf('hold', null, null);
  }
  r.cite(edition.id);
  if (chemistry === 'ni-mh') return settle ?? nickel(r, mode);
  if (chemistry === 'na-ion') {
    r.say('sodium-ion is outside what is held here: ask a trained person');
    return r.leaf('hold', null, null);
  }
  if (chemistry === undefined) {
    // No two chemistries share their provisions, so the answer always matters.
    r.say('read the chemistry on the label');
    return r.leaf('hold', null, null, null, ['chemistry']);
  }
  const bad = (r.facts.findings ?? []).filter((c) => !findingOf(c));
  if (bad.length > 0 && state.condition === 'unproven') {
    r.say(`unknown finding: ${bad.join(', ')}`);
    return r.leaf('hold', null, null, null, ['findings']);
  }
  const metal = chemistry === 'li-metal';
  const condition = conditionOf(r);
  const placement = placementOf(r);
  const un = (metal ? UN.metal : UN.ion)[placement === 'loose' ? 0 : 1];
  const purpose = r.peek<string>('purpose') ?? 'use';
  const q = { metal, placement, un, condition, recycling: purpose !== 'use', mode };
  const leaf = air ? airRoute(r, q) : us ? usRoute(r, q) : landRoute(r, q);
  // Behind what decided it: it changes nothing, and is looked up all the same.
  if (!air && !sea && here.says !== null) r.say(here.says);
  return settle && (leaf.outcome === 'allowed' || leaf.outcome === 'split' || leaf.outcome === 'hold')
    ? { ...settle, un: leaf.un, missing: [...new Set([...settle.missing, ...leaf.missing])] }
    : leaf;
}
