import { findingOf } from '../condition/findings';
import type { Condition } from '../logbook/entry';
import { airRoute } from './air';
import { MODES, type Mode, type Placement, type Route } from './facts';
import type { Leaf, Reader } from './leaf';
import { landRoute } from './land';
import { SHIPPING } from './rulebook';
import { usRoute } from './us';

export const UN = { ion: ['UN 3480', 'UN 3481'], metal: ['UN 3090', 'UN 3091'] } as const;

/** How it lies: fitted and loose packs in one package count as packed with equipment. */
function placementOf(r: Reader): Placement {
  const packs = r.peek<number>('package.packs');
  const fitted = r.peek<number>('package.fittedPacks');
  if (packs !== undefined && fitted !== undefined && packs > fitted && fitted > 0) {
    r.cite('with.mixed');
    return 'with-equipment';
  }
  return r.need<Placement>('placement', ['loose', 'with-equipment', 'in-equipment']);
}

/** Condition, with "nobody has looked" asked as a question: sound, or damaged? */
function conditionOf(r: Reader): Condition {
  const assumed = r.peek<Condition>('findings#condition');
  if (assumed) return assumed;
  r.peek('findings');
  const result = r.ladder;
  if (result.condition === 'unproven') {
    // A rebuilt pack's way is decided by its type test; everything else unproven waits to be examined.
    const only = result.because.filter((c) => c !== 'recelled');
    const looked = r.facts.findings !== undefined && r.facts.conditionKnown !== false;
    if (looked && only.length === 0 && result.because.length > 0) return 'unproven';
    return r.need<Condition>('findings#condition', ['damaged', 'sound']);
  }
  return result.condition;
}

/**
 * The order of decision: emergency, what it is, edition, condition, purpose, type test, size, placement, mode, package limits.
 * Throws `Unknown` for a fact it needs and nobody has.
 */
export function decide(r: Reader, route: Route): Leaf {
  const state = r.ladder;
  const chemistry = r.peek<string>('chemistry');
  const mode = route.mode ?? r.need<Mode>('mode', MODES);
  const air = mode === 'air-cargo' || mode === 'air-passenger';
  const sea = mode === 'sea';
  const us = route.region === 'us' && !air && !sea;

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
  if (chemistry === 'none') {
    r.cite('not-dangerous');
    return r.leaf('allowed', 'none', null, false);
  }
  const held = SHIPPING.on(`${air ? 'air' : sea ? 'sea' : us ? 'us' : 'road'}.edition`, route.on);
  if (!held) {
    r.cite('no-edition');
    r.say('no edition held for this day');
    return r.leaf('hold', null, null);
  }
  r.cite(held.id);
  if (chemistry === 'ni-mh') {
    if (state.condition === 'unproven') {
      r.cite('unknown');
      r.say('examine the pack');
      return r.leaf('hold', null, null, null, ['findings']);
    }
    if (sea) {
      r.cite('sea.ni-mh');
      const limit = SHIPPING.any('sea.ni-mh').figures.unitKg!;
      r.say(`at most ${limit} kg in a transport unit; above it UN 3496`);
      if ((r.peek<number>('consignment.netKgTransportUnit') ?? 0) > limit) return r.leaf('hold', null, 'UN 3496');
    }
    r.cite('ni-mh');
    r.say('cover the contacts against short circuit');
    return r.leaf('allowed', 'none', null, false);
  }
  if (chemistry === 'na-ion') {
    r.say('sodium-ion is outside what is held here: ask a trained person');
    return r.leaf('hold', null, null);
  }
  if (chemistry === undefined) {
    // No two chemistries share their provisions, so the answer always matters.
    r.say('read the chemistry on the label');
    return r.leaf('hold', null, null, null, ['chemistry']);
  }
  const metal = chemistry === 'li-metal';
  if (r.facts.findings?.some((c) => !findingOf(c))) {
    const bad = r.facts.findings.filter((c) => !findingOf(c));
    if (state.condition === 'unproven') {
      r.say(`unknown finding: ${bad.join(', ')}`);
      return r.leaf('hold', null, null, null, ['findings']);
    }
  }
  const condition = conditionOf(r);
  const placement = placementOf(r);
  const un = (metal ? UN.metal : UN.ion)[placement === 'loose' ? 0 : 1];
  const purpose = r.peek<string>('purpose') ?? 'use';
  const q = { metal, placement, un, damaged: condition === 'damaged', recycling: purpose !== 'use', mode };
  return air ? airRoute(r, route, q) : us ? usRoute(r, q) : landRoute(r, q);
}
