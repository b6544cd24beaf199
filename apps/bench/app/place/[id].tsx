import { useLocalSearchParams } from 'expo-router';
import { lazy, Suspense } from 'react';
import { View } from 'react-native';
import { loadPlace, loadYard } from '../../src/shell/later';
import { useRoomy, useTokens, useWide } from '../../src/theme';

const Place = lazy(loadPlace);
const Yard = lazy(loadYard);

/** One place; on a wide screen the yard stays at its left, with its plan where there is room for three. */
export default function PlaceRoute() {
  const { id } = useLocalSearchParams<{ id: string }>();
  const t = useTokens();
  const wide = useWide();
  const roomy = useRoomy();
  const place = (
    <Suspense fallback={<View style={{ flex: 1 }} />}>
      <Place key={id} id={id} />
    </Suspense>
  );
  if (!wide) return place;
  return (
    <View style={{ flex: 1, flexDirection: 'row' }}>
      <View style={roomy ? { flex: 1 } : { width: 351 }}>
        <Suspense>
          <Yard current={id} />
        </Suspense>
      </View>
      <View style={{ borderLeftWidth: 1, borderColor: t.line, ...(roomy ? { width: 460 } : { flex: 1 }) }}>{place}</View>
    </View>
  );
}
