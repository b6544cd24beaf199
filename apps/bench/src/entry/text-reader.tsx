import { useState } from 'react';
import { View } from 'react-native';
import type { SeenText } from '../reader/messages';
import { useTokens } from '../theme';
import { Button } from '../ui/buttons';
import { Row } from '../ui/frame';
import { Figures, Words } from '../ui/words';
import { Piece, useReading } from './reading';

/** What a text of a picture may be, by field of the form, and what stands in those fields now. */
interface Fields<F extends string> {
  readonly titles: Readonly<Record<F, string>>;
  readonly values: Readonly<Record<F, string>>;
  readonly onTake: (field: F, said: string) => void;
}

function TextRow<F extends string>({ t, fields: { titles, values, onTake } }: { t: SeenText; fields: Fields<F> }) {
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
        {(Object.keys(titles) as F[]).map((f) => (
          <Button
            key={f}
            label={titles[f]}
            hint={t.said}
            height={48}
            tone={t.field === f && values[f] !== t.said ? 'next' : 'plain'}
            selected={values[f] === t.said}
            onPress={() => onTake(f, t.said)}
            testID={`take-${f}-${t.said.replace(/\W+/g, '-')}`}
          />
        ))}
      </Row>
    </View>
  );
}

function Texts<F extends string>({ of, fields }: { of: string; fields: Fields<F> }) {
  const { answer, bar } = useReading('plate');
  const texts = answer?.kind === 'done' ? answer.texts : [];
  return (
    <>
      <Words soft>{`Fill the picture with the ${of}, then say what each text is.`}</Words>
      {bar}
      {answer?.kind === 'done' && texts.length === 0 ? (
        <Words bold live>
          Nothing on it could be read: nearer, straighter, more light.
        </Words>
      ) : null}
      {texts.map((t) => (
        <TextRow key={t.said} t={t} fields={fields} />
      ))}
    </>
  );
}

/** Reads a picture into the fields of a form; nothing is taken without a tap, and it is kept with the form. @param of what is pictured: "plate". */
export function TextReader<F extends string>({ of, ...fields }: { of: string } & Fields<F>) {
  const [open, setOpen] = useState(false);
  return (
    <View style={{ gap: 8 }}>
      <Button
        label={open ? 'Done with the picture' : 'Read it from a picture'}
        height={48}
        onPress={() => setOpen(!open)}
        testID={`read-${of.replace(/ /g, '-')}-picture`}
      />
      {open ? <Texts of={of} fields={fields} /> : null}
    </View>
  );
}
