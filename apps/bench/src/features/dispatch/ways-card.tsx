import type { Subject } from '@gavrel/core';
import { byWorth, type Offer, type OfferQuestion } from '@gavrel/core/consignment';
import { router } from 'expo-router';
import { useMemo, useState } from 'react';
import { View } from 'react-native';
import { draft, newId } from '../../device/write';
import { useAppSelector } from '../../state';
import { useActions } from '../../state/context';
import { useWorker } from '../../state/use-worker';
import { inParts } from '../../stock/parts';
import { useTokens } from '../../theme';
import { Button } from '../../ui/buttons';
import { Card, Row } from '../../ui/frame';
import { Sheet } from '../../ui/sheet';
import { Figures, Words } from '../../ui/words';
import type { Answer } from './offers.worker';
import type { ConsignmentView } from './view';
import { boundWords, offerWords, packagesWord, packsWord } from './words';

/** Packs that lie in no package yet: what is packed stays where it lies. */
const unpacked = (v: ConsignmentView): readonly string[] => v.state.packs.filter((p) => !(p in v.facts.packed));

/** What the planner is asked. */
function questionOf(v: ConsignmentView): OfferQuestion {
  const { means, region, on, today } = v;
  return { packs: unpacked(v).flatMap((id) => v.sendings.get(id) ?? []), means, region, on, today };
}

/** Runs the planner. */
function useOffers(v: ConsignmentView) {
  const { answer, setAnswer, ask, stop } = useWorker<OfferQuestion, Answer>(
    () => new Worker(new URL('./offers.worker', import.meta.url)),
    'the planner stopped: compare the ways again',
  );
  const now = useMemo(() => JSON.stringify(questionOf(v)), [v]);
  const [asked, setAsked] = useState('');
  return {
    answer,
    /** Packs, boxes or the day are not those any more that the ways were made for: keeping one would pack a pack twice. */
    stale: answer !== null && asked !== now,
    ask: () => {
      setAnswer({ kind: 'progress', done: 0, of: 1, offers: [] });
      setAsked(now);
      ask(questionOf(v));
    },
    /** Stops, and keeps the ways that are there. */
    cancel: () => {
      stop();
      setAnswer((a) => (a?.kind === 'progress' ? { kind: 'done', offers: [...a.offers].sort(byWorth) } : a));
    },
  };
}

/** Packs that the way was made for. */
const askedOf = (o: Offer): number => o.going + o.stays.reduce((n, s) => n + s.packs.length, 0);

/** Packs shown of those that stay. */
const SHOWN = 12;

/** Their tags, or how many there are where that would be a long list. */
const tagsWords = (ids: readonly string[], tagOf: (id: string) => string): string =>
  ids.length > 4 ? packsWord(ids.length) : ids.map(tagOf).join(', ');

const STALE = 'Packs, boxes or the day changed since';

interface Chosen {
  readonly offer: Offer;
  /** It was made for other packs or boxes than there are now: it is read to its end, and not kept. */
  readonly stale: boolean;
  readonly onAgain: () => void;
  /** @param without packs that leave the consignment first. */
  readonly onKeep: (without?: readonly string[]) => void;
}

function OfferFoot({ offer, stale, onAgain, onKeep }: Chosen) {
  if (stale)
    return (
      <View style={{ gap: 6 }}>
        <Words bold live testID="way-stale">
          {`${STALE}: this way is not kept any more.`}
        </Words>
        <Button label="Compare the ways again" tone="next" height={64} onPress={onAgain} testID="compare-again" />
      </View>
    );
  return (
    <Button
      label={offer.going === 0 ? 'Nothing goes this way' : `Plan ${packagesWord(offer.packages.length)} this way`}
      tone="next"
      height={64}
      disabled={offer.going === 0}
      onPress={() => onKeep()}
      testID="keep-plan"
    />
  );
}

