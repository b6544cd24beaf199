import { findingOf } from '../condition/findings';
import type { Condition } from '../logbook/entry';
import { airRoute } from './air';
import { MODES, type Mode, type Placement, type Route } from './facts';
import type { Leaf, Reader } from './leaf';
import { landRoute } from './land';
import { SHIPPING } from './rulebook';

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

  if (state.condition === 'critical') {
    r.peek('findings');
    r.cite('critical');
    r.say('do not move it; leave, alarm, call: follow the site emergency plan');
    r.say('a way out only once it is stable: tested packaging, an authority’s approval or a permit');
    const fitted = r.peek<Placement>('placement');
    const un = chemistry === 'li-metal' ? UN.metal : UN.ion;
    const lithium = chemistry === undefined || chemistry === 'li-ion' || chemistry === 'li-metal';
    return r.leaf(
      'forbidden',
      lithium ? (air ? 'A154' : 'SP376-P911') : null,
      lithium ? un[fitted && fitted !== 'loose' ? 1 : 0] : null,
    );
  }
  if (chemistry === 'none') {
    r.cite('not-dangerous');
    return r.leaf('allowed', 'none', null, false);
  }
  const held = SHIPPING.on(air ? 'air.edition' : 'road.edition', route.on);
  const inScope = air || ((mode === 'road' || mode === 'rail') && route.region !== 'us');
  if (!held || !inScope) {
    r.cite('no-edition');
    r.say(inScope ? 'no edition held for this day' : 'the rules of this route are not held here: ask a trained person');
    return r.leaf('hold', null, null);
  }
  r.cite(held.id);
  if (chemistry === 'ni-mh') {
    if (state.condition === 'unproven') {
      r.cite('unknown');
      r.say('examine the pack');
      return r.leaf('hold', null, null, null, ['findings']);
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
  return air ? airRoute(r, route, q) : landRoute(r, q);
}
