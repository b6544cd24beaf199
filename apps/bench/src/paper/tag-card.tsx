import { byDay, duesOf, foundWords, localDay, type PackFacts, type Ruling } from '@gavrel/core';
import { useState } from 'react';
import { View } from 'react-native';
import { useAppSelector } from '../state';
import { useZone } from '../state/rulings';
import { Card, Row } from '../ui/frame';
import { Button } from '../ui/buttons';
import { QrCode } from '../ui/qr';
import { ConditionShape } from '../ui/shape';
import { Figures, Words } from '../ui/words';
import type { TagPaper } from './draw';
import { print } from './print';

/** What stands on the tag of a pack now. */
export function useTag(facts: PackFacts, ruling: Ruling): TagPaper {
  const zone = useZone();
  const place = useAppSelector((s) => (facts.place ? s.logbook.places[facts.place]?.name : undefined));
  const { judgement } = ruling;
  const day = (iso: string) => localDay(zone, new Date(iso));
  const found = judgement.findings.filter((f) => f.state === 'stands' && judgement.because.includes(f.code));
  const since = [...facts.findings.map((f) => f.at)].sort()[0] ?? facts.lastAt;
  const look = duesOf(facts, judgement, day)
    .filter((d) => d.what === 'look')
    .sort(byDay)[0];
  return {
    tag: facts.tag,
    condition: judgement.condition,
    order: ruling.storage.short,
    date: day(since),
    finding: foundWords(found).slice(0, 3).join('; ') || (judgement.open[0] ?? 'nothing found'),
    nextLook: look?.on ?? 'within 3 to 6 months',
    place: place ?? '',
  };
}

/** The tag: shown here, or printed so that it works without the program. */
export function TagCard({ facts, ruling }: { facts: PackFacts; ruling: Ruling }) {
  const tag = useTag(facts, ruling);
  const [trouble, setTrouble] = useState('');
  const go = () => {
    setTrouble('');
    void print(`tag-${facts.tag}`, { kind: 'tag', paper: tag }).catch((e: Error) => setTrouble(e.message));
  };
  return (
    <Card title="Tag it" testID="card-tag">
      <View style={{ flexDirection: 'row', gap: 14, alignItems: 'center' }}>
        <QrCode text={facts.tag} size={112} />
        <View style={{ flex: 1, gap: 2 }}>
          <Row>
            <ConditionShape condition={tag.condition} size={28} />
            <Words bold size={20}>
              {tag.condition}
            </Words>
          </Row>
          <Figures bold>{tag.tag}</Figures>
          <Words size={15}>{tag.finding}</Words>
          <Words size={15}>{`since ${tag.date}, next look ${tag.nextLook}`}</Words>
        </View>
      </View>
      <Button label="Print the tag" onPress={go} testID="print-tag" />
      {trouble ? <Words bold>{trouble}</Words> : null}
      <Words size={15} soft>
        No printer: write shape, word, date and finding on tape.
      </Words>
    </Card>
  );
}
