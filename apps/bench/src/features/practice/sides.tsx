import { type ReactNode, useEffect, useState } from 'react';
import { View } from 'react-native';
import { SPACE, useWide } from '../../theme';
import { Choice } from '../../ui/buttons';
import { Column } from '../../ui/frame';
import { Heading } from '../../ui/words';

const PARTS = ['do', 'write'] as const;

/**
 * The world at the left, the ruling at the right; one below the other on a phone, and once it has ended.
 * @param parted on a phone one or the other: who writes by hand goes to and fro between them.
 */
export function Sides({
  title,
  left,
  right,
  ended,
  parted = false,
}: {
  title: string;
  left: ReactNode;
  right: ReactNode;
  ended: boolean;
  parted?: boolean;
}) {
  const wide = useWide();
  useEffect(() => {
    // The next one begins with the world.
    if (ended) setPart('do');
  }, [ended]);
  const heading = (
    <Heading level={1} size={26}>
      {title}
    </Heading>
  );
  const [part, setPart] = useState<(typeof PARTS)[number]>('do');
  if (ended || (!wide && !parted))
    return (
      <Column>
        {heading}
        {left}
        {right}
      </Column>
    );
  if (!wide)
    return (
      <View style={{ flex: 1 }}>
        <View style={{ padding: SPACE, paddingBottom: 0, gap: 8 }}>
          {heading}
          <Choice
            label="Part of the session"
            options={PARTS}
            words={{ do: 'What you do', write: 'What you write, and the bet' }}
            value={part}
            onChange={setPart}
          />
        </View>
        {/* Both stay: each is where it was left. */}
        <View style={{ flex: 1, display: part === 'do' ? 'flex' : 'none' }}>
          <Column>{left}</Column>
        </View>
        <View style={{ flex: 1, display: part === 'write' ? 'flex' : 'none' }}>
          <Column>{right}</Column>
        </View>
      </View>
    );
  return (
    <View style={{ flex: 1, flexDirection: 'row' }}>
      <Column>
        {heading}
        {left}
      </Column>
      <Column>{right}</Column>
    </View>
  );
}
