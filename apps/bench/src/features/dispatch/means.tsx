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

/** Why a box cannot be like this, in words; empty where it can. */
export function boxTrouble(name: string, x: Readonly<Record<BoxField, number | undefined>>): string {
  const missing = BOX_FIELDS.filter(([f]) => x[f] === undefined).map(([, words]) => words.toLowerCase());
  if (name.trim() === '') return 'Name the box.';
  if (missing.length > 0) return `Not a number yet: ${missing.join('; ')}.`;
  if (x.length! <= 0 || x.width! <= 0 || x.height! <= 0) return 'Its inner sides are more than 0 mm: measure them.';
  if (x.maxGrossKg! <= x.tareKg!) return 'It may weigh no more than it does empty: look at its mark again.';
  if (!Number.isInteger(x.stock)) return 'How many are here is a whole number.';
  return '';
}

function BoxSheet({ box, left, onClose }: { box: BoxFacts | null; left: number; onClose: () => void }) {
  const actions = useActions();
  const [name, setName] = useState(box?.name ?? '');
  const [kind, setKind] = useState<BoxBody['kind']>(box?.kind ?? 'fibreboard');
  const [un, setUn] = useState<'UN mark' | 'no UN mark'>(box?.un ? 'UN mark' : 'no UN mark');
  const [typed, setTyped] = useState<Record<BoxField, string>>(() => {
    const text = (x: number | undefined) => (x === undefined ? '' : String(x));
    const { inner } = box ?? {};
    return {
      length: text(inner?.length),
      width: text(inner?.width),
      height: text(inner?.height),
      tareKg: text(box?.tareKg),
      maxGrossKg: text(box?.maxGrossKg),
      // Counted anew: what was used since is gone.
      stock: box ? String(left) : '',
      price: text(box?.price),
    };
  });
  const x = Object.fromEntries(BOX_FIELDS.map(([f]) => [f, numberOf(typed[f])])) as Record<BoxField, number | undefined>;
  const trouble = boxTrouble(name, x);
  const keep = async (retired: boolean) => {
    const body: BoxBody = {
      name: name.trim(),
      inner: { length: x.length!, width: x.width!, height: x.height! },
      tareKg: x.tareKg!,
      maxGrossKg: x.maxGrossKg!,
      kind,
      un: un === 'UN mark',
      stock: x.stock!,
      price: x.price!,
      ...(retired && { retired: true as const }),
    };
    await actions.write([draft('box-described', [`box:${box?.id ?? v4()}` as Subject], body)], `box ${name.trim()}`);
    onClose();
  };
  return (
    <Sheet
      title={box ? box.name : 'A sort of box'}
      onClose={onClose}
      footer={
        <Button
          label="Keep"
          tone="next"
          height={64}
          disabled={trouble !== ''}
          onPress={() => void keep(false)}
          testID="keep-box"
        />
      }
    >
      <Field label="Name" value={name} onChange={setName} longest={80} autoFocus testID="box-name" />
      <Choice label="Made of" options={BOX_KINDS} value={kind} onChange={setKind} />
      <Choice label="UN packaging mark" options={['UN mark', 'no UN mark'] as const} value={un} onChange={setUn} />
      {BOX_FIELDS.map(([f, words]) => (
        <Field key={f} label={words} value={typed[f]} onChange={(v) => setTyped((b) => ({ ...b, [f]: v }))} testID={`box-${f}`} />
      ))}
      {trouble !== '' && name !== '' ? <Words bold>{trouble}</Words> : null}
      {box && trouble === '' ? <Button label="Not used any more" tone="quiet" onPress={() => void keep(true)} /> : null}
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

/** The typed figures as numbers, and what is wrong with them in words; empty where nothing is. */
function carrierNumbers(name: string, modes: readonly Mode[], typed: TypedCarrier) {
  const n = Object.fromEntries(Object.entries(typed).map(([k, v]) => [k, numberOf(v)])) as Record<
    keyof TypedCarrier,
    number | undefined
  >;
  const wrong = (['maxGrossKg', 'maxSideMm', 'class9'] as const).filter((f) => typed[f].trim() !== '' && n[f] === undefined);
  const trouble =
    name.trim() === ''
      ? 'Name the carrier.'
      : modes.length === 0
        ? 'Say how it travels.'
        : n.perPackage === undefined || n.perKg === undefined
          ? 'Price a package and a kilogram are numbers; 0 where nothing is charged.'
          : wrong.length > 0 || n.maxGrossKg === 0 || n.maxSideMm === 0
            ? 'A limit is a number above 0, or empty.'
            : '';
  return { n, trouble };
}

function CarrierSheet({ carrier, onClose }: { carrier: CarrierFacts | null; onClose: () => void }) {
  const actions = useActions();
  const [name, setName] = useState(carrier?.name ?? '');
  const [modes, setModes] = useState<readonly Mode[]>(carrier?.modes ?? ['road']);
  const [takes, setTakes] = useState<CarrierBody['takes']>(
    carrier?.takes ?? { loose: false, withEquipment: false, inEquipment: false, damaged: false, recycling: false, class9: false },
  );
  const [flies, setFlies] = useState(carrier?.groundFlies === true);
  const [contract, setContract] = useState(carrier?.contract === true);
  const [typed, setTyped] = useState<TypedCarrier>({
    telephone: carrier?.telephone ?? '',
    wasteRegistration: carrier?.wasteRegistration ?? '',
    maxGrossKg: carrier?.maxGrossKg === undefined ? '' : String(carrier.maxGrossKg),
    maxSideMm: carrier?.maxSideMm === undefined ? '' : String(carrier.maxSideMm),
    perPackage: String(carrier?.price.perPackage ?? ''),
    perKg: String(carrier?.price.perKg ?? ''),
    class9: carrier?.price.class9 === undefined ? '' : String(carrier.price.class9),
  });
  const { n, trouble } = carrierNumbers(name, modes, typed);
  const keep = async (retired: boolean) => {
    const body: CarrierBody = {
      name: name.trim(),
      modes,
      takes,
      price: { perPackage: n.perPackage!, perKg: n.perKg!, ...(n.class9 !== undefined && { class9: n.class9 }) },
      ...(n.maxGrossKg !== undefined && { maxGrossKg: n.maxGrossKg }),
      ...(n.maxSideMm !== undefined && { maxSideMm: n.maxSideMm }),
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
    onClose();
  };
  const field = (f: keyof TypedCarrier, label: string, longest?: number) => (
    <Field
      label={label}
      value={typed[f]}
      onChange={(v) => setTyped((b) => ({ ...b, [f]: v }))}
      longest={longest}
      testID={`carrier-${f}`}
    />
  );
  const toggle = (label: string, on: boolean, set: (on: boolean) => void) => (
    <Button key={label} label={label} role="checkbox" selected={on} onPress={() => set(!on)} />
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
          onPress={() => void keep(false)}
          testID="keep-carrier"
        />
      }
    >
      <Words>What it says it takes narrows what the rules allow; it never widens it.</Words>
      <Field label="Name" value={name} onChange={setName} longest={80} autoFocus testID="carrier-name" />
      <Words bold>Goes by</Words>
      <Row>
        {MODES.map((m) =>
          toggle(MODE_WORDS[m], modes.includes(m), (on) => setModes(on ? [...modes, m] : modes.filter((x) => x !== m))),
        )}
      </Row>
      <Words bold>Takes</Words>
      <Row>{TAKES.map(([k, words]) => toggle(words, takes[k], (on) => setTakes({ ...takes, [k]: on })))}</Row>
      <Row>
        {toggle('its ground network flies on some legs', flies, setFlies)}
        {toggle('needs a contract', contract, setContract)}
      </Row>
      {field('maxGrossKg', 'Kilograms of a package at most')}
      {field('maxSideMm', 'Longest side at most, mm')}
      {field('perPackage', 'Price of a package')}
      {field('perKg', 'Price of a kilogram')}
      {field('class9', 'Surcharge for class 9, a package')}
      {field('telephone', 'Telephone')}
      {takes.recycling ? field('wasteRegistration', 'Registration as a carrier of waste', 60) : null}
      {trouble !== '' && name !== '' ? <Words bold>{trouble}</Words> : null}
      {carrier && trouble === '' ? <Button label="Not used any more" tone="quiet" onPress={() => void keep(true)} /> : null}
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
