import type { Rule } from '@gavrel/core';
import { View } from 'react-native';
import { useAppSelector } from '../state';
import { Words } from '../ui/words';
import { dayWords } from '../ui/say';

/** One rule in plain words, its source and how sure our copy is. */
export function RuleLine({ rule }: { rule: Rule }) {
  const checked = useAppSelector((s) => s.logbook.policy.checked[rule.id]);
  const sure = rule.certainty === 'H';
  const memory = checked
    ? `checked against ${checked.edition} on ${dayWords(checked.on)}`
    : `${sure ? '◇' : '◈'} from memory${sure ? '' : ', wording may differ'}`;
  return (
    <View style={{ gap: 2 }}>
      <Words>{rule.title}</Words>
      <Words size={14} soft>
        {`${rule.source} · ${memory}`}
      </Words>
    </View>
  );
}
