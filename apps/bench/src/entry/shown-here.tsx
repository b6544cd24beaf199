import type { Kind } from '@gavrel/core';
import { View } from 'react-native';
import { useTokens } from '../theme';
import { Words } from '../ui/words';
import { useApart } from './apart';

/** Of a pack that does not exist: what lies before one's eyes while it is written down. Nothing at the packs of the log. */
export function ShownHere({ kind, quantity }: { kind: Kind; quantity?: string | undefined }) {
  const t = useTokens();
  const shown = useApart()?.shown.filter((s) => s.kind === kind && s.quantity === quantity) ?? [];
  if (shown.length === 0) return null;
  return (
    <View style={{ borderLeftWidth: 4, borderColor: t.ink, paddingLeft: 8 }} testID="shown-here">
      {shown.map((s, i) => (
        <Words key={i} size={15}>
          {s.words}
        </Words>
      ))}
    </View>
  );
}
