import { useLocalSearchParams } from 'expo-router';
import { lazy, Suspense } from 'react';
import { View } from 'react-native';
import { loadSlip } from '../../src/features/later';
import { Packs } from '../../src/features/packs/packs';
import { useTokens, useWide } from '../../src/theme';

const Slip = lazy(loadSlip);

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
        <Packs current={id} />
      </View>
      {slip}
    </View>
  );
}
