import { useLocalSearchParams } from 'expo-router';
import { View } from 'react-native';
import { Slip } from '../../src/features/pack/slip';
import { Packs } from '../../src/features/packs/packs';
import { useTokens, useWide } from '../../src/theme';

/** The slip holds the centre; on a wide screen the list slides under its left edge. */
export default function PackScreen() {
  const { id } = useLocalSearchParams<{ id: string }>();
  const t = useTokens();
  if (!useWide()) return <Slip key={id} id={id} />;
  return (
    <View style={{ flex: 1, flexDirection: 'row' }}>
      <View style={{ width: 320, borderRightWidth: 1, borderColor: t.line }}>
        <Packs current={id} />
      </View>
      <Slip key={id} id={id} />
    </View>
  );
}
