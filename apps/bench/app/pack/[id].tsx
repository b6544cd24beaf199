import { useLocalSearchParams } from 'expo-router';
import { lazy, Suspense } from 'react';
import { View } from 'react-native';
import { loadPacks, loadSlip } from '../../src/shell/later';
import { useTokens, useWide } from '../../src/theme';

const Slip = lazy(loadSlip);
const Packs = lazy(loadPacks);

/** The slip holds the centre; on a wide screen the list slides under its left edge. */
export default function PackScreen() {
  const { id } = useLocalSearchParams<{ id: string }>();
  const t = useTokens();
  const wide = useWide();
  const slip = (
    <Suspense fallback={<View style={{ flex: 1 }} />}>
      <Slip key={id} id={id} />
    </Suspense>
  );
  if (!wide) return slip;
  return (
    <View style={{ flex: 1, flexDirection: 'row' }}>
      <View style={{ width: 320, borderRightWidth: 1, borderColor: t.line }}>
        <Suspense>
          <Packs current={id} />
        </Suspense>
      </View>
      {slip}
    </View>
  );
}
