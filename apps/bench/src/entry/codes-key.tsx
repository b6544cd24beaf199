import { counted } from '@gavrel/core';
import { useEffect, useState } from 'react';
import { View } from 'react-native';
import { chooseFile } from '../device/picture';
import type { ReaderAnswer, ReaderQuestion } from '../reader/messages';
import { useWorker } from '../state/use-worker';
import { Button } from '../ui/buttons';
import { Words } from '../ui/words';

/** All codes in one picture, as if each were scanned: a tray of packs at once. */
export function CodesKey({ onCodes }: { onCodes: (codes: readonly string[]) => void }) {
  const { answer, setAnswer, ask } = useWorker<ReaderQuestion, ReaderAnswer>(
    () => new Worker('/reader/reader.js'),
    'The reader is not on this device yet: use it once with the server.',
  );
  const [found, setFound] = useState<number | null>(null);
  useEffect(() => {
    if (answer?.kind !== 'done') return;
    setFound(answer.codes.length);
    setAnswer(null);
    if (answer.codes.length > 0) onCodes(answer.codes.map((c) => c.text));
  }, [answer, setAnswer, onCodes]);
  const take = async () => {
    const picture = await chooseFile('image/*');
    if (!picture) return;
    setFound(null);
    setAnswer({ kind: 'progress', reading: 0 });
    ask({ picture, want: 'codes' });
  };
  const reading = answer?.kind === 'progress';
  return (
    <View style={{ gap: 4 }}>
      <Button
        label={reading ? 'Looking for codes' : 'Codes from a picture'}
        height={48}
        disabled={reading}
        onPress={() => take()}
        testID="codes-picture"
      />
      {answer?.kind === 'trouble' ? <Words bold>{answer.words}</Words> : null}
      {found === null ? null : (
        <Words live size={15} testID="codes-found">
          {found === 0 ? 'No code in it: nearer, straighter, more light.' : `${counted(found, 'code')} in it`}
        </Words>
      )}
    </View>
  );
}
