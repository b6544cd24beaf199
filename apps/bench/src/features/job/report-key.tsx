import { findingOf, foundWords, localDay, PROOFS, counted } from '@gavrel/core';
import { useState } from 'react';
import { useAppSelector } from '../../state';
import { useZone } from '../../state/rulings';
import { Button } from '../../ui/buttons';
import { Words } from '../../ui/words';
import type { JobView, RuledPack } from './view';
import type { ReportPaper } from '../../paper/draw';
import { print } from '../../paper/print';

const packWords = (p: RuledPack) => {
  const found = foundWords(p.judgement.findings.filter((f) => f.state === 'stands'));
  return `Pack ${p.facts.tag}: ${p.judgement.condition}${found.length > 0 ? ` (${found.join('; ')})` : ''}.`;
};

/** What the owner's page says: found, done, to know. */
export function reportOf(v: Omit<JobView, 'say' | 'write'>, workshop: string, owner: string, today: string): ReportPaper {
  const { job, notebook, inside } = v;
  const health = inside.flatMap((p) =>
    p.ruling.electrical.health
      ? [`Its gauge gives ${Math.round(p.ruling.electrical.health.percent)} % of the capacity it had when new.`]
      : [],
  );
  const onMachine = (notebook?.findings ?? []).map(
    (f) => `Seen on the machine: ${findingOf(f.body.code)?.words ?? f.body.code}${f.body.note ? `, ${f.body.note}` : ''}.`,
  );
  const fitted = v.packs.find((p) => p.facts.id === job.fittedPack);
  const damaged = inside.some((p) => p.judgement.condition === 'damaged' || p.judgement.condition === 'critical');
  const missing = job.fasteners?.body.screws.filter((s) => s.state === 'missing').length ?? 0;
  const proof = PROOFS.filter((p) => job.proof[p] === 'owed');
  return {
    workshop,
    title: `${[notebook?.maker, notebook?.model].filter(Boolean).join(' ') || 'Notebook'} ${notebook?.tag ?? ''}`,
    owner,
    date: today,
    sections: [
      {
        title: 'What was found',
        lines: [
          ...(job.complaint ? [`You told us: ${job.complaint}.`] : []),
          ...onMachine,
          ...inside.map(packWords),
          ...health,
          ...(missing > 0 ? [`${counted(missing, 'screw was', 'screws were')} missing when it came.`] : []),
        ],
      },
      {
        title: 'What was done',
        lines: [
          ...(job.cover ? ['The machine was opened.'] : []),
          ...job.removals.map((r) => `Pack ${v.packs.find((p) => p.facts.id === r.pack)?.facts.tag ?? ''} was taken out.`),
          ...(fitted
            ? [`Pack ${fitted.facts.tag} was fitted${fitted.facts.source.school ? ` (${fitted.facts.source.school})` : ''}.`]
            : []),
          ...(job.refitted
            ? [
                `Closed again with ${counted(
                  job.refitted.body.back.reduce((n, b) => n + b.count, 0),
                  'screw',
                )}.`,
              ]
            : []),
          ...PROOFS.filter((p) => job.proof[p] === 'yes').map(
            (p) =>
              `Shown: it ${{ starts: 'starts', seen: 'sees the pack', charges: 'charges', gauge: 'reads its gauge plausibly' }[p]}.`,
          ),
        ],
      },
      {
        title: 'What you should know',
        lines: [
          ...(damaged
            ? [
                'The old pack is damaged. It must not be charged or used, never goes in a bin or in the post, and is kept apart until a recycler takes it.',
              ]
            : []),
          ...(job.handedOver?.body.oldPack === 'given back'
            ? ['The old pack was given back to you. Cover its contacts; take it to a collection point.']
            : []),
          ...(proof.length > 0 ? [`Still to be shown: ${proof.join(', ')}.`] : []),
          'Stop using it and keep it away from what burns if it swells, smells sweet, hisses or gets hot. With smoke: leave and call the fire service.',
          'Charge it attended at first. Local rules and trained people decide what may travel.',
        ],
      },
    ],
    foot: 'This page tells what was seen and done on that day. It does not state that a pack is safe.',
  };
}

/** A page for the owner, as PDF. */
export function ReportKey({ v, owner }: { v: JobView; owner: string }) {
  const workshop = useAppSelector((s) => s.session.session?.workshop.name ?? '');
  const zone = useZone();
  const [trouble, setTrouble] = useState('');
  const go = () => {
    setTrouble('');
    const paper = reportOf(v, workshop, owner, localDay(zone, new Date()));
    void print(`report-${v.notebook?.tag ?? 'job'}`, { kind: 'report', paper }).catch((e: Error) => setTrouble(e.message));
  };
  return (
    <>
      <Button label="Page for the owner" onPress={go} testID="print-report" />
      {trouble ? <Words bold>{trouble}</Words> : null}
    </>
  );
}
