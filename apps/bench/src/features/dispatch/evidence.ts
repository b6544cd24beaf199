import { findingOf, type PackFacts, type PolicyFacts, show } from '@gavrel/core';
import type { ReportPaper, ReportPicture, ReportSection } from '../../paper/draw';
import { conditionOf } from '../../state/rulings';
import { exactWords } from '../../ui/say';
import type { ConsignmentView } from './view';
import { nameOf } from './words';

/** Bytes of a picture; null where it is not to be had. */
type Fetched = (sha256: string) => Promise<Uint8Array | null>;

/** One pack with everything that was read, measured and found, by whom and with what, in the order of time. */
async function packSection(
  f: PackFacts,
  policy: PolicyFacts,
  who: (id: string) => string,
  fetched: Fetched,
): Promise<ReportSection> {
  const said = (at: string, by: string, words: string) => ({ at, line: `${exactWords(at)}, ${who(by)}: ${words}` });
  const j = conditionOf(f, policy);
  const { typeCode, serial, madeOn } = j.label.all;
  const lines = [
    ...f.readings.map((r) =>
      said(
        r.at,
        r.by,
        `${r.body.quantity.replace(/-/g, ' ')}${r.body.point ? ` ${r.body.point}` : ''} ${show(r.body.figure)}${r.body.instrument ? `, ${r.body.instrument.name}` : ''}${r.doubted ? ' (questioned)' : ''}`,
      ),
    ),
    ...f.findings.map((x) =>
      said(x.at, x.by, `found: ${findingOf(x.body.code)?.words ?? x.body.code}${x.body.note ? ` (${x.body.note})` : ''}`),
    ),
    ...f.looks.map((l) => said(l.at, l.by, `looked, nothing found: ${l.body.groups.join(', ')}`)),
    ...f.photos.map((p) => said(p.at, p.by, `picture of the ${p.body.of}, SHA-256 ${p.body.sha256.slice(0, 16)}…`)),
  ].sort((a, b) => (a.at < b.at ? -1 : 1));
  return {
    title: `${f.tag}: ${j.condition}`,
    lines: [
      [
        typeCode ?? 'no type code read',
        serial && `serial ${serial}`,
        madeOn && `made ${madeOn}`,
        f.source.supplier && `from ${f.source.supplier}`,
        f.source.lot && `lot ${f.source.lot}`,
      ]
        .filter(Boolean)
        .join(', '),
      ...lines.map((l) => l.line),
    ],
    pictures: await pictured(f.photos, who, fetched),
  };
}

/** Pictures with who took them when, and by what hash they can be told from others. */
const pictured = (photos: PackFacts['photos'], who: (id: string) => string, fetched: Fetched): Promise<ReportPicture[]> =>
  Promise.all(
    photos.map(async ({ at, by, body }) => ({
      words: `${body.of}, ${exactWords(at)}, ${who(by)}, SHA-256 ${body.sha256}`,
      type: body.type,
      bytes: await fetched(body.sha256),
    })),
  );

/** What a seller or a maker is shown: readings with instruments, findings, pictures with their hashes, and through whose hands it went. */
export async function evidencePaper(
  v: ConsignmentView,
  packs: Readonly<Record<string, PackFacts>>,
  policy: PolicyFacts,
  people: readonly { readonly id: string; readonly name: string }[],
  workshop: string,
  fetched: Fetched,
): Promise<ReportPaper> {
  const names = new Map(people.map((p) => [p.id, p.name]));
  const who = (id: string) => names.get(id) ?? 'somebody who left';
  const { facts } = v;
  const hands = [
    `${exactWords(facts.at)}: consignment begun by ${who(facts.by)}`,
    ...(facts.plan ? [`${exactWords(facts.plan.at)}: planned by ${who(facts.plan.by)}`] : []),
    ...Object.values(facts.closed).map(
      (c) => `${exactWords(c.at)}: package closed by ${who(c.by)}${c.seal ? `, seal ${c.seal}` : ''}`,
    ),
    ...(facts.sent ? [`${exactWords(facts.sent.at)}: handed to ${facts.sent.to} by ${who(facts.sent.by)}`] : []),
  ];
  return {
    workshop,
    title: `Evidence: ${nameOf(facts)}`,
    owner: '',
    date: v.today,
    sections: [
      ...(await Promise.all(v.state.packs.flatMap((id) => packs[id] ?? []).map((f) => packSection(f, policy, who, fetched)))),
      { title: 'Through whose hands', lines: hands, pictures: await pictured(facts.photos, who, fetched) },
    ],
    foot: 'As recorded. Questioned readings are marked. It does not state that a pack is safe.',
  };
}
