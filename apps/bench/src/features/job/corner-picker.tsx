import { useMemo, useState } from 'react';
import { Image, View } from 'react-native';
import type { Frame } from '../../device/picture';
import { Button } from '../../ui/buttons';
import { Sheet } from '../../ui/sheet';

/** Two taps on the picture name opposite corners of the base; what lies outside is cut away. */
export function CornerPicker({ file, onDone }: { file: File; onDone: (f: Frame | null) => void }) {
  const url = useMemo(() => URL.createObjectURL(file), [file]);
  const [first, setFirst] = useState<readonly [number, number] | null>(null);
  const tap = (e: { clientX: number; clientY: number; currentTarget: { getBoundingClientRect: () => DOMRect } }) => {
    const r = e.currentTarget.getBoundingClientRect();
    const at = [(e.clientX - r.left) / r.width, (e.clientY - r.top) / r.height] as const;
    if (!first) return setFirst(at);
    const frame = {
      left: Math.min(first[0], at[0]),
      right: Math.max(first[0], at[0]),
      top: Math.min(first[1], at[1]),
      bottom: Math.max(first[1], at[1]),
    };
    onDone(frame.right - frame.left > 0.1 && frame.bottom - frame.top > 0.1 ? frame : null);
  };
  const [ratio, setRatio] = useState(1.4);
  return (
    <Sheet title={first ? 'Tap the opposite corner' : 'Tap one corner of the base'} onClose={() => onDone(null)}>
      <View {...({ onClick: tap } as object)} style={{ width: '100%', aspectRatio: ratio }} testID="corners">
        <Image
          source={{ uri: url }}
          style={{ width: '100%', height: '100%' }}
          resizeMode="stretch"
          accessibilityLabel="the base as photographed"
          onLoad={() => Image.getSize(url, (w, h) => setRatio(w / h))}
        />
      </View>
      <Button
        label="Take the whole picture"
        onPress={() => onDone({ left: 0, top: 0, right: 1, bottom: 1 })}
        testID="whole-picture"
      />
    </Sheet>
  );
}
