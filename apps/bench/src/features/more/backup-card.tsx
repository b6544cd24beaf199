import type { BackupResponse, KeptResponse } from '@gavrel/contract';
import { differenceInHours, parseISO } from 'date-fns';
import { useEffect, useState } from 'react';
import { api } from '../../device/api';
import { Card } from '../../ui/frame';
import { agoWords } from '../../ui/say';
import { Words } from '../../ui/words';

const gigabytes = (bytes: number): string => (bytes / 1e9).toFixed(1);

/** How old the newest copy of everything is: loud when the day has none; and the room that pictures take. */
export function BackupCard() {
  const [known, setKnown] = useState<BackupResponse | null>(null);
  const [kept, setKept] = useState<KeptResponse | null>(null);
  useEffect(() => {
    api<BackupResponse>('GET', '/backup').then(setKnown, () => setKnown(null));
    api<KeptResponse>('GET', '/kept').then(setKept, () => setKept(null));
  }, []);
  if (!known) return null;
  const { newest } = known;
  const old = newest === null || differenceInHours(new Date(), parseISO(newest.at)) >= 48;
  return (
    <Card title="Backup" testID="card-backup">
      <Words bold={old}>
        {newest
          ? `The newest copy was made ${agoWords(newest.at)}, ${(newest.bytes / 1e6).toFixed(1)} MB${old ? ': too old, ask whoever runs the server' : ''}.`
          : known.automatic
            ? 'No copy yet. The first is made a minute after the server starts.'
            : 'No copies are made by themselves here: ask whoever runs the database.'}
      </Words>
      {known.automatic && (
        <Words size={15}>It lies on the same machine: take one away now and then, with ./gavrel backup FILE.</Words>
      )}
      {kept && (
        <Words bold={kept.bytes > 0.9 * kept.most}>
          {`Pictures take ${gigabytes(kept.bytes)} of ${gigabytes(kept.most)} GB.`}
        </Words>
      )}
    </Card>
  );
}
