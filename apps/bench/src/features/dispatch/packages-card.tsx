import { useState } from 'react';
import { View } from 'react-native';
import { useTokens } from '../../theme';
import { Button } from '../../ui/buttons';
import { Card } from '../../ui/frame';
import { Figures, Words } from '../../ui/words';
import { BoxDrawing } from './box-drawing';
import { PackageSheet } from './package-sheet';
import { contentsOf, type ConsignmentView, type PackageView } from './use-consignment';
import { kgWords, markWords, packageName, packsWord } from './words';

/** How far a package is, in a few words. */
export function progressWords(p: PackageView): string {
  const all = contentsOf(p).length;
  if (p.closed) return p.closed.seal ? `closed, seal ${p.closed.seal}` : 'closed';
  return p.packed.length === 0 ? `${packsWord(all)} to pack` : `${p.packed.length} of ${all} packed`;
}

function PackageLine({ v, p, onOpen }: { v: ConsignmentView; p: PackageView; onOpen: () => void }) {
  const t = useTokens();
  const box = v.means.boxes.find((b) => b.id === p.box);
  const { ruled } = p;
  const weight =
    p.question.weighedKg !== undefined ? `${kgWords(p.question.weighedKg)} weighed` : `${kgWords(ruled.netKg.hi)} net`;
  return (
    <Button
      label={[packageName(p, box), progressWords(p), ruled.lawful ? markWords(ruled) : `not like this: ${ruled.why[0]}`].join(
        '; ',
      )}
      sign
      height={72}
      onPress={onOpen}
      testID={`package-${p.number}`}
      style={{ alignItems: 'stretch', borderLeftWidth: ruled.lawful ? 1 : 6, borderColor: ruled.lawful ? t.line : t.ink }}
    >
      <View style={{ flexDirection: 'row', gap: 10, alignItems: 'center' }}>
        {box ? <BoxDrawing box={box} packs={p.question.packs} width={72} /> : null}
        <View style={{ flex: 1 }}>
          <View style={{ flexDirection: 'row', justifyContent: 'space-between', gap: 8 }}>
            <Words bold>{packageName(p, box)}</Words>
            <Words bold={p.closed !== null}>{`${p.closed ? '■ ' : ''}${progressWords(p)}`}</Words>
          </View>
          <View style={{ flexDirection: 'row', justifyContent: 'space-between', gap: 8, flexWrap: 'wrap' }}>
            <Figures size={15}>{markWords(ruled)}</Figures>
            <Figures size={15} soft>
              {weight}
            </Figures>
          </View>
          {ruled.lawful ? null : <Words bold lines={3}>{`Not like this: ${ruled.why[0]}`}</Words>}
        </View>
      </View>
    </Button>
  );
}

/** The packages with what lies in them and what the rules say of each. */
export function PackagesCard({ v }: { v: ConsignmentView }) {
  const [open, setOpen] = useState<string | null>(null);
  const shown = v.packages.find((p) => p.id === open);
  const done = v.packages.filter((p) => p.closed).length;
  if (v.packages.length === 0) return null;
  return (
    <Card title="Packages" right={<Words soft>{`${done} of ${v.packages.length} closed`}</Words>} testID="card-packages">
      {v.state.unplanned.length > 0 ? (
        <Words bold>{`In no package: ${v.state.unplanned.map((id) => v.sendings.get(id)?.tag ?? '?').join(', ')}`}</Words>
      ) : null}
      {v.packages.map((p) => (
        <PackageLine key={p.id} v={v} p={p} onOpen={() => setOpen(p.id)} />
      ))}
      {shown ? <PackageSheet v={v} p={shown} onClose={() => setOpen(null)} /> : null}
    </Card>
  );
}
