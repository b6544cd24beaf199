import type { PlateField } from '@gavrel/core/read-label';
import { useState } from 'react';
import { View } from 'react-native';
import type { SeenText } from '../reader/messages';
import { useTokens } from '../theme';
import { Button } from '../ui/buttons';
import { Row } from '../ui/frame';
import { Figures, Words } from '../ui/words';
import { Piece, useReading } from './reading';

type Plate = Readonly<Record<PlateField, string>>;

const TITLES: Readonly<Record<PlateField, string>> = { maker: 'Maker', model: 'Model', serial: 'Serial' };

function TextRow({ t, plate, onTake }: { t: SeenText; plate: Plate; onTake: (field: PlateField, said: string) => void }) {
  const tokens = useTokens();
  return (
    <View style={{ gap: 4, borderTopWidth: 1, borderTopColor: tokens.line, paddingTop: 8 }}>
      <Piece of={t.piece} />
      <Figures size={19} bold>
        {t.said}
      </Figures>
      <Words size={15} soft>
        {t.box === null ? 'a code on it' : t.coded ? '■ a code on it says the same' : '? look'}
      </Words>
      <Row gap={6}>
        {(Object.keys(TITLES) as PlateField[]).map((f) => (
          <Button
            key={f}
            label={TITLES[f]}
            hint={t.said}
            height={48}
            tone={t.field === f && plate[f] !== t.said ? 'next' : 'plain'}
            selected={plate[f] === t.said}
            onPress={() => onTake(f, t.said)}
            testID={`take-${f}-${t.said.replace(/\W+/g, '-')}`}
          />
        ))}
      </Row>
    </View>
  );
}

function Texts({ plate, onTake }: { plate: Plate; onTake: (field: PlateField, said: string) => void }) {
  const { answer, bar } = useReading('plate');
  const texts = answer?.kind === 'done' ? answer.texts : [];
  return (
    <>
      <Words soft>Fill the picture with the plate, then say what each text is.</Words>
      {bar}
      {answer?.kind === 'done' && texts.length === 0 ? (
        <Words bold live>
          Nothing on it could be read: nearer, straighter, more light.
        </Words>
      ) : null}
      {texts.map((t) => (
        <TextRow key={t.said} t={t} plate={plate} onTake={onTake} />
      ))}
    </>
  );
}

/** Reads the plate of a machine into the fields of a form; it is kept with the form. */
export function PlateReader({ plate, onTake }: { plate: Plate; onTake: (field: PlateField, said: string) => void }) {
  const [open, setOpen] = useState(false);
  return (
    <View style={{ gap: 8 }}>
      <Button
        label={open ? 'Done with the picture' : 'Read it from a picture'}
        height={48}
        onPress={() => setOpen(!open)}
        testID="read-plate-picture"
      />
      {open ? <Texts plate={plate} onTake={onTake} /> : null}
    </View>
  );
}
