import type { ReactNode } from 'react';
import { ScrollView, type StyleProp, View, type ViewStyle } from 'react-native';
import { SPACE, useTokens } from '../theme';
import { Heading } from './words';

/** A card: a quiet sheet with a heading and, at its right, one small thing. */
export function Card({
  title,
  right,
  children,
  style,
  testID,
}: {
  title?: string;
  right?: ReactNode;
  children: ReactNode;
  style?: StyleProp<ViewStyle>;
  testID?: string;
}) {
  const t = useTokens();
  return (
    <View
      testID={testID}
      style={[{ backgroundColor: t.card, borderTopWidth: 2, borderTopColor: t.ink, padding: SPACE, gap: 10 }, style]}
    >
      {title === undefined ? null : (
        <View style={{ flexDirection: 'row', alignItems: 'center', justifyContent: 'space-between', gap: SPACE, minHeight: 28 }}>
          <Heading>{title}</Heading>
          {right}
        </View>
      )}
      {children}
    </View>
  );
}

/** A scrolling column of cards; on a phone it leaves room for the bar below. */
export function Column({ children, style }: { children: ReactNode; style?: StyleProp<ViewStyle> }) {
  return (
    <ScrollView
      style={[{ flex: 1 }, style]}
      contentContainerStyle={{ padding: SPACE, gap: SPACE, paddingBottom: 40 }}
      tabIndex={0}
    >
      {children}
    </ScrollView>
  );
}

/** A column of a fixed width at the left of a workplace. @param width px. */
export function Side({ width, children }: { width: number; children: ReactNode }) {
  const t = useTokens();
  return (
    <View style={{ width, borderRightWidth: 1, borderColor: t.line }}>
      <Column>{children}</Column>
    </View>
  );
}

export const Row = ({ children, style, gap = 8 }: { children: ReactNode; style?: StyleProp<ViewStyle>; gap?: number }) => (
  <View style={[{ flexDirection: 'row', alignItems: 'center', flexWrap: 'wrap', gap }, style]}>{children}</View>
);
