import { provisionWords } from '@gavrel/core';
import type { Ruled } from '@gavrel/core/batch';
import { View } from 'react-native';
import { Button } from '../../ui/buttons';
import { ConditionShape } from '../../ui/shape';
import { Sheet } from '../../ui/sheet';
import { Figures, Heading, Words } from '../../ui/words';
import { problemWords, troubleOf, waitsFor, wordOf } from './words';

/** One row of the result; a tap shows why. */
export function Line({ r, onOpen }: { r: Ruled; onOpen: () => void }) {
  const trouble = troubleOf(r);
  return (
    <Button label={`line ${r.line} ${r.tag}, ${wordOf(r)}`} height={56} onPress={onOpen} testID={`row-${r.line}`}>
      <View style={{ width: '100%', flexDirection: 'row', alignItems: 'center', gap: 8 }}>
        <Figures size={14} style={{ width: 44 }}>
          {String(r.line)}
        </Figures>
        {r.condition ? <ConditionShape condition={r.condition} size={22} named /> : <View style={{ width: 22 }} />}
        <Figures bold style={{ flex: 1 }}>
          {r.tag || '—'}
        </Figures>
        <Words size={14} style={{ flex: 1.4, textAlign: 'right' }} lines={2}>
          {trouble
            ? problemWords(trouble)
            : [r.provision && provisionWords(r.provision), waitsFor(r)].filter(Boolean).join(' · ')}
        </Words>
        <Words bold style={{ width: 116, textAlign: 'right' }}>
          {wordOf(r)}
        </Words>
      </View>
    </Button>
  );
}

/** All that was found of one row, and why. */
export function RowSheet({ r, onClose }: { r: Ruled; onClose: () => void }) {
  return (
    <Sheet title={`Line ${r.line} ${r.tag}`} onClose={onClose}>
      <Heading level={3}>{wordOf(r)}</Heading>
      <Figures>
        {[r.condition, r.un, r.outcome && provisionWords(r.provision), r.batteryMark ? 'battery mark' : null]
          .filter(Boolean)
          .join(' · ')}
      </Figures>
      {r.packages !== null && r.packages > 1 ? <Words bold>{`in ${r.packages} packages`}</Words> : null}
      {r.problems.map((p) => (
        <Words key={p.column} bold>
          {problemWords(p)}
        </Words>
      ))}
      {r.contradictions.map((p) => (
        <Words key={p.words} bold>{`Does not add up: ${problemWords(p)}`}</Words>
      ))}
      {r.missing.length > 0 ? <Words bold>{`waits for: ${waitsFor(r)}`}</Words> : null}
      {r.notes.map((n) => (
        <Words key={n}>{`— ${n}`}</Words>
      ))}
      <Words size={15} soft>
        Rules are our copy, from memory: check the current edition. A trained person and local law decide.
      </Words>
    </Sheet>
  );
}
