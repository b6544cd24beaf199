import type { Statement, PhotoBody, Subject } from '@gavrel/core';
import { useEffect, useState } from 'react';
import { Image, View } from 'react-native';
import { chooseFile, shrink } from '../device/picture';
import { pictureHere } from '../device/store';
import { draft } from '../device/write';
import type { Actions } from '../state/actions';
import { useActions } from '../state/context';
import { useTokens } from '../theme';
import { Row } from '../ui/frame';
import { Button } from '../ui/buttons';
import { Words } from '../ui/words';

/** A picture from this device, else from the server; null where neither has it now. */
export async function pictureBytes(sha256: string): Promise<Uint8Array | null> {
  try {
    const here = await pictureHere(sha256);
    if (here) return new Uint8Array(await here.arrayBuffer());
    const r = await fetch(`/api/blobs/${sha256}`);
    return r.ok ? new Uint8Array(await r.arrayBuffer()) : null;
  } catch {
    return null;
  }
}

/** The address of a picture: from this device, else from the server. */
export function usePicture(sha256: string | undefined): string | null {
  const [url, setUrl] = useState<string | null>(null);
  useEffect(() => {
    if (!sha256) return setUrl(null);
    let made: string | null = null;
    let current = true;
    void pictureHere(sha256).then((blob) => {
      if (!current) return;
      made = blob ? URL.createObjectURL(blob) : null;
      setUrl(made ?? `/api/blobs/${sha256}`);
    });
    return () => {
      current = false;
      if (made) URL.revokeObjectURL(made);
    };
  }, [sha256]);
  return url;
}

function Thumb({ photo }: { photo: Statement<PhotoBody> }) {
  const t = useTokens();
  const url = usePicture(photo.body.sha256);
  const [gone, setGone] = useState(false);
  if (!url) return null;
  if (gone) return <Words size={14} soft>{`picture of the ${photo.body.of}: erased, or not on this device`}</Words>;
  return (
    <Image
      source={{ uri: url }}
      onError={() => setGone(true)}
      accessibilityLabel={`picture of the ${photo.body.of}`}
      style={{ width: 96, height: 72, borderWidth: 1, borderColor: t.line }}
      resizeMode="cover"
    />
  );
}

/** Made small and without camera data, kept, and on record. @throws Error with what to do where it is no picture. */
async function keepPhoto(
  actions: Actions,
  file: Blob,
  of: PhotoBody['of'],
  on: readonly Subject[],
  words: string,
): Promise<void> {
  const said = await actions.keepPicture(await shrink(file));
  await actions.write([draft('photo-taken', on, { ...said, of })], words);
}

/** A picture that something was read from stays with the pack, where somebody wants it to. Once for each picture. */
export function KeepPicture({ picture, of, on }: { picture: Blob; of: PhotoBody['of']; on: readonly Subject[] }) {
  const actions = useActions();
  const [kept, setKept] = useState<{ readonly picture: Blob; readonly words: string } | null>(null);
  const words = kept?.picture === picture ? kept.words : null;
  const keep = () => {
    setKept({ picture, words: 'Keeping it' });
    void keepPhoto(actions, picture, of, on, `picture of the ${of}`).then(
      () => setKept({ picture, words: 'The picture is kept.' }),
      (e: Error) => setKept({ picture, words: e.message }),
    );
  };
  return words === null ? (
    <Button label="Keep the picture too" height={56} onPress={keep} testID="keep-picture" />
  ) : (
    <Words bold live>
      {words}
    </Words>
  );
}

/** Takes pictures and shows those there are. They are made small and lose camera data before they are kept. */
export function Pictures({
  of,
  on,
  photos,
  label,
}: {
  of: PhotoBody['of'];
  on: readonly Subject[];
  photos: readonly Statement<PhotoBody>[];
  label: string;
}) {
  const actions = useActions();
  const [trouble, setTrouble] = useState('');
  const take = async () => {
    setTrouble('');
    const file = await chooseFile('image/*', true);
    if (!file) return;
    try {
      await keepPhoto(actions, file, of, on, label.toLowerCase());
    } catch (e) {
      setTrouble((e as Error).message);
    }
  };
  return (
    <View style={{ gap: 6 }}>
      <Row>
        {photos
          .filter((p) => p.body.of === of)
          .map((p) => (
            <Thumb key={p.id} photo={p} />
          ))}
        <Button label={label} onPress={() => take()} disabled={on.length === 0} testID={`picture-${of}`} />
      </Row>
      {trouble ? <Words bold>{trouble}</Words> : null}
    </View>
  );
}
