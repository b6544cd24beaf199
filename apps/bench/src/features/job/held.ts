import type { RuledPack } from '../../stock/job-state';

type Known = Pick<RuledPack, 'facts' | 'judgement'>;

const isBad = (p: Known): boolean => p.judgement.condition === 'damaged' || p.judgement.condition === 'critical';

/**
 * Why a pack does not go into the machine; empty where nothing is against it. A match says that it fits, not that it still is sound.
 * @param p missing where this device does not hold it. @param within it is in the machine already: then a look that grew old is nothing against it.
 */
export function whyNotFitted(p: Known | undefined, within: boolean): string {
  if (!p) return 'What is known of it is not on this device: find it by its tag first.';
  const { condition } = p.judgement;
  if (within ? !isBad(p) : condition === 'sound') return '';
  return `${p.facts.tag} is ${condition}: ${within ? 'take it out again first.' : 'only a sound pack goes in.'}`;
}

/** Why packs do not leave with the owner of a machine; empty where they may. @param packs that would leave. */
export const whyNotLeaving = (packs: readonly Known[]): string =>
  packs
    .flatMap((p) => {
      const { tag, use, incidents } = p.facts;
      if (p.judgement.condition === 'critical') return [`${tag} is critical: it goes nowhere. Leave, alarm, call.`];
      if (incidents.some((i) => i.body.frozen)) return [`${tag} is held by an incident until it is declared over.`];
      return use === 'fitted' && isBad(p) ? [`${tag} in the machine is damaged: it comes out first.`] : [];
    })
    .join(' ');
