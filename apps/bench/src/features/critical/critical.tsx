import { ladder, storageOrder } from '@gavrel/core';
import { useEffect, useMemo, useRef } from 'react';
import { Modal, ScrollView, View } from 'react-native';
import { useAppDispatch, useAppSelector } from '../../state';
import { rulingOf, usePackLines, useZone } from '../../state/rulings';
import { criticalRead } from '../../state/view';
import { SPACE, useTokens } from '../../theme';
import { Button } from '../../ui/buttons';
import { ConditionShape } from '../../ui/shape';
import { Heading, Words } from '../../ui/words';

export interface CriticalPack {
  readonly id: string;
  /** Pack and what made it critical: something new about it is shown anew. */
  readonly key: string;
  readonly tag: string;
  readonly place: string;
  readonly kind: 'reacting' | 'unstable' | null;
}

/** Critical packs, the reacting ones first. */
export function useCritical(): readonly CriticalPack[] {
  const lines = usePackLines('critical');
  const packs = useAppSelector((s) => s.logbook.packs);
  const notebooks = useAppSelector((s) => s.logbook.notebooks);
  const policy = useAppSelector((s) => s.logbook.policy);
  const zone = useZone();
  return useMemo(() => {
    const all = Object.values(packs);
    return [
      ...lines.map((l): CriticalPack => {
        const { because, kind } = rulingOf(l.facts, policy, zone).judgement;
        return { id: l.facts.id, key: [l.facts.id, ...because].join(' '), tag: l.facts.tag, place: l.place, kind };
      }),
      ...Object.values(notebooks).flatMap((n): CriticalPack[] => {
        // A machine whose packs are on record is judged through them; here are the others.
        if (n.findings.length === 0 || all.some((p) => p.notebooks.includes(n.id))) return [];
        const seen = ladder({ findings: n.findings.map((f) => f.body.code), conditionKnown: true });
        const key = [n.id, ...seen.because].join(' ');
        return seen.condition === 'critical' ? [{ id: n.id, key, tag: n.tag, place: '', kind: seen.kind }] : [];
      }),
    ].sort((a, b) => Number(b.kind === 'reacting') - Number(a.kind === 'reacting'));
  }, [lines, packs, notebooks, policy, zone]);
}

/** More packs than this in one place are counted, not named: in danger nobody reads ten tags. */
const NAMED = 3;

/** Which packs, place by place, the most dangerous first. */
export function criticalWords(packs: readonly CriticalPack[]): string {
  const byPlace = new Map<string, CriticalPack[]>();
  for (const p of packs) byPlace.set(p.place, [...(byPlace.get(p.place) ?? []), p]);
  return [...byPlace]
    .map(([place, list]) => {
      const who = list.length > NAMED ? `${list.length} packs` : list.map((p) => p.tag).join(', ');
      return place ? `${who}, ${place}` : who;
    })
    .join(' · ');
}

/**
 * While it stands, nothing behind it can be reached: not by touch, not by Tab, not by a key. It takes the focus, and gives it back.
 * Enter and Space act only on a key that was gone to, so that nobody reads it away while typing.
 */
function useOverAll(host: { current: View | null }): void {
  useEffect(() => {
    const own = host.current as unknown as HTMLElement | null;
    const before = document.activeElement as HTMLElement | null;
    const hidden: Element[] = [];
    const hide = () => {
      for (const e of document.body.children) {
        if (e.contains(own) || e.hasAttribute('inert') || ['SCRIPT', 'STYLE'].includes(e.tagName)) continue;
        e.setAttribute('inert', '');
        hidden.push(e);
      }
    };
    hide();
    // A sheet that opens meanwhile lies behind it too.
    const watch = new MutationObserver(hide);
    watch.observe(document.body, { childList: true });
    own?.focus();
    const onKey = (e: KeyboardEvent) => {
      const inside = e.target !== own && own?.contains(e.target as Node);
      if (e.key === 'Tab' || (inside && (e.key === 'Enter' || e.key === ' '))) return;
      e.stopImmediatePropagation();
    };
    window.addEventListener('keydown', onKey, true);
    return () => {
      watch.disconnect();
      window.removeEventListener('keydown', onKey, true);
      for (const e of hidden) e.removeAttribute('inert');
      before?.focus();
    };
  }, [host]);
}

/** Takes the screen over, on every signed-in device, also a locked one. Nothing here must be tapped before leaving. */
export function CriticalTakeover({ packs }: { packs: readonly CriticalPack[] }) {
  return (
    <Modal transparent visible animationType="none" aria-label={`critical: ${packs[0]!.tag}`}>
      <Takeover packs={packs} />
    </Modal>
  );
}

function Takeover({ packs }: { packs: readonly CriticalPack[] }) {
  const t = useTokens();
  const dispatch = useAppDispatch();
  const card = useAppSelector((s) => s.logbook.policy.siteCard);
  const unsent = useAppSelector((s) => s.logbook.unsentHazards > 0);
  const host = useRef<View>(null);
  useOverAll(host);
  const first = packs[0]!;
  const reacting = first.kind === 'reacting';
  const { steps } = storageOrder('critical', first.kind);
  return (
    <View
      ref={host}
      tabIndex={-1}
      testID="critical"
      role="alertdialog"
      aria-label={`critical: ${first.tag}`}
      aria-modal
      style={{ position: 'absolute', inset: 0, backgroundColor: t.critical, outlineWidth: 0 }}
    >
      <ScrollView
        tabIndex={0}
        contentContainerStyle={{ padding: 20, gap: 16, maxWidth: 760, width: '100%', alignSelf: 'center' }}
      >
        <View style={{ flexDirection: 'row', gap: 14, alignItems: 'center' }}>
          <ConditionShape condition="critical" size={52} color={t.onCritical} />
          <View style={{ flex: 1 }}>
            <Heading level={1} size={32} color={t.onCritical}>
              {reacting ? 'Leave now' : 'Keep away'}
            </Heading>
            <Words color={t.onCritical} size={17}>
              {criticalWords(packs)}
            </Words>
          </View>
        </View>
        {steps.map((s, i) => (
          <View key={s} style={{ flexDirection: 'row', gap: 14, borderTopWidth: 2, borderColor: t.onCritical, paddingTop: 12 }}>
            <Words bold size={26} color={t.onCritical}>
              {i + 1}
            </Words>
            <Words bold size={22} color={t.onCritical} style={{ flex: 1 }}>
              {s}
            </Words>
          </View>
        ))}
        <View style={{ backgroundColor: t.onCritical, padding: SPACE, gap: 4 }}>
          {card ? (
            <>
              <Words bold size={24} color="#1B1A16">{`Emergency: ${card.emergencyNumber}`}</Words>
              <Words size={18} color="#1B1A16">{`Assembly point: ${card.assemblyPoint}`}</Words>
              <Words size={18} color="#1B1A16">{`Call first: ${card.callFirst}`}</Words>
            </>
          ) : (
            <Words size={18} color="#1B1A16">
              No site card yet. Call the local fire service.
            </Words>
          )}
        </View>
        {unsent ? (
          <Words bold size={18} color={t.onCritical}>
            Not sent yet: the lead does not know. Tell them yourself.
          </Words>
        ) : null}
        <Button
          label="I have read this"
          height={64}
          onPress={() => dispatch(criticalRead(packs.map((p) => p.key)))}
          testID="critical-read"
          style={{ alignSelf: 'stretch' }}
        />
      </ScrollView>
    </View>
  );
}
