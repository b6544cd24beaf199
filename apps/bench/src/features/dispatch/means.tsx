import {
  BOX_KINDS,
  type BoxBody,
  type BoxFacts,
  type CarrierBody,
  type CarrierFacts,
  type Mode,
  MODES,
  parseDigits,
  type Subject,
} from '@gavrel/core';
import { useState } from 'react';
import { View } from 'react-native';
import { v4 } from 'uuid';
import { draft } from '../../device/write';
import { useActions } from '../../state/context';
import { useMay } from '../../state/may';
import { useDraft } from '../../state/use-draft';
import { useTokens, useWide } from '../../theme';
import { Button, Choice } from '../../ui/buttons';
import { Field } from '../../ui/field';
import { Card, Column, Row } from '../../ui/frame';
import { Sheet } from '../../ui/sheet';
import { Figures, Heading, Words } from '../../ui/words';
import { useMeans } from './use-consignment';
import { MODE_WORDS } from './words';

/** A number as it is typed, with comma or point; undefined where it is none. */
const numberOf = (typed: string): number | undefined => {
  const digits = typed.trim() === '' ? null : parseDigits(typed);
  return digits === null ? undefined : Number(digits);
};

/** Boxes left at which the list says so; common practice, no source. */
const FEW = 5;

const BOX_FIELDS = [
  ['length', 'Inner length, mm'],
  ['width', 'Inner width, mm'],
  ['height', 'Inner height, mm'],
  ['tareKg', 'Weighs empty, kg'],
  ['maxGrossKg', 'Weighs at most, kg'],
  ['stock', 'How many are here'],
  ['price', 'Price of one'],
] as const;
type BoxField = (typeof BOX_FIELDS)[number][0];

/** The figures of a box as they were typed, or in words why a box cannot be like this. */
function boxFigures(name: string, typed: Readonly<Record<BoxField, string>>): Readonly<Record<BoxField, number>> | string {
  const x = Object.fromEntries(BOX_FIELDS.map(([f]) => [f, numberOf(typed[f]) ?? Number.NaN])) as Record<BoxField, number>;
  const missing = BOX_FIELDS.filter(([f]) => Number.isNaN(x[f])).map(([, words]) => words.toLowerCase());
  if (name.trim() === '') return 'Name the box.';
  if (missing.length > 0) return `Not a number yet: ${missing.join('; ')}.`;
  if (x.length <= 0 || x.width <= 0 || x.height <= 0) return 'Its inner sides are more than 0 mm: measure them.';
  if (x.maxGrossKg <= x.tareKg) return 'It may weigh no more than it does empty: look at its mark again.';
  if (!Number.isInteger(x.stock)) return 'How many are here is a whole number.';
  return x;
}

/** A box as its form shows it. */
function boxForm(box: BoxFacts | null, left: number) {
  const text = (x: number | undefined) => (x === undefined ? '' : String(x));
  const { inner } = box ?? {};
  const figures: Record<BoxField, string> = {
    length: text(inner?.length),
    width: text(inner?.width),
    height: text(inner?.height),
    tareKg: text(box?.tareKg),
    maxGrossKg: text(box?.maxGrossKg),
    // Counted anew: what was used since is gone.
    stock: box ? String(left) : '',
    price: text(box?.price),
  };
  const un: 'UN mark' | 'no UN mark' = box?.un ? 'UN mark' : 'no UN mark';
  return { name: box?.name ?? '', kind: box?.kind ?? ('fibreboard' as BoxBody['kind']), un, ...figures };
}

