import type { ReactNode } from 'react';
import { View } from 'react-native';
import { useWide } from '../../theme';
import { Column } from '../../ui/frame';

/** The world at the left, the ruling at the right; one below the other on a phone, and once it has ended. */
export function Sides({ left, right, ended }: { left: ReactNode; right: ReactNode; ended: boolean }) {
  const wide = useWide();
  if (!wide || ended)
    return (
      <Column>
        {left}
        {right}
      </Column>
    );
  return (
    <View style={{ flex: 1, flexDirection: 'row' }}>
      <Column>{left}</Column>
      <Column>{right}</Column>
    </View>
  );
}
