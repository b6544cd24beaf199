import { findPack, localDay, matchCode } from '@gavrel/core';
import { type Criterion, type Match, matchPacks, type MatchVerdict } from '@gavrel/core/job';
import { useMemo } from 'react';
import { View } from 'react-native';
import { useAppSelector } from '../../state';
import { columnsOf, rulingOf, useZone } from '../../state/rulings';
import { useTokens } from '../../theme';
import { ConditionShape } from '../../ui/shape';
import { Figures, Words } from '../../ui/words';
import type { JobView, RuledPack } from './view';

export const MARK: Record<MatchVerdict, string> = { fits: '○', 'not known yet': '…', 'does not fit': '×' };
const ORDER: readonly MatchVerdict[] = ['fits', 'not known yet', 'does not fit'];

export interface Ranked {
  readonly pack: RuledPack;
  readonly match: Match;
}

/** New packs and spares, those that fit first. */
export function useCandidates(v: JobView, old: RuledPack | undefined, search: string): readonly Ranked[] {
  const { packs, policy } = useAppSelector((s) => s.logbook);
  const zone = useZone();
  return useMemo(() => {
    if (!old) return [];
    const today = localDay(zone, new Date());
    return Object.values(packs)
      .filter(
        (f) =>
          f.left === null &&
          (f.use === 'spare' || f.use === 'replacement') &&
          (f.job === null || f.job === v.job.id || f.use === 'spare'),
      )
      .map((facts): Ranked => {
        const ruling = rulingOf(facts, policy, zone);
        const pack = { facts, judgement: ruling.judgement, ruling };
        return { pack, match: matchPacks(old, pack, today) };
      })
      .filter((r) => findPack(columnsOf(r.pack.facts), search) !== null)
      .sort(
        (a, b) => ORDER.indexOf(a.match.verdict) - ORDER.indexOf(b.match.verdict) || (a.pack.facts.job === v.job.id ? -1 : 1),
      );
  }, [old, packs, policy, search, v.job.id, zone]);
}

/** What stops it first, or what nobody has looked at yet. */
const whyWords = (c: Criterion): string => (c.result === 'unknown' ? c.title : `${c.title}: ${c.words}`);

/** A pack that might go in: its code, how well it was read, and what stops it first. */
export function Candidate({ c, picked, search }: { c: Ranked; picked: boolean; search: string }) {
  const t = useTokens();
  const ink = picked ? t.ground : t.ink;
  const code = c.pack.judgement.label.all.typeCode ?? '';
  const match = search.trim() === '' ? null : matchCode(search, code);
  const forgiven = match?.kind === 'forgiven' ? match.pairs.join(', ') : null;
  const why = c.match.criteria.find((x) => x.result === 'differs') ?? c.match.criteria.find((x) => x.result === 'unknown');
  return (
    <View style={{ width: '100%', flexDirection: 'row', alignItems: 'center', gap: 10 }}>
      <ConditionShape condition={c.pack.judgement.condition} size={24} color={ink} named />
      <View style={{ flex: 1 }}>
        <Words color={ink}>
          <Figures bold color={ink}>
            {c.pack.facts.tag}
          </Figures>
          {`  ${code}`}
        </Words>
        <Words size={15} color={ink}>
          <Words bold size={15} color={ink}>{`${MARK[c.match.verdict]} ${c.match.verdict}`}</Words>
          {`, ${forgiven ?? (why ? whyWords(why) : c.pack.facts.use)}`}
        </Words>
      </View>
    </View>
  );
}