/** What one way asks for, what stays and what would open it. */
function OfferSheet({ v, offer, stale, onAgain, onKeep, onClose }: Chosen & { v: ConsignmentView; onClose: () => void }) {
  const carrier = v.means.carriers.find((c) => c.id === offer.carrier);
  const { carry, leaving } = offer;
  // A pack that was taken off meanwhile has its tag all the same.
  const packs = useAppSelector((s) => s.logbook.packs);
  const tagOf = (id: string): string => packs[id]?.tag ?? '?';
  const lists = [
    ['Pack it', carry.packaging],
    ['On the packages', carry.marks],
    ['Papers', carry.papers],
    ['Who', carry.trained === '' ? [] : [carry.trained]],
    ['Remarks', offer.remarks],
  ] as const;
  return (
    <Sheet
      title={offerWords(offer, carrier)}
      onClose={onClose}
      footer={<OfferFoot offer={offer} stale={stale} onAgain={onAgain} onKeep={onKeep} />}
    >
      <Words bold>
        {[`${offer.going} of ${askedOf(offer)} go`, packagesWord(offer.packages.length), boundWords(offer)]
          .filter(Boolean)
          .join('; ')}
      </Words>
      {offer.stays.map((s) => (
        <Card key={`${s.why} ${s.opens}`} title={`${packsWord(s.packs.length)} ${s.packs.length === 1 ? 'stays' : 'stay'}`}>
          <Row gap={6}>
            {s.packs.slice(0, SHOWN).map((id) => (
              <Button key={id} label={tagOf(id)} hint="open the pack" onPress={() => router.push(`/pack/${id}`)} />
            ))}
            {s.packs.length > SHOWN ? <Words>{`and ${s.packs.length - SHOWN} more`}</Words> : null}
          </Row>
          <Words>{s.why}</Words>
          {s.opens ? <Words bold>{`It would go ${s.opens}.`}</Words> : null}
        </Card>
      ))}
      {leaving ? (
        <Card title={`Without ${tagsWords(leaving.packs, tagOf)}`} testID="leaving">
          <Words bold>{`${leaving.saves.toFixed(2)} less`}</Words>
          {leaving.spares.map((l) => (
            <Words key={l}>{`no ${l}`}</Words>
          ))}
          <Button
            label={`Leave ${leaving.packs.length === 1 ? 'it' : 'them'} out and plan the rest`}
            height={56}
            disabled={stale}
            onPress={() => onKeep(leaving.packs)}
            testID="leave-out"
          />
        </Card>
      ) : null}
      {lists.map(([title, lines]) =>
        lines.length > 0 ? (
          <Card key={title} title={title}>
            {lines.map((l) => (
              <Words key={l}>{l}</Words>
            ))}
          </Card>
        ) : null,
      )}
      <Words size={15} soft>
        From memory. The carrier, a trained person and local law decide.
      </Words>
    </Sheet>
  );
}

function OfferLine({ v, offer, onOpen }: { v: ConsignmentView; offer: Offer; onOpen: () => void }) {
  const t = useTokens();
  const carrier = v.means.carriers.find((c) => c.id === offer.carrier);
  const asked = askedOf(offer);
  const all = offer.going === asked;
  const none = offer.going === 0;
  const words = offerWords(offer, carrier);
  const stays = asked - offer.going;
  const opens = offer.stays.find((s) => s.opens);
  const told = none ? 'no' : all ? packagesWord(offer.packages.length) : `${stays} ${stays === 1 ? 'stays' : 'stay'}`;
  const second = none
    ? (offer.stays[0]?.why ?? '')
    : [all ? boundWords(offer) : packagesWord(offer.packages.length), opens && `${opens.packs.length} more ${opens.opens}`]
        .filter(Boolean)
        .join('; ');
  return (
    <Button
      label={`${words}: ${told}`}
      height={64}
      onPress={onOpen}
      testID={`way-${offer.mode}${carrier ? `-${carrier.name}` : ''}`}
      style={{ alignItems: 'stretch', borderLeftWidth: all ? 6 : 1, borderColor: all ? t.ink : t.line }}
    >
      <View style={{ flexDirection: 'row', justifyContent: 'space-between', gap: 8 }}>
        <Words bold style={{ flexShrink: 1 }}>
          {words}
        </Words>
        <Words bold={all}>{told}</Words>
      </View>
      <View style={{ flexDirection: 'row', justifyContent: 'space-between', gap: 8 }}>
        <Words size={15} soft style={{ flexShrink: 1 }} lines={2}>
          {second}
        </Words>
        {none ? null : <Figures size={15}>{offer.price.toFixed(2)}</Figures>}
      </View>
    </Button>
  );
}

