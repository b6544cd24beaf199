import { useEffect, useState } from 'react';
import { useAppDispatch, useAppSelector } from '../../state';
import { askStorage, canKeep, type Storage } from '../../state/storage';
import { lettersChosen } from '../../state/view';
import { Button } from '../../ui/buttons';
import { Card } from '../../ui/frame';
import { Words } from '../../ui/words';

const mb = (bytes: number) => `${(bytes / 1e6).toFixed(bytes < 1e7 ? 1 : 0)} MB`;

/** What this device keeps, and how surely: told as the browser answered. */
export function DeviceCard() {
  const [storage, setStorage] = useState<Storage | null | 'asking'>('asking');
  useEffect(() => {
    askStorage().then(setStorage, () => setStorage(null));
  }, []);
  const holds = useAppSelector((s) => s.logbook.holds);
  const keeps = canKeep();
  const dispatch = useAppDispatch();
  const letters = useAppSelector((s) => s.view.letters);
  return (
    <Card title="This device" testID="card-device">
      <Words>
        {keeps
          ? 'Gavrel opens here without the server, with what this device has seen.'
          : 'Gavrel does not open here without the server: this address is not secure. Ask the lead for the secure one.'}
      </Words>
      {holds ? (
        <Words testID="holds">
          {`The log is long: held here are ${holds.held} of ${holds.onSite} packs on site and what was touched in 30 days. Search finds the rest while the server answers.`}
        </Words>
      ) : null}
      {storage === 'asking' ? null : storage === null ? (
        <Words bold>The browser does not say how long it keeps unsent work. Send it soon.</Words>
      ) : (
        <>
          <Words bold={!storage.lasting} testID="lasting">
            {storage.lasting
              ? 'The browser keeps unsent work until somebody clears it.'
              : 'The browser may clear unsent work when space runs short, and a private window forgets it when closed. Send it soon; installing Gavrel on the home screen helps.'}
          </Words>
          {storage.used !== null && storage.most !== null ? (
            <Words size={15}>{`${mb(storage.used)} of ${mb(storage.most)} used.`}</Words>
          ) : null}
        </>
      )}
      <Button
        label="Single letters are shortcuts"
        hint="with Alt they always are"
        role="switch"
        selected={letters}
        onPress={() => dispatch(lettersChosen(!letters))}
        testID="letters"
      />
    </Card>
  );
}
