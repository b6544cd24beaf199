import type { Stored } from '@gavrel/core';
import { type Assignment, makeRoom, type PlaceState } from '@gavrel/core/place';
import { useEffect, useMemo, useState } from 'react';
import { Pressable, View } from 'react-native';
import { draft } from '../../device/write';
import { useActions } from '../../state/context';
import { useTokens } from '../../theme';
import { Button } from '../../ui/buttons';
import { ConditionShape } from '../../ui/shape';
import { Sheet } from '../../ui/sheet';
import { Figures, Words } from '../../ui/words';
import { ChooseSheet } from '../../stock/choose';
import { useYard } from '../../stock/use-yard';
import { packsWord } from '../../stock/place-words';

/** The plan comes from a worker: hundreds of packs must not hold up the screen. */
function usePlan(chosen: readonly Stored[]): { plan: Assignment | null; trouble: string } {
  const { places } = useYard();
  const [plan, setPlan] = useState<Assignment | null>(null);
  const [trouble, setTrouble] = useState('');
  useEffect(() => {
    setPlan(null);
    if (chosen.length === 0) return;
    const worker = new Worker(new URL('./assign.worker', import.meta.url));
    worker.onmessage = (e: MessageEvent<Assignment>) => setPlan(e.data);
    worker.onerror = () => setTrouble('The plan could not be made: reload the application.');
    worker.postMessage({ chosen, yard: places });
    return () => worker.terminate();
  }, [chosen, places]);
  return { plan, trouble };
}

/** What to do with a pack for which there is no place. */
function advice(s: Stored, places: readonly PlaceState[]): string[] {
  if (s.kind === 'reacting') return ['Do not carry it. Leave, alarm, call.'];
  const room = makeRoom(s, places);
  return room.length > 0 ? room : ['No place here may hold it: add one.'];
}

/** How good the plan is: the best there is, or how many could find a place at most. */
const boundWords = (plan: Assignment): string =>
  plan.best
    ? ' No other plan does better.'
    : plan.placed < plan.atMost
      ? ` At most ${plan.atMost} could find one.`
      : ' No plan places more.';

/** Many packs at once: where each goes, under every limit, with as few moves as can be. They are written once they lie there. */
export function AssignSheet({ onClose }: { onClose: () => void }) {
  const t = useTokens();
  const actions = useActions();
  const yard = useYard();
  const [ids, setIds] = useState<readonly string[]>([]);
  const [choosing, setChoosing] = useState(true);
  const [not, setNot] = useState<ReadonlySet<string>>(new Set());
  const now = ids.flatMap((id) => yard.stock.get(id) ?? []);
  // Planned anew only when something about them changed.
  const digest = JSON.stringify(now);
  const chosen = useMemo(() => JSON.parse(digest) as Stored[], [digest]);
  const { plan, trouble } = usePlan(chosen);
  const nameOf = (id: string | null | undefined) => yard.places.find((p) => p.place.id === id)?.place.name ?? 'not placed';
  const moving = chosen.flatMap((c) => {
    const to = plan?.to.get(c.id) ?? null;
    return to !== null && to !== c.place ? [{ ...c, to }] : [];
  });
  const homeless = plan ? chosen.filter((c) => plan.to.get(c.id) === null) : [];
  const ticked = moving.filter((m) => !not.has(m.id));
  const keep = async () => {
    await actions.write(
      ticked.map((m) => draft('moved', [`pack:${m.id}`, `place:${m.to}`], {})),
      `${packsWord(ticked.length)} moved`,
    );
    onClose();
  };
  const choose = (all: readonly string[]) => {
    setIds(all);
    setChoosing(false);
  };
  // Nothing chosen, nothing to place.
  if (choosing) return <ChooseSheet before={ids} onKeep={choose} onClose={() => (ids.length > 0 ? choose(ids) : onClose())} />;
  return (
    <Sheet
      title="Where to put them"
      onClose={onClose}
      footer={
        <Button
          label={`They lie there now: ${ticked.length}`}
          tone="next"
          height={64}
          disabled={ticked.length === 0}
          onPress={() => keep()}
          testID="keep-moves"
        />
      }
    >
      <Button label={`Choose packs, ${chosen.length}`} onPress={() => setChoosing(true)} testID="assign-choose" />
      {trouble ? <Words bold>{trouble}</Words> : null}
      {plan ? (
        <Words testID="plan">
          {`${chosen.length - moving.length - homeless.length} stay, ${moving.length} move, ${homeless.length} find no place.${boundWords(plan)}`}
        </Words>
      ) : chosen.length > 0 ? (
        <Words>Working it out…</Words>
      ) : null}
      {moving.map((m) => (
        <Pressable
          key={m.id}
          role="checkbox"
          aria-checked={!not.has(m.id)}
          aria-label={`${m.tag} to ${nameOf(m.to)}`}
          onPress={() => {
            const next = new Set(not);
            if (!next.delete(m.id)) next.add(m.id);
            setNot(next);
          }}
          style={{ flexDirection: 'row', alignItems: 'center', gap: 10, minHeight: 56, borderTopWidth: 1, borderColor: t.wash }}
        >
          <View
            style={{ width: 24, height: 24, borderWidth: 2, borderColor: t.ink, alignItems: 'center', justifyContent: 'center' }}
          >
            {not.has(m.id) ? null : <View style={{ width: 14, height: 14, backgroundColor: t.ink }} />}
          </View>
          <ConditionShape condition={m.condition} size={20} />
          <Figures bold>{m.tag}</Figures>
          <View style={{ flex: 1 }}>
            <Words bold size={15} style={{ textAlign: 'right' }}>
              {nameOf(m.to)}
            </Words>
            <Words size={14} soft style={{ textAlign: 'right' }}>
              {`from ${nameOf(m.place)}`}
            </Words>
          </View>
        </Pressable>
      ))}
      {homeless.map((h) => (
        <View key={h.id} style={{ gap: 2 }}>
          <Words bold>{`${h.tag}, ${h.condition}: no place`}</Words>
          {advice(h, yard.places).map((w) => (
            <Words key={w} size={15}>
              {w}
            </Words>
          ))}
        </View>
      ))}
    </Sheet>
  );
}
