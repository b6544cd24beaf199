import type { BoxFacts } from '@gavrel/core';
import type { Sending } from '@gavrel/core/consignment';
import { View } from 'react-native';
import { useTokens } from '../../theme';

interface Spot {
  readonly id: string;
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly depth: number;
}

/** Packs laid row by row on the floor of a box, and again on the next layer, mm; for looking at, not for planning. */
export function laidOut(inner: BoxFacts['inner'], packs: readonly Sending[], gap = 5): readonly (readonly Spot[])[] {
  const layers: Spot[][] = [[]];
  let [x, y, row] = [0, 0, 0];
  const known = packs.filter((p) => p.outline !== null);
  const big = [...known].sort((a, b) => b.outline!.width - a.outline!.width || (a.tag < b.tag ? -1 : 1));
  for (const p of big) {
    const { length, width } = p.outline!;
    if (x > 0 && x + length > inner.length) [x, y, row] = [0, y + row + gap, 0];
    if (y > 0 && y + width > inner.width) {
      layers.push([]);
      [x, y, row] = [0, 0, 0];
    }
    layers[layers.length - 1]!.push({ id: p.id, x, y, width: length, depth: width });
    x += length + gap;
    row = Math.max(row, width);
  }
  return layers;
}

/** A box from above, to scale, with the packs of its first layer; ticks at the side tell the layers above. @param width px of the drawing. */
export function BoxDrawing({ box, packs, width = 120 }: { box: BoxFacts; packs: readonly Sending[]; width?: number }) {
  const t = useTokens();
  const k = width / Math.max(box.inner.length, 1);
  const layers = laidOut(box.inner, packs);
  return (
    <View aria-hidden style={{ flexDirection: 'row', gap: 4 }}>
      <View
        style={{ width: width + 4, height: box.inner.width * k + 4, borderWidth: 2, borderColor: t.line, overflow: 'hidden' }}
      >
        {layers[0]!.map((s) => (
          <View
            key={s.id}
            style={{
              position: 'absolute',
              left: s.x * k,
              top: s.y * k,
              width: Math.max(3, s.width * k),
              height: Math.max(3, s.depth * k),
              backgroundColor: t.wash,
              borderWidth: 1,
              borderColor: t.ink,
            }}
          />
        ))}
      </View>
      <View style={{ justifyContent: 'flex-end', gap: 3 }}>
        {layers.slice(0, 10).map((_, i) => (
          <View key={i} style={{ width: 8, height: 4, backgroundColor: t.ink }} />
        ))}
      </View>
    </View>
  );
}
