import { useEffect, useMemo, useState } from 'react';
import { Image } from 'react-native';
import { chooseFile } from '../device/picture';
import type { ReaderAnswer, ReaderQuestion } from '../reader/messages';
import { useWorker } from '../state/use-worker';
import { useTokens } from '../theme';
import { Asked } from '../ui/asked';
import { Button } from '../ui/buttons';
import { Row } from '../ui/frame';
import { Words } from '../ui/words';

/** A picture dropped or pasted while this stands, on a wide screen. */
function usePictureGiven(take: (picture: Blob) => void): void {
  useEffect(() => {
    const given = (files: FileList | undefined, e: Event) => {
      const file = [...(files ?? [])].find((f) => f.type.startsWith('image/'));
      if (!file) return;
      e.preventDefault();
      take(file);
    };
    const paste = (e: ClipboardEvent) => given(e.clipboardData?.files, e);
    const drop = (e: DragEvent) => given(e.dataTransfer?.files, e);
    const over = (e: DragEvent) => e.preventDefault();
    document.addEventListener('paste', paste);
    document.addEventListener('drop', drop);
    document.addEventListener('dragover', over);
    return () => {
      document.removeEventListener('paste', paste);
      document.removeEventListener('drop', drop);
      document.removeEventListener('dragover', over);
    };
  });
}

/** The piece of the picture something was read from. */
export function Piece({ of }: { of: Blob | null }) {
  const t = useTokens();
  const url = useMemo(() => of && URL.createObjectURL(of), [of]);
  useEffect(() => () => void (url && URL.revokeObjectURL(url)), [url]);
  if (!url) return null;
  return (
    <Image
      source={{ uri: url }}
      accessibilityLabel="the piece of the picture"
      style={{ height: 40, width: '100%', backgroundColor: t.wash }}
      resizeMode="contain"
    />
  );
}

/** Reads a picture that is taken, chosen, dropped or pasted. @param onNew another picture is read. */
export function useReading(want: 'label' | 'plate', onNew?: () => void) {
  const { answer, setAnswer, ask, stop } = useWorker<ReaderQuestion, ReaderAnswer>(
    () => new Worker('/reader/reader.js'),
    'The reader is not on this device yet: use it once with the server.',
  );
  const [picture, setPicture] = useState<Blob | null>(null);
  const take = (given: Blob) => {
    setPicture(given);
    onNew?.();
    setAnswer({ kind: 'progress', reading: 0 });
    ask({ picture: given, want });
  };
  usePictureGiven(take);
  const choose = async () => {
    const file = await chooseFile('image/*');
    if (file) take(file);
  };
  const reading = answer?.kind === 'progress';
  /** The keys, and how far it is. */
  const bar = (
    <>
      <Row>
        <Button
          label={answer?.kind === 'done' ? 'Another picture' : 'Camera or picture'}
          tone={answer?.kind === 'done' ? 'plain' : 'next'}
          height={64}
          disabled={reading}
          onPress={() => choose()}
          testID="read-picture"
        />
        {reading ? (
          <Button
            label="Cancel"
            height={64}
            onPress={() => {
              stop();
              setAnswer(null);
            }}
            testID="stop-reading"
          />
        ) : null}
      </Row>
      {reading ? <Words live>{answer.reading === 0 ? 'The reader starts' : `Reading ${answer.reading}`}</Words> : null}
      {answer?.kind === 'trouble' ? <Asked words={answer.words} /> : null}
    </>
  );
  return { answer, picture, bar };
}