function BoxSheet({ box, left, onClose }: { box: BoxFacts | null; left: number; onClose: () => void }) {
  const actions = useActions();
  const onRecord = boxForm(box, left);
  const [touched, setTouched, done] = useDraft<Partial<typeof onRecord>>(`box ${box?.id ?? 'new'}`, {});
  const { name, kind, un, ...typed } = { ...onRecord, ...touched };
  const set = (part: Partial<typeof onRecord>) => setTouched((f) => ({ ...f, ...part }));
  const figures = boxFigures(name, typed);
  const trouble = typeof figures === 'string' ? figures : '';
  const keep = async (retired: boolean) => {
    if (typeof figures === 'string') return;
    const { length, width, height, ...more } = figures;
    const body: BoxBody = {
      ...more,
      name: name.trim(),
      inner: { length, width, height },
      kind,
      un: un === 'UN mark',
      ...(retired && { retired: true as const }),
    };
    await actions.write([draft('box-described', [`box:${box?.id ?? v4()}` as Subject], body)], `box ${name.trim()}`);
    done();
    onClose();
  };
  return (
    <Sheet
      title={box ? box.name : 'A sort of box'}
      onClose={onClose}
      footer={
        <Button label="Keep" tone="next" height={64} disabled={trouble !== ''} onPress={() => keep(false)} testID="keep-box" />
      }
    >
      <Field label="Name" value={name} onChange={(x) => set({ name: x })} longest={80} autoFocus testID="box-name" />
      <Choice label="Made of" options={BOX_KINDS} value={kind} onChange={(x) => set({ kind: x })} />
      <Choice
        label="UN packaging mark"
        options={['UN mark', 'no UN mark'] as const}
        value={un}
        onChange={(x) => set({ un: x })}
      />
      {BOX_FIELDS.map(([f, words]) => (
        <Field key={f} label={words} value={typed[f]} onChange={(v) => set({ [f]: v })} testID={`box-${f}`} />
      ))}
      {trouble !== '' && name !== '' ? <Words bold>{trouble}</Words> : null}
      {box && trouble === '' ? <Button label="Not used any more" tone="quiet" onPress={() => keep(true)} /> : null}
    </Sheet>
  );
}

const TAKES = [
  ['loose', 'loose packs'],
  ['withEquipment', 'packs with machines'],
  ['inEquipment', 'packs in machines'],
  ['damaged', 'damaged packs'],
  ['recycling', 'waste'],
  ['class9', 'class 9'],
] as const;

/** What is typed of a carrier. */
type TypedCarrier = Readonly<
  Record<'telephone' | 'wasteRegistration' | 'maxGrossKg' | 'maxSideMm' | 'perPackage' | 'perKg' | 'class9', string>
>;

/** Prices and limits of a carrier as they were typed, or in words what is wrong with them. */
function carrierFigures(
  name: string,
  modes: readonly Mode[],
  typed: TypedCarrier,
): Pick<CarrierBody, 'price' | 'maxGrossKg' | 'maxSideMm'> | string {
  const n = Object.fromEntries(Object.entries(typed).map(([k, v]) => [k, numberOf(v)])) as Record<
    keyof TypedCarrier,
    number | undefined
  >;
  const wrong = (['maxGrossKg', 'maxSideMm', 'class9'] as const).filter((f) => typed[f].trim() !== '' && n[f] === undefined);
  const { perPackage, perKg, class9, maxGrossKg, maxSideMm } = n;
  if (name.trim() === '') return 'Name the carrier.';
  if (modes.length === 0) return 'Say how it travels.';
  if (perPackage === undefined || perKg === undefined)
    return 'Price a package and a kilogram are numbers; 0 where nothing is charged.';
  if (wrong.length > 0 || maxGrossKg === 0 || maxSideMm === 0) return 'A limit is a number above 0, or empty.';
  return {
    price: { perPackage, perKg, ...(class9 !== undefined && { class9 }) },
    ...(maxGrossKg !== undefined && { maxGrossKg }),
    ...(maxSideMm !== undefined && { maxSideMm }),
  };
}

