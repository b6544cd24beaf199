import { mergeLabels, type PackFacts, typeKey, counted } from '@gavrel/core';
import { type AgeGroup, byAge } from '@gavrel/core/care';
import { useMemo } from 'react';
import { useAppSelector } from '../state';
import { Card } from '../ui/frame';
import { Figures, Words } from '../ui/words';

/** Packs of one type code, whatever became of them. */
function useOfType(code: string): readonly PackFacts[] {
  const packs = useAppSelector((s) => s.logbook.packs);
  return useMemo(() => {
    const key = typeKey(code);
    return key === '' ? [] : Object.values(packs).filter((p) => typeKey(mergeLabels(p.labels).sure.typeCode ?? '') === key);
  }, [packs, code]);
}

const ageWords = (years: number | null): string =>
  years === null ? 'age not known' : years === 0 ? 'under a year' : counted(years, 'year');
const spanWords = (what: string, i: AgeGroup['health'], decimals: number): string =>
  i === null ? '' : `${what} ${i.lo.toFixed(decimals)} to ${i.hi.toFixed(decimals)} %`;

/** What became of packs of this type as they grew older: what to expect of the one in hand. Nothing while there is only one. */
export function TypeCard({ code }: { code: string }) {
  const all = useOfType(code);
  const partly = useAppSelector((s) => s.logbook.holds !== null);
  const groups = useMemo(() => byAge(all, new Date()), [all]);
  if (all.length < 2 || groups.every((g) => g.health === null && g.growth === null)) return null;
  return (
    <Card title={`Packs of type ${code}`} right={<Figures>{all.length}</Figures>} testID="card-type">
      {groups.map((g) => (
        <Words key={String(g.years)}>
          <Words bold>{ageWords(g.years)}</Words>
          {`: ${[counted(g.packs, 'pack'), spanWords('health', g.health, 0), spanWords('growth', g.growth, 1)]
            .filter(Boolean)
            .join(', ')}`}
        </Words>
      ))}
      <Words size={14} soft>
        {`From the lowest to the highest that any of them may have${partly ? ', of those this device holds' : ''}. Wear is no danger by itself.`}
      </Words>
    </Card>
  );
}
