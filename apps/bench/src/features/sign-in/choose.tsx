import { useState } from 'react';
import { ScrollView, View } from 'react-native';
import { errorMessage } from '../../device/api';
import { useActions } from '../../state/context';
import { SPACE } from '../../theme';
import { Field } from '../../ui/field';
import { Card } from '../../ui/frame';
import { Button } from '../../ui/buttons';
import { Heading, Words } from '../../ui/words';

/** Whoever was given a passphrase chooses their own: nobody else can sign as them from then on. */
export function Choose({ name }: { name: string }) {
  const actions = useActions();
  const [given, setGiven] = useState('');
  const [fresh, setFresh] = useState('');
  const [trouble, setTrouble] = useState('');
  const good = given !== '' && fresh.length >= 8;
  const keep = () => {
    setTrouble('');
    actions.choosePassphrase(given, fresh).catch((e: unknown) => setTrouble(errorMessage(e)));
  };
  return (
    <ScrollView
      tabIndex={0}
      contentContainerStyle={{ padding: SPACE, gap: SPACE, maxWidth: 520, width: '100%', alignSelf: 'center', paddingTop: 36 }}
      testID="choose"
    >
      <Heading level={1} size={34}>
        Your own passphrase
      </Heading>
      <Words>{`${name}, a lead knows the one you came in with. Choose one that only you know: it signs for you.`}</Words>
      <Card>
        <Field label="The one you were given" value={given} onChange={setGiven} secret testID="given-passphrase" />
        <Field
          label="Your own, three or four words"
          value={fresh}
          onChange={setFresh}
          secret
          onSubmit={() => good && keep()}
          testID="own-passphrase"
        />
        {trouble ? (
          <View role="alert">
            <Words bold>{trouble}</Words>
          </View>
        ) : null}
        <Button label="Keep" tone="next" height={64} disabled={!good} onPress={keep} testID="keep-own" />
      </Card>
      <Button label="Sign out" tone="quiet" onPress={() => actions.signOut()} testID="choose-sign-out" />
    </ScrollView>
  );
}