/** A carrier as its form shows it. */
function carrierForm(c: CarrierFacts | null) {
  const text = (x: number | undefined) => (x === undefined ? '' : String(x));
  const typed: TypedCarrier = {
    telephone: c?.telephone ?? '',
    wasteRegistration: c?.wasteRegistration ?? '',
    maxGrossKg: text(c?.maxGrossKg),
    maxSideMm: text(c?.maxSideMm),
    perPackage: text(c?.price.perPackage),
    perKg: text(c?.price.perKg),
    class9: text(c?.price.class9),
  };
  const nothing = { loose: false, withEquipment: false, inEquipment: false, damaged: false, recycling: false, class9: false };
  return {
    name: c?.name ?? '',
    modes: c?.modes ?? (['road'] as readonly Mode[]),
    takes: c?.takes ?? (nothing as CarrierBody['takes']),
    flies: c?.groundFlies === true,
    contract: c?.contract === true,
    ...typed,
  };
}

function CarrierSheet({ carrier, onClose }: { carrier: CarrierFacts | null; onClose: () => void }) {
  const actions = useActions();
  const onRecord = carrierForm(carrier);
  const [touched, setTouched, done] = useDraft<Partial<typeof onRecord>>(`carrier ${carrier?.id ?? 'new'}`, {});
  const { name, modes, takes, flies, contract, ...typed } = { ...onRecord, ...touched };
  const set = (part: Partial<typeof onRecord>) => setTouched((f) => ({ ...f, ...part }));
  const figures = carrierFigures(name, modes, typed);
  const trouble = typeof figures === 'string' ? figures : '';
  const keep = async (retired: boolean) => {
    if (typeof figures === 'string') return;
    const body: CarrierBody = {
      ...figures,
      name: name.trim(),
      modes,
      takes,
      ...(flies && { groundFlies: true as const }),
      ...(contract && { contract: true as const }),
      ...(carrier?.days && { days: carrier.days }),
      ...(carrier?.cutOff && { cutOff: carrier.cutOff }),
      ...(typed.telephone.trim() && { telephone: typed.telephone.trim() }),
      ...(typed.wasteRegistration.trim() && { wasteRegistration: typed.wasteRegistration.trim() }),
      ...(retired && { retired: true as const }),
    };
    await actions.write(
      [draft('carrier-described', [`carrier:${carrier?.id ?? v4()}` as Subject], body)],
      `carrier ${name.trim()}`,
    );
    done();
    onClose();
  };
  const field = (f: keyof TypedCarrier, label: string, longest?: number) => (
    <Field label={label} value={typed[f]} onChange={(v) => set({ [f]: v })} longest={longest} testID={`carrier-${f}`} />
  );
  const toggle = (label: string, on: boolean, say: (on: boolean) => void) => (
    <Button key={label} label={label} role="checkbox" selected={on} onPress={() => say(!on)} />
  );
  return (
    <Sheet
      title={carrier ? carrier.name : 'A carrier'}
      onClose={onClose}
      footer={
        <Button
          label="Keep"
          tone="next"
          height={64}
          disabled={trouble !== ''}
          onPress={() => keep(false)}
          testID="keep-carrier"
        />
      }
    >
      <Words>What it says it takes narrows what the rules allow; it never widens it.</Words>
      <Field label="Name" value={name} onChange={(x) => set({ name: x })} longest={80} autoFocus testID="carrier-name" />
      <Words bold>Goes by</Words>
      <Row>
        {MODES.map((m) =>
          toggle(MODE_WORDS[m], modes.includes(m), (on) => set({ modes: on ? [...modes, m] : modes.filter((x) => x !== m) })),
        )}
      </Row>
      <Words bold>Takes</Words>
      <Row>{TAKES.map(([k, words]) => toggle(words, takes[k], (on) => set({ takes: { ...takes, [k]: on } })))}</Row>
      <Row>
        {toggle('its ground network flies on some legs', flies, (on) => set({ flies: on }))}
        {toggle('needs a contract', contract, (on) => set({ contract: on }))}
      </Row>
      {field('maxGrossKg', 'Kilograms of a package at most')}
      {field('maxSideMm', 'Longest side at most, mm')}
      {field('perPackage', 'Price of a package')}
      {field('perKg', 'Price of a kilogram')}
      {field('class9', 'Surcharge for class 9, a package')}
      {field('telephone', 'Telephone')}
      {takes.recycling ? field('wasteRegistration', 'Registration as a carrier of waste', 60) : null}
      {trouble !== '' && name !== '' ? <Words bold>{trouble}</Words> : null}
      {carrier && trouble === '' ? <Button label="Not used any more" tone="quiet" onPress={() => keep(true)} /> : null}
    </Sheet>
  );
}

