import { router } from 'expo-router';
import { useEffect, useState } from 'react';
import { readPractice, writePractice } from '../../device/store';
import { useAppSelector } from '../../state';
import { Button } from '../../ui/buttons';
import { Row } from '../../ui/frame';

/** Somebody who never practised on this device is offered ten minutes of it, until they say no. */
export function PracticeOffer() {
  const person = useAppSelector((s) => s.session.session?.person.id ?? '');
  const [offered, setOffered] = useState(false);
  useEffect(() => {
    readPractice().then(
      (all) => setOffered(all[person] === undefined),
      () => setOffered(false),
    );
  }, [person]);
  if (!offered) return null;
  const decline = () => {
    setOffered(false);
    void readPractice()
      // Another tab may have practised meanwhile: that stays.
      .then((all) => (all[person] === undefined ? writePractice({ ...all, [person]: { played: [], cards: {} } }) : undefined))
      .catch(() => undefined);
  };
  return (
    <Row>
      <Button
        label="New here? Practise ten minutes"
        hint="on a pack that cannot burn"
        height={56}
        style={{ flexGrow: 1 }}
        onPress={() => router.push('/practice/thick-2')}
        testID="practice-offer"
      />
      <Button label="Not now" tone="quiet" height={56} onPress={decline} testID="practice-not-now" />
    </Row>
  );
}