/** Every way side by side; the chosen one becomes the plan. */
export function WaysCard({ v }: { v: ConsignmentView }) {
  const actions = useActions();
  const { answer, stale, ask, cancel } = useOffers(v);
  const [open, setOpen] = useState<Offer | null>(null);
  const offers = answer === null || answer.kind === 'trouble' || stale ? [] : answer.offers;
  const started = v.packages.some((p) => p.packed.length > 0);
  const keep = async (o: Offer, without: readonly string[] = []) => {
    const c: Subject = `consignment:${v.facts.id}`;
    const now = Date.now();
    const begun = v.packages.flatMap((p) =>
      p.packed.length > 0 && p.box ? [{ id: p.id, box: p.box, packs: p.packed, number: p.number }] : [],
    );
    const offered = o.packages.filter((p) => !p.packs.some((id) => without.includes(id)));
    const packages = [...begun, ...offered.map(({ box, packs }) => ({ id: newId(now), box, packs }))];
    await actions.write(
      [
        ...inParts(without).map((part) =>
          draft('withdrawn', [c, ...part.map((id): Subject => `pack:${id}`)], { reason: 'asks for more than the rest' }),
        ),
        draft('consignment-described', [c], {
          mode: o.mode,
          region: v.region,
          placement: v.facts.placement ?? 'loose',
          carrier: o.carrier,
        }),
        draft('plan-kept', [c], { packages, ...(begun.length === 0 && without.length === 0 && { bound: o.bound }) }),
      ],
      `${packagesWord(packages.length)} planned`,
    );
    setOpen(null);
  };
  const waiting = answer?.kind === 'progress';
  return (
    <Card title="Ways" testID="card-ways">
      {started ? <Words>Packing has begun: a new plan is made for the packs that lie in no package yet.</Words> : null}
      <Row>
        <Button
          label={v.facts.plan ? 'Compare the ways again' : 'Compare the ways'}
          tone={v.facts.plan ? 'plain' : 'next'}
          height={56}
          disabled={unpacked(v).length === 0 || v.means.boxes.length === 0 || waiting}
          onPress={ask}
          testID="compare-ways"
        />
        {waiting ? <Button label="Stop" height={56} onPress={cancel} testID="stop-planning" /> : null}
      </Row>
      {v.means.boxes.length === 0 ? <Words bold>No box is in stock here: add one under Boxes and carriers.</Words> : null}
      {waiting ? <Words live>{`way ${answer.done + 1} of ${answer.of}`}</Words> : null}
      {answer?.kind === 'trouble' ? <Words bold>{answer.words}</Words> : null}
      {stale && !waiting ? (
        <Words live testID="ways-stale">
          {`${STALE}: compare the ways again.`}
        </Words>
      ) : null}
      {offers.map((o) => (
        <OfferLine key={`${o.mode} ${o.carrier}`} v={v} offer={o} onOpen={() => setOpen(o)} />
      ))}
      {open ? (
        <OfferSheet
          v={v}
          offer={open}
          stale={stale}
          onAgain={() => {
            setOpen(null);
            ask();
          }}
          onKeep={(without) => void keep(open, without)}
          onClose={() => setOpen(null)}
        />
      ) : null}
    </Card>
  );
}
