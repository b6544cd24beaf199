import { type CarrierFacts, type ConsignmentFacts, type PolicyFacts, WASTE } from '@gavrel/core';
import { type Movement, type MovementStep, movementOf } from '@gavrel/core/consignment';
import { draftBand, fromMemory } from '@gavrel/core/dispatch';
import type { ReportPaper } from '../../paper/draw';
import { documentLines, type Parties, tripOf } from './papers';
import type { ConsignmentView } from './view';
import { nameOf, packagesWord, packsWord } from './words';

export const isWaste = (v: Pick<ConsignmentView, 'facts'>): boolean =>
  v.facts.destination === 'recycler' || v.facts.destination === 'disposal';

export const carrierOf = (v: ConsignmentView): CarrierFacts | undefined => v.means.carriers.find((c) => c.id === v.facts.carrier);

/** The permit that was given last for such a destination; of the same addressee only, where one is named. */
export function permitBefore(c: ConsignmentFacts, all: readonly ConsignmentFacts[]): string | null {
  const [last] = all
    .filter((x) => x.id !== c.id && x.destination === c.destination && (x.permit ?? '') !== '')
    .filter((x) => c.addressee === undefined || x.addressee === c.addressee)
    .sort((a, b) => (a.lastAt > b.lastAt ? -1 : 1));
  return last?.permit ?? null;
}

/** What the waste law asks of the consignment, for its day and region. */
export const movementFor = (v: ConsignmentView, policy: Pick<PolicyFacts, 'wasteCode' | 'wasteProducer'>): Movement => {
  const { on, region } = tripOf(v);
  return movementOf({
    region,
    on,
    code: policy.wasteCode,
    crossesBorder: v.facts.crossesBorder ?? null,
    producer: policy.wasteProducer,
    carrier: carrierOf(v)?.wasteRegistration ?? null,
    consignee: v.facts.permit ?? null,
    notification: v.facts.notification ?? null,
  });
};

/** Packs of it that are not known to be lithium, whose code and duties are others; empty where all are. */
export function notLithium(v: Pick<ConsignmentView, 'sendings'>): string[] {
  const lithium: readonly (string | undefined)[] = ['li-ion', 'li-metal'];
  return [...v.sendings.values()].filter((s) => !lithium.includes(s.shipping.chemistry)).map((s) => s.tag);
}

/** Tags that are named; of more the number is said. */
const NAMED = 12;

/** What is said of them. */
export function otherWords(tags: readonly string[]): string {
  if (tags.length === 0) return '';
  const more = tags.length > NAMED ? ` and ${tags.length - NAMED} more` : '';
  return `Not known to be lithium: ${tags.slice(0, NAMED).join(', ')}${more}. The code is that of lithium; look theirs up.`;
}

/** "16 06 07*, hazardous"; what is said where there is no code. */
export const codeWords = ({ code, hazardous }: Movement): string =>
  code === null ? 'no code of the list of waste' : `${code}, ${hazardous ? 'hazardous' : 'not hazardous'} by the code`;

/** A step with its answer, or with what is still open. */
export const stepWords = (s: MovementStep): string =>
  s.asks === null ? s.what : `${s.what}${s.what.endsWith('?') ? '' : ':'} ${s.known ?? 'not said'}`;

/** The consignment as waste, as data. */
export const wasteData = (v: ConsignmentView, policy: Pick<PolicyFacts, 'wasteCode' | 'wasteProducer'>) => {
  const { code, hazardous, steps } = movementFor(v, policy);
  return { code, hazardous, steps: steps.map(({ asks, what, known, rule }) => ({ asks, what, known, rule })) };
};

/** The data of the note that goes with waste, with room for the signatures of both. */
export function wastePaper(v: ConsignmentView, parties: Parties, policy: PolicyFacts, workshop: string): ReportPaper {
  const m = movementFor(v, policy);
  const { on } = tripOf(v);
  const others = otherWords(notLithium(v));
  const answer = (asks: MovementStep['asks']) => m.steps.filter((s) => s.asks === asks).map(stepWords);
  const packs = v.facts.sent?.packs.length ?? v.state.packs.length;
  const dots = '. '.repeat(30);
  return {
    workshop,
    title: `${nameOf(v.facts)}: waste note`,
    owner: '',
    date: `dispatch on ${on}`,
    band: draftBand(fromMemory([...m.rules], on, policy, WASTE)) ?? undefined,
    sections: [
      { title: 'Producer', lines: [...parties.from, ...answer('producer')] },
      { title: 'Carrier', lines: [v.facts.sent?.to ?? carrierOf(v)?.name ?? 'not said yet', ...answer('carrier')] },
      { title: 'Consignee', lines: [...(parties.to.length > 0 ? parties.to : ['not said yet']), ...answer('consignee')] },
      { title: 'Waste', lines: [`batteries from notebooks, ${codeWords(m)}`, ...(others === '' ? [] : [others])] },
      { title: 'Quantity', lines: [`${packsWord(packs)} in ${packagesWord(v.packages.length)}`, ...documentLines(v)] },
      { title: 'Border', lines: [...answer('crossesBorder'), ...answer('notification')] },
      { title: 'To do', lines: [...answer(null), ...(m.says ? [m.says] : [])] },
      { title: 'Handed over, name and day', lines: [dots] },
      { title: 'Taken over, name and day', lines: [dots] },
      { title: 'Received, name and day', lines: [dots] },
      { title: 'By', lines: m.rules.map((id) => WASTE.shown(id, on)).map((r) => `${r.title} (${r.source})`) },
    ].filter((s) => s.lines.length > 0),
    foot: 'Data for the note that the authority prescribes, not the form itself. It does not state that a pack is safe. Local law, the authority and trained people decide.',
  };
}
