import { findingOf, type PackFacts, type PolicyFacts, type Ruling, type SiteCard } from '@gavrel/core';
import { useState } from 'react';
import type { ReportPaper } from '../../paper/draw';
import { print } from '../../paper/print';
import { useAppSelector } from '../../state';
import { rulingOf, useZone } from '../../state/rulings';
import { Button } from '../../ui/buttons';
import { Card } from '../../ui/frame';
import { exactWords } from '../../ui/say';
import { Words } from '../../ui/words';

const line = (what: string, known?: string): string => `${what}: ${known || '____________________'}`;

/**
 * What an authority's approval and a salvage packaging ask for, filled with what is known. Gavrel sends no critical pack: this is for whoever
 * asks the authority. From memory: ADR/RID and IMDG 4.1.4.1 P911, LP906; SP 376; 49 CFR 173.21(c).
 */
export function approvalPaper(
  f: PackFacts,
  { judgement: j, shipping }: Ruling,
  site: SiteCard | null,
  workshop: string,
  on: string,
): ReportPaper {
  const figure = (x: number | undefined, unit: string) => (x === undefined ? undefined : `${x} ${unit}`);
  const found = [...new Set(j.findings.map((x) => findingOf(x.code)?.words ?? x.code))];
  return {
    workshop,
    title: `Critical pack ${f.tag}`,
    owner: '',
    date: on,
    band: 'Not dispatched. Stay away, call, wait for the authority.',
    sections: [
      {
        title: 'Now',
        lines: [
          ...(site ? [`Emergency ${site.emergencyNumber}; assembly point ${site.assemblyPoint}; then ${site.callFirst}`] : []),
          'Nobody moves it before trained people say so; no carrier takes it without an approval.',
        ],
      },
      {
        title: 'The pack',
        lines: [
          line('type code', j.label.all.typeCode),
          line('chemistry', j.label.all.chemistry),
          line('volts', figure(shipping.nominalVoltage, 'V')),
          line('watt-hours', figure(shipping.ratedEnergy, 'Wh')),
          line('weight', figure(shipping.mass, 'kg')),
          line('charge', figure(shipping.stateOfCharge, '% of rated at most')),
          line('made', shipping.madeOn),
          line('number of packs', '1'),
        ],
      },
      { title: 'Condition', lines: [j.condition, ...found, ...j.because.slice(0, 4)] },
      {
        title: 'Seen by',
        lines: f.findings.map((x) => `${findingOf(x.body.code)?.words ?? x.body.code}, ${exactWords(x.at)}`),
      },
      {
        title: 'What the approval asks for',
        lines: [
          line('competent authority, and its number'),
          line('packaging proposed, tested for it (P911, LP906): ordered, never improvised'),
          line('route, vehicle, people'),
          line('how it is kept cool, watched and reached on the way'),
          line('who takes it, and what they do with it'),
        ],
      },
    ],
    foot: 'From memory: ask the competent authority what it wants. It does not state that a pack is safe, or may be moved.',
  };
}

/** Critical packs: never dispatched from here; what is asked for is written down. */
export function CriticalCard() {
  const { packs, policy } = useAppSelector((s) => s.logbook);
  const workshop = useAppSelector((s) => s.session.session?.workshop.name ?? '');
  const zone = useZone();
  const [trouble, setTrouble] = useState('');
  const critical = criticalOf(Object.values(packs), policy, zone);
  if (critical.length === 0) return null;
  const paper = (f: PackFacts, r: Ruling) => {
    setTrouble('');
    const order = approvalPaper(f, r, policy.siteCard, workshop, r.on);
    void print(`approval-${f.tag}`, { kind: 'report', paper: order }).catch((e: Error) => setTrouble(e.message));
  };
  return (
    <Card title="Not dispatched" testID="card-critical">
      <Words bold>{`Critical: ${critical.map((c) => c.f.tag).join(', ')}`}</Words>
      {critical.map(({ f, r }) => (
        <Button
          key={f.id}
          label={`What an approval asks for, ${f.tag}`}
          height={56}
          onPress={() => paper(f, r)}
          testID={`approval-${f.tag}`}
        />
      ))}
      {trouble ? <Words bold>{trouble}</Words> : null}
    </Card>
  );
}

const criticalOf = (packs: readonly PackFacts[], policy: PolicyFacts, zone: string) =>
  packs
    .filter((f) => f.left === null)
    .map((f) => ({ f, r: rulingOf(f, policy, zone) }))
    .filter(({ r }) => r.judgement.condition === 'critical');
