import { findingWords, type Ruling, SHIPPING } from '@gavrel/core';
import { View } from 'react-native';
import { Card } from '../ui/frame';
import { Words } from '../ui/words';
import { RuleLine } from '../routes/rule-line';

/** Why: what decided, what is open, what to do with it, and the rules behind every route. */
export function Reasons({ ruling }: { ruling: Ruling }) {
  const { judgement: j, storage } = ruling;
  return (
    <View style={{ gap: 12 }} testID="reasons">
      <Card title="Why">
        {j.findings.length === 0 && j.open.length === 0 ? (
          <Words>All six groups looked at, nothing found, nothing too close to tell.</Words>
        ) : null}
        {j.findings.map((f, i) => (
          <Words
            key={i}
          >{`— ${findingWords(f)}${f.from === 'measured' ? ' (by readings)' : ''}${f.state === 'stands' ? '' : `, ${f.state}`}`}</Words>
        ))}
        {j.open.map((o) => (
          <Words key={o}>{`— ${o}`}</Words>
        ))}
        {j.notExcluded.map((o) => (
          <Words key={o} soft>{`— ${o}`}</Words>
        ))}
        <Words size={14} soft>
          Thresholds are common practice, no source. Nothing here says that a pack is safe.
        </Words>
      </Card>
      <Card title="Store">
        {storage.steps.map((s) => (
          <Words key={s}>{`— ${s}`}</Words>
        ))}
        <Words size={14} soft>
          {storage.source}
        </Words>
      </Card>
      <Card title="Rules used">
        {ruling.rules.map((id) => (
          <RuleLine key={id} rule={SHIPPING.shown(id, ruling.on)} />
        ))}
      </Card>
    </View>
  );
}
