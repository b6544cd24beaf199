import { counted } from '@gavrel/core';
import { type ShelfLine, shelfPlan, STORE } from '@gavrel/core/care';
import { differenceInCalendarDays, format, parseISO } from 'date-fns';
import { router } from 'expo-router';
import { useMemo } from 'react';
import { Pressable, View } from 'react-native';
import { useAppSelector } from '../../state';
import { rulingOf, useZone } from '../../state/rulings';
import { useTokens } from '../../theme';
import { Sheet } from '../../ui/sheet';
import { Figures, Words } from '../../ui/words';

/** "top up by 3 Mar 2027", "top up now", "read its charge". */
function askWords(l: ShelfLine, now: Date): string {
  if (l.topUpBy === null) return 'read its charge';
  return parseISO(l.topUpBy) <= now ? 'top up now' : `top up by ${format(parseISO(l.topUpBy), 'd MMM yyyy')}`;
}

function lyingWords(l: ShelfLine, now: Date): string {
  const days = l.since === null ? null : differenceInCalendarDays(now, parseISO(l.since));
  return days === null ? 'nobody said since when' : `${counted(days, 'day')} here`;
}

/** The sound packs on the shelves: which must be topped up next, how long each has lain, which lies too full. */
export function ShelfSheet({ onClose }: { onClose: () => void }) {
  const t = useTokens();
  const { packs, policy, places } = useAppSelector((s) => s.logbook);
  const zone = useZone();
  const plan = useMemo(
    () => shelfPlan(Object.values(packs).map((facts) => ({ facts, ruling: rulingOf(facts, policy, zone) }))),
    [packs, policy, zone],
  );
  const now = new Date();
  return (
    <Sheet title="Top-up plan" onClose={onClose}>
      <Words>{`Sound packs keep best at ${STORE.lo} to ${STORE.hi} %. In their own machine, with its own adapter, somebody there.`}</Words>
      {plan.length === 0 ? <Words bold>No sound pack lies here.</Words> : null}
      {plan.map((l) => (
        <Pressable
          key={l.id}
          role="link"
          onPress={() => {
            onClose();
            router.push(`/pack/${l.id}`);
          }}
          style={{ minHeight: 56, paddingVertical: 8, gap: 2, borderTopWidth: 1, borderColor: t.wash }}
          testID={`shelf-${l.tag}`}
        >
          <View style={{ flexDirection: 'row', justifyContent: 'space-between', gap: 8 }}>
            <Figures bold>{l.tag}</Figures>
            <Words bold={l.topUpBy === null || parseISO(l.topUpBy) <= now}>{askWords(l, now)}</Words>
          </View>
          <Words size={15} soft>
            {[
              l.charge && `${Math.round(l.charge.lo)} to ${Math.round(l.charge.hi)} % when measured`,
              l.high && 'lies too full: bring it down',
              lyingWords(l, now),
              l.place === null ? 'on no place' : (places[l.place]?.name ?? ''),
            ]
              .filter(Boolean)
              .join(', ')}
          </Words>
        </Pressable>
      ))}
      <Words size={14} soft>
        By usual drains at 20 to 25 °C, from memory: the soonest day counts.
      </Words>
    </Sheet>
  );
}
