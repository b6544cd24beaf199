import {
  balanceOf,
  type Collection,
  drumClock,
  type Figure,
  handlerKg,
  kgOverTime,
  localDay,
  METALS,
  METALS_ASSUMED,
  metalsOf,
  notWithDrum,
  type PackFacts,
  parseDigits,
  type Subject,
} from '@gavrel/core';
import type { PlaceState } from '@gavrel/core/place';
import { useState } from 'react';
import { View } from 'react-native';
import { saveFile } from '../../device/picture';
import { type Draft, draft, newId } from '../../device/write';
import { isShort } from '../../device/on-device';
import { useAppSelector } from '../../state';
import { useActions } from '../../state/context';
import { useMay } from '../../state/may';
import { useZone } from '../../state/rulings';
import { useDraft } from '../../state/use-draft';
import { useWide } from '../../theme';
import { Field } from '../../ui/field';
import { Card, Row } from '../../ui/frame';
import { Button } from '../../ui/buttons';
import { dayWords, dueWords } from '../../ui/say';
import { Sheet } from '../../ui/sheet';
import { Trend } from '../../ui/trend';
import { Words } from '../../ui/words';
import { print } from '../../paper/print';
import { alarmsOfPlace, alarmWords } from '../../stock/alarm-words';
import { DrumGrid } from './drum-grid';
import { drumWords, manifestCsv, type ManifestLine, manifestLines, manifestPaper, requestPaper } from './drum-paper';
import { inParts } from '../../stock/parts';
import type { Yard } from '../../stock/use-yard';
import { packsWord } from '../../stock/place-words';

/** A drum leaves whole: every pack in it is named. */
const collectDrafts = (
  place: string,
  packs: readonly string[],
  said: { collection: string; to: string; manifest?: string; weighed?: Figure<'kg'> },
): Draft[] =>
  inParts(packs).map((part) => draft('drum-collected', [`place:${place}`, ...part.map((id): Subject => `pack:${id}`)], said));

/** A weight as it was typed; nothing weighs 0 kg. @returns what of an entry it is; null where it is no weight. */
function weightOf(typed: string): { readonly weighed?: Figure<'kg'> } | null {
  if (typed.trim() === '') return {};
  const digits = parseDigits(typed);
  return digits !== null && Number(digits) > 0 ? { weighed: { digits, unit: 'kg' } } : null;
}
const NO_WEIGHT = <Words bold>Write the weight as 7,4; nothing weighs 0.</Words>;
const signed = (x: number) => `${x >= 0 ? '+' : '−'}${Math.abs(x).toFixed(2)} kg`;

/** Packs named before the rest is counted. */
const NAMED = 6;
const STAYS = { critical: 'critical', damaged: 'damaged', frozen: 'held by an incident' } as const;

/** Why the drum may not leave as it is; empty where nothing holds it. */
function heldBack(state: PlaceState, packs: readonly PackFacts[]): string {
  const frozen = new Set(packs.flatMap((f) => (f.incidents.some((i) => i.body.frozen) ? [f.id] : [])));
  const out = notWithDrum(state.items, (id) => frozen.has(id));
  const alarms = alarmsOfPlace(state.place);
  return [
    alarms.length > 0 && `Its alarm is not answered: ${alarmWords(alarms)}.`,
    out.length > 0 &&
      `Not with this drum: ${[
        ...out.slice(0, NAMED).map((o) => `${o.tag} ${STAYS[o.why]}`),
        ...(out.length > NAMED ? [`${out.length - NAMED} more`] : []),
      ].join(', ')}. Somebody trained takes them out first.`,
  ]
    .filter(Boolean)
    .join(' ');
}

/** The drum leaves: who takes it, what it weighs, under which number. Every pack in it leaves with it. */
function CollectSheet({ state, packs, onClose }: { state: PlaceState; packs: readonly PackFacts[]; onClose: () => void }) {
  const held = heldBack(state, packs);
  const actions = useActions();
  const [form, setForm, done] = useDraft(`collection ${state.place.id}`, { to: '', weighed: '', manifest: '' });
  const { to, weighed, manifest } = form;
  const set = (f: keyof typeof form) => (x: string) => setForm((b) => ({ ...b, [f]: x }));
  const weight = weightOf(weighed);
  const go = async () => {
    const drafts = collectDrafts(
      state.place.id,
      packs.map((p) => p.id),
      {
        collection: newId(Date.now()),
        to: to.trim(),
        ...weight,
        ...(manifest.trim() && { manifest: manifest.trim() }),
      },
    );
    await actions.write(drafts, `${packsWord(packs.length)} collected`);
    done();
    onClose();
  };
  return (
    <Sheet
      title={`Hand over ${state.place.name}`}
      onClose={onClose}
      footer={
        <Button
          label={`${packsWord(packs.length)} leave now`}
          tone="next"
          height={64}
          disabled={to.trim() === '' || packs.length === 0 || weight === null || held !== ''}
          onPress={() => go()}
          testID="collect-now"
        />
      }
    >
      <Words bold>Only to whoever may take it. Damaged ones travel under their own rules: see Dispatch.</Words>
      {held !== '' ? (
        <Words bold live testID="drum-held">
          {held}
        </Words>
      ) : null}
      <Field label="To" value={to} onChange={set('to')} autoFocus testID="collect-to" />
      <Field label="The drum’s contents on the scale, kg" value={weighed} onChange={set('weighed')} testID="collect-kg" />
      {weight === null ? NO_WEIGHT : null}
      <Field label="Number of the manifest" value={manifest} onChange={set('manifest')} testID="collect-manifest" />
    </Sheet>
  );
}

