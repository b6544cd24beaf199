import { View } from 'react-native';
import { useTokens } from '../../theme';
import { Figures, Words } from '../../ui/words';
import type { Ranked } from './candidates';
import type { RuledPack } from './view';

const RESULT = { same: '=', fits: '=', differs: '×', unknown: '?', warn: '!', note: '·' } as const;

/** Old and new side by side, one line a criterion: what stops it first. */
export function SideBySide({ old, r }: { old: RuledPack; r: Ranked }) {
  const t = useTokens();
  const weight = { differs: 0, unknown: 1, warn: 2, same: 3, fits: 3, note: 4 } as const;
  const lines = [...r.match.criteria].sort((a, b) => weight[a.result] - weight[b.result]);
  return (
    <View style={{ gap: 0 }} testID="side-by-side">
      <View style={{ flexDirection: 'row', gap: 8, paddingBottom: 4 }}>
        <Words bold style={{ width: 22 }}>
          {' '}
        </Words>
        <Words bold size={15} style={{ flex: 1.1 }}>
          {' '}
        </Words>
        <Figures bold size={15} style={{ flex: 1 }}>
          {old.facts.tag}
        </Figures>
        <Figures bold size={15} style={{ flex: 1 }}>
          {r.pack.facts.tag}
        </Figures>
      </View>
      {lines.map((c) => (
        <View key={c.id} style={{ borderTopWidth: 1, borderColor: t.line, paddingVertical: 4 }}>
          <View style={{ flexDirection: 'row', gap: 8 }}>
            <Figures bold style={{ width: 22 }}>
              {RESULT[c.result]}
            </Figures>
            <Words size={15} bold={c.result === 'differs'} style={{ flex: 1.1 }}>
              {c.title}
            </Words>
            <Figures size={15} style={{ flex: 1 }}>
              {c.old || ' '}
            </Figures>
            <Figures size={15} style={{ flex: 1 }}>
              {c.new}
            </Figures>
          </View>
          {c.words ? (
            <Words size={14} soft={c.result === 'note'} style={{ paddingLeft: 30 }}>
              {c.words}
            </Words>
          ) : null}
        </View>
      ))}
    </View>
  );
}
