import { type PackFacts, type PolicyFacts, type Region, value, wasteOf, counted } from '@gavrel/core';
import { writeList } from '@gavrel/core/batch';
import type { ReportPaper } from '../../paper/draw';
import { conditionOf } from '../../state/rulings';

/** One pack as a manifest lists it. */
export interface ManifestLine {
  /** Of the pack. */
  readonly id: string;
  readonly tag: string;
  readonly code: string;
  readonly chemistry: string;
  readonly wattHours: string;
  readonly kg: string;
  readonly condition: string;
  readonly since: string;
}

const HEAD = ['tag', 'type code', 'chemistry', 'Wh', 'kg', 'condition', 'waste since'] as const;

export function manifestLines(packs: readonly PackFacts[], policy: PolicyFacts, day: (iso: string) => string): ManifestLine[] {
  return packs
    .map((f) => {
      const j = conditionOf(f, policy);
      const label = j.label.all;
      const mass = f.readings.filter((r) => r.body.quantity === 'mass' && !r.doubted).pop();
      const kg = mass ? value(mass.body.figure) : null;
      return {
        id: f.id,
        tag: f.tag,
        code: label.typeCode ?? '',
        chemistry: label.chemistry ?? 'not known',
        wattHours: label.ratedEnergy ? String(value(label.ratedEnergy)) : '',
        kg: kg === null ? 'not weighed' : kg.toFixed(3),
        condition: j.condition,
        since: f.wasteSince ? day(f.wasteSince) : 'not known',
      };
    })
    .sort((a, b) => (a.tag < b.tag ? -1 : 1));
}

export const manifestCsv = (lines: readonly ManifestLine[]): string =>
  writeList(
    HEAD,
    lines.map((l) => [l.tag, l.code, l.chemistry, l.wattHours, l.kg, l.condition, l.since]),
  );

/** Label text of a drum by region: what is asked for, from memory; the authority's own words count. */
export function drumWords(region: Region, on: string, code: string | null): string[] {
  const w = wasteOf({ condition: 'spent', purpose: 'recycling', since: null, region, on, code });
  return [...(w?.code ? [`waste code ${w.code}`] : []), ...(w?.words ?? [])];
}

/** Asks a recycler to come: what, how much of it was weighed, and by when. */
export function requestPaper(
  drum: string,
  workshop: string,
  date: string,
  by: string | null,
  lines: readonly ManifestLine[],
  words: readonly string[],
): ReportPaper {
  const weighed = lines.filter((l) => l.kg !== 'not weighed');
  const kg = weighed.reduce((sum, l) => sum + Number(l.kg), 0);
  const damaged = lines.filter((l) => l.condition === 'damaged' || l.condition === 'critical').length;
  return {
    workshop,
    title: `Request for a collection, ${drum}`,
    owner: '',
    date,
    sections: [
      {
        title: 'Please collect',
        lines: [
          `${lines.length} battery packs, ${kg.toFixed(1)} kg of ${weighed.length} weighed`,
          `Chemistry: ${[...new Set(lines.map((l) => l.chemistry))].join(', ')}`,
          damaged > 0
            ? `${damaged} of them are damaged: say beforehand how they must be packed`
            : 'None of them is known to be damaged',
          ...(by ? [`It must leave by ${by}`] : []),
        ],
      },
      { title: 'Waste', lines: words },
      { title: 'Please answer', lines: ['Day and time, container you bring, papers you want, who drives.'] },
    ],
    band: 'Draft, from memory: check the waste code and the label with your authority',
    foot: 'Not a transport document. It does not state that a pack is safe.',
  };
}

/** The paper that goes with a drum. Not a transport document. */
export function manifestPaper(
  drum: string,
  workshop: string,
  date: string,
  to: string,
  lines: readonly ManifestLine[],
  words: readonly string[],
): ReportPaper {
  const chemistries = [...new Set(lines.map((l) => l.chemistry))];
  return {
    workshop,
    title: `Manifest, ${drum}`,
    owner: to,
    date,
    sections: [
      {
        title: counted(lines.length, 'pack'),
        lines: lines.map(
          (l) =>
            `${l.tag}, ${l.code || 'no type code'}, ${l.chemistry}, ${l.wattHours || '?'} Wh, ${l.kg === 'not weighed' ? l.kg : `${l.kg} kg`}, ${l.condition}, since ${l.since}`,
        ),
      },
      { title: 'Chemistry', lines: [chemistries.join(', ')] },
      { title: 'Waste', lines: words },
    ],
    band: 'Draft, from memory: check the waste code and the label with your authority',
    foot: 'Not a transport document. It does not state that a pack is safe. A trained person and local law decide.',
  };
}