function AnswerSheet({ place, collection, onClose }: { place: string; collection: Collection; onClose: () => void }) {
  const actions = useActions();
  const [weighed, setWeighed] = useState('');
  const [certificate, setCertificate] = useState('');
  const weight = weightOf(weighed);
  const body = {
    collection: collection.id,
    ...weight,
    ...(certificate.trim() && { certificate: certificate.trim() }),
  };
  return (
    <Sheet
      title={`Answer of ${collection.to}`}
      onClose={onClose}
      footer={
        <Button
          label="Keep"
          tone="next"
          height={64}
          disabled={weight === null || Object.keys(body).length < 2}
          onPress={() =>
            actions.write([draft('drum-answered', [`place:${place}`], body)], 'answer of the recycler').then(onClose)
          }
          testID="keep-answer"
        />
      }
    >
      <Field label="Weight there, kg" value={weighed} onChange={setWeighed} autoFocus testID="answer-kg" />
      {weight === null ? NO_WEIGHT : null}
      <Field label="Certificate" value={certificate} onChange={setCertificate} testID="answer-certificate" />
    </Sheet>
  );
}

/** One collection with its balance: packs against the drum, the drum against the recycler. */
function CollectionLine({
  place,
  c,
  facts,
  ships,
  today,
  again,
}: {
  place: string;
  c: Collection;
  facts: Yard['facts'];
  ships: boolean;
  today: string;
  /** Prints the manifest of a collection that left. */
  again: (c: Collection, packs: readonly PackFacts[]) => void;
}) {
  const [open, setOpen] = useState(false);
  const here = c.packs.flatMap((id) => facts[id] ?? []);
  const all = here.length === c.packs.length;
  const b = balanceOf(c, here);
  const words = [
    `${packsWord(c.packs.length)} to ${c.to}, ${dayWords(c.at.slice(0, 10))}`,
    c.manifest && `manifest ${c.manifest}`,
    b.drumKg !== null && `${b.drumKg} kg`,
    !all && 'its packs are not all on this device',
    all && b.ours !== null && `${signed(b.ours)} to its packs`,
    all && b.notWeighed.length > 0 && `${b.notWeighed.length} never weighed`,
    b.theirs !== null && `recycler ${signed(b.theirs)}`,
    c.answered?.certificate ? `certificate ${c.answered.certificate}` : 'no certificate yet',
  ];
  const waits = !c.answered && c.at.slice(0, 10) < today;
  return (
    <View style={{ gap: 4 }}>
      <Words bold={waits}>{words.filter(Boolean).join('; ')}</Words>
      {ships ? (
        <Button label="Answer of the recycler" hint={c.to} onPress={() => setOpen(true)} testID="answer-collection" />
      ) : null}
      {all ? <Button label="Manifest again" hint={c.to} onPress={() => again(c, here)} testID="manifest-again" /> : null}
      {open ? <AnswerSheet place={place} collection={c} onClose={() => setOpen(false)} /> : null}
    </View>
  );
}

/** "About 0.4 to 0.7 kg cobalt ..., of 4.2 kg li-ion packs weighed". */
function metalWords(kg: number): string {
  const metals = metalsOf(kg);
  const each = METALS.map((m) => `${metals[m].lo.toFixed(2)} to ${metals[m].hi.toFixed(2)} kg ${m}`);
  return `Probably ${each.join(', ')} in ${kg.toFixed(1)} kg of li-ion packs weighed: ${METALS_ASSUMED}.`;
}

/** When it leaves, and from when that is counted. */
function ClockTold({ clock, today }: { clock: ReturnType<typeof drumClock>; today: string }) {
  return (
    <>
      {clock.until ? (
        <Words bold>{`It leaves by ${dayWords(clock.until)}; ask for a collection ${dueWords(clock.ask!, today)}.`}</Words>
      ) : (
        <Words>No clock runs: nothing in it is known to be waste.</Words>
      )}
      <Words size={15}>
        {[
          clock.since && `the oldest is waste since ${dayWords(clock.since)}`,
          clock.unknown.length > 0 && `not known since when: ${clock.unknown.slice(0, 6).join(', ')}`,
          `a year is the law in the United States, our own policy elsewhere`,
        ]
          .filter(Boolean)
          .join('; ')}
      </Words>
    </>
  );
}