/** Boxes in stock, and carriers with what they take. */
export function Means() {
  const t = useTokens();
  const wide = useWide();
  const { boxes, carriers } = useMeans();
  const may = useMay('box-described');
  const [box, setBox] = useState<BoxFacts | 'new' | null>(null);
  const [carrier, setCarrier] = useState<CarrierFacts | 'new' | null>(null);
  const used = boxes.filter((b) => b.retired !== true);
  const known = carriers.filter((c) => c.retired !== true);
  const line = (key: string, head: string, right: string, second: string, strong: boolean, open: () => void) => (
    <Button
      key={key}
      label={`${head}: ${right}; ${second}`}
      height={60}
      disabled={!may}
      onPress={open}
      style={{ alignItems: 'stretch', borderLeftWidth: strong ? 6 : 1, borderColor: strong ? t.ink : t.line, opacity: 1 }}
    >
      <Row style={{ justifyContent: 'space-between' }}>
        <Words bold>{head}</Words>
        <Words bold={strong}>{right}</Words>
      </Row>
      <Figures size={15} soft>
        {second}
      </Figures>
    </Button>
  );
  const left = (
    <Card title="Boxes" testID="card-boxes">
      {used.map((b) =>
        line(
          b.id,
          b.name,
          `${b.left} left`,
          `${b.inner.length} × ${b.inner.width} × ${b.inner.height} mm, up to ${b.maxGrossKg} kg, ${b.kind}${b.un ? ', UN mark' : ''}`,
          b.left < FEW,
          () => setBox(b),
        ),
      )}
      {used.length === 0 ? <Words>No box is known yet.</Words> : null}
      {may ? <Button label="Add a sort of box" height={56} onPress={() => setBox('new')} testID="add-box" /> : null}
    </Card>
  );
  const right = (
    <Card title="Carriers" testID="card-carriers">
      {known.map((c) =>
        line(
          c.id,
          c.name,
          c.modes.map((m) => MODE_WORDS[m]).join(', '),
          [
            `takes ${
              TAKES.filter(([k]) => c.takes[k])
                .map(([, w]) => w)
                .join(', ') || 'nothing of ours'
            }`,
            c.groundFlies ? 'flies on some legs' : '',
            c.telephone ?? '',
          ]
            .filter(Boolean)
            .join('; '),
          false,
          () => setCarrier(c),
        ),
      )}
      {known.length === 0 ? <Words>No carrier is known yet: ways are planned without one, and without a price.</Words> : null}
      {may ? <Button label="Add a carrier" height={56} onPress={() => setCarrier('new')} testID="add-carrier" /> : null}
    </Card>
  );
  return (
    <Column style={{ width: '100%', maxWidth: 1280, alignSelf: 'center' }}>
      <Heading level={1} size={26}>
        Boxes and carriers
      </Heading>
      {wide ? (
        <View style={{ flexDirection: 'row', gap: 12, alignItems: 'flex-start' }}>
          <View style={{ flex: 1 }}>{left}</View>
          <View style={{ flex: 1 }}>{right}</View>
        </View>
      ) : (
        <>
          {left}
          {right}
        </>
      )}
      {box ? (
        <BoxSheet
          box={box === 'new' ? null : box}
          left={box === 'new' ? 0 : (boxes.find((b) => b.id === box.id)?.left ?? 0)}
          onClose={() => setBox(null)}
        />
      ) : null}
      {carrier ? <CarrierSheet carrier={carrier === 'new' ? null : carrier} onClose={() => setCarrier(null)} /> : null}
    </Column>
  );
}
