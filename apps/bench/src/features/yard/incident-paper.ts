import { condition, type IncidentFacts, type PackFacts, type PlaceFacts, type PolicyFacts, show, storedOf } from '@gavrel/core';
import type { ReportPaper } from '../../paper/draw';
import { exactWords } from '../../ui/say';
import { incidentWords, SORT_WORDS } from '../../stock/incident-words';
import { energyWords, packsWord } from '../../stock/place-words';

/** Everything in the order it happened, each with who wrote it. */
export function courseOf(
  i: IncidentFacts,
  nameOf: (person: string) => string,
): { readonly at: string; readonly words: string }[] {
  return [
    { at: i.at, words: `${i.what.map((w) => SORT_WORDS[w]).join(', ')}, ${nameOf(i.by)}` },
    ...i.steps.map((s) => ({ at: s.at, words: `${s.body.step}${s.body.note ? `: ${s.body.note}` : ''}, ${nameOf(s.by)}` })),
    ...i.looks.map((l) => ({
      at: l.at,
      words: `looked again, nothing seen${l.body.temperature ? `, ${show(l.body.temperature)}` : ''}, ${nameOf(l.by)}`,
    })),
    ...(i.closed
      ? [
          {
            at: i.closed.at,
            words: `declared over${i.closed.falseAlarm ? ' as a false alarm' : ''}: ${i.closed.reason}; by ${i.closed.by.map(nameOf).join(', ')}, signed by ${i.closed.signedBy.map(nameOf).join(', ')}`,
          },
        ]
      : []),
  ].sort((a, b) => (a.at < b.at ? -1 : 1));
}

/** The record for the insurer: what, where, what lay there, what was done and when. */
export function incidentPaper(
  i: IncidentFacts,
  packs: readonly PackFacts[],
  places: Readonly<Record<string, PlaceFacts>>,
  policy: PolicyFacts,
  nameOf: (person: string) => string,
  workshop: string,
  now: Date,
): ReportPaper {
  const stored = packs.map((f) => ({ f, s: storedOf(f, condition(f, policy, now), policy) }));
  const known = stored.reduce((sum, x) => sum + (x.s.wattHours ?? 0), 0);
  const unknown = stored.filter((x) => x.s.wattHours === null).length;
  return {
    workshop,
    title: 'Record of an incident',
    owner: '',
    date: exactWords(now.toISOString()),
    sections: [
      { title: 'What', lines: [incidentWords(i, places), `first written down ${exactWords(i.at)}`, ...i.notes] },
      { title: 'Course', lines: courseOf(i, nameOf).map((c) => `${exactWords(c.at)}: ${c.words}`) },
      {
        title: `What lay there: ${packsWord(stored.length)}, ${energyWords(known, unknown)} declared when full`,
        lines: stored.map(({ f, s }) => {
          const energy = s.wattHours === null ? 'energy not known' : `${s.wattHours} Wh`;
          return `${f.tag}: ${energy}, ${s.condition} now${i.sources.includes(f.id) ? ', said to be the source' : ''}`;
        }),
      },
      {
        title: 'Pictures',
        lines: packs.flatMap((f) => f.photos.map((p) => `${f.tag}, ${exactWords(p.at)}: ${p.body.of}, sha256 ${p.body.sha256}`)),
      },
    ].filter((s) => s.lines.length > 0),
    foot: i.closed
      ? 'From what was written down. It names no cause: that is for those who investigate.'
      : 'Not over: from what was written down until now. It names no cause: that is for those who investigate.',
  };
}