/** A drum: its clock, its label, its papers, and what left in it. */
export function DrumCard({ state, yard }: { state: PlaceState; yard: Yard }) {
  const wide = useWide();
  const policy = useAppSelector((s) => s.logbook.policy);
  const region = useAppSelector((s) => s.view.region);
  const ships = useMay('drum-collected');
  const workshop = useAppSelector((s) => s.session.session?.workshop.name ?? '');
  const zone = useZone();
  // A device that does not know every pack in it neither lists them nor hands them over.
  const partly = useAppSelector((x) => isShort(x.logbook.holds));
  const [collecting, setCollecting] = useState(false);
  const [trouble, setTrouble] = useState('');
  const day = (iso: string) => localDay(zone, new Date(iso));
  const today = localDay(zone, new Date());
  const packs = state.items.flatMap((i) => yard.facts[i.id] ?? []);
  const nothing = packs.length === 0 || partly;
  const clock = drumClock(packs, day, policy.drumDays);
  const site = handlerKg(Object.values(yard.facts));
  const lines = manifestLines(packs, policy, day);
  const words = drumWords(region, today, policy.wasteCode);
  const ion = new Set(lines.filter((l) => l.chemistry === 'li-ion').map((l) => l.tag));
  const weighed = balanceOf(
    { answered: null },
    packs.filter((f) => ion.has(f.tag)),
  ).weighedKg;
  const metals = weighed > 0 ? metalWords(weighed) : null;
  const mixed = [...new Set(lines.map((l) => l.chemistry))];
  const printed = (on: string, to: string, number: string, of: readonly ManifestLine[]) => {
    setTrouble('');
    const order = manifestPaper(state.place.name, workshop, on, to, of, drumWords(region, on, policy.wasteCode));
    void print(`manifest-${number || on}`, { kind: 'report', paper: order }).catch((e: Error) => setTrouble(e.message));
  };
  const paper = () => printed(today, '', '', lines);
  const again = (c: Collection, left: readonly PackFacts[]) =>
    printed(day(c.at), c.to, c.manifest ?? '', manifestLines(left, policy, day));
  const ask = () => {
    setTrouble('');
    const order = requestPaper(state.place.name, workshop, today, clock.until, lines, words);
    void print(`collection-${today}`, { kind: 'report', paper: order }).catch((e: Error) => setTrouble(e.message));
  };
  return (
    <Card title="Drum" testID="card-drum">
      <ClockTold clock={clock} today={today} />
      {mixed.length > 1 ? (
        <Words bold>{`Mixed chemistries: ${mixed.join(', ')}. Ask the recycler whether they may be together.`}</Words>
      ) : null}
      <Words size={15}>{`${words.join('; ')}. Local code decides.`}</Words>
      <Words
        size={15}
      >{`${site.kg.toFixed(1)} kg of waste on site, as far as weighed; from ${site.limit} kg a large handler (United States).`}</Words>
      <Row>
        <Button label="Ask for a collection" height={56} disabled={nothing} onPress={ask} testID="print-request" />
        <Button label="Manifest" height={56} disabled={nothing} onPress={paper} testID="print-manifest" />
        <Button
          label="Manifest as CSV"
          height={56}
          disabled={nothing}
          onPress={() => saveFile(`manifest-${today}.csv`, new Blob([manifestCsv(lines)], { type: 'text/csv' }))}
        />
        {ships ? (
          <Button
            label="Hand over"
            tone="next"
            height={56}
            disabled={nothing}
            onPress={() => setCollecting(true)}
            testID="collect"
          />
        ) : null}
      </Row>
      {wide && !nothing ? <DrumGrid rows={lines} /> : null}
      {partly ? null : (
        <Trend
          what="weight of the drum"
          points={kgOverTime(state.items).map((p) => ({ at: p.at, value: p.kg }))}
          level={state.place.limits?.kg ?? null}
          unit="kg"
          decimals={1}
          fromZero
          words={`Weight after each of the last packs, weighed or estimated from their energy${state.place.limits?.kg === undefined ? '.' : '; the level line is what it may hold.'}`}
        />
      )}
      {metals ? (
        <Words size={15} testID="metals">
          {metals}
        </Words>
      ) : null}
      {trouble ? <Words bold>{trouble}</Words> : null}
      {[...state.place.collections].reverse().map((c) => (
        <CollectionLine key={c.id} place={state.place.id} c={c} facts={yard.facts} ships={ships} today={today} again={again} />
      ))}
      {collecting ? <CollectSheet state={state} packs={packs} onClose={() => setCollecting(false)} /> : null}
    </Card>
  );
}
