import { useEffect, useState } from 'react';
import { ScrollView, View } from 'react-native';
import { errorMessage } from '../../device/api';
import { useAppSelector } from '../../state';
import { useActions } from '../../state/context';
import { SPACE } from '../../theme';
import { Field } from '../../ui/field';
import { Card } from '../../ui/frame';
import { Button } from '../../ui/buttons';
import { Heading, Words } from '../../ui/words';
import { takeEarly } from './early';

/** Name and passphrase; in the demo its accounts are shown, each one tap away. */
export function SignIn() {
  const actions = useActions();
  const { about, expired } = useAppSelector((s) => s.session);
  const unsent = useAppSelector((s) => s.logbook.unsent);
  const [early] = useState(takeEarly);
  const [name, setName] = useState(early?.name ?? '');
  const [passphrase, setPassphrase] = useState(early?.passphrase ?? '');
  const [problem, setProblem] = useState<string | null>(null);
  const enter = async (n: string, p: string) => {
    setProblem(null);
    try {
      await actions.signIn(n, p);
    } catch (e) {
      setProblem(errorMessage(e));
    }
  };
  useEffect(() => {
    if (early?.submitted) void enter(early.name, early.passphrase);
    // Once: later the keys are this screen's own.
  }, [early]);
  return (
    <ScrollView
      tabIndex={0}
      contentContainerStyle={{ padding: SPACE, gap: SPACE, maxWidth: 520, width: '100%', alignSelf: 'center', paddingTop: 36 }}
    >
      <View>
        <Heading level={1} size={34}>
          Gavrel
        </Heading>
        <Words soft>{about?.workshop.name ?? 'battery packs, from label to ruling'}</Words>
      </View>
      {expired ? (
        <Card>
          <Words bold>
            Your session has ended.{' '}
            {unsent > 0 ? `${unsent} entries wait on this device and go out when you sign in.` : 'Sign in again.'}
          </Words>
        </Card>
      ) : null}
      <Card title="Sign in">
        <Field label="Name" value={name} onChange={setName} autoFocus={early?.at === 'name'} testID="name" />
        <Field
          label="Passphrase"
          value={passphrase}
          onChange={setPassphrase}
          secret
          autoFocus={early?.at === 'passphrase'}
          onSubmit={() => void enter(name, passphrase)}
          testID="passphrase"
        />
        {problem ? (
          <View role="alert">
            <Words bold>{problem}</Words>
          </View>
        ) : null}
        <Button
          label="Sign in"
          tone="next"
          height={64}
          disabled={name === '' || passphrase === ''}
          onPress={() => enter(name, passphrase)}
          testID="sign-in"
        />
      </Card>
      {about && about.accounts.length > 0 ? (
        <Card title="Demo accounts">
          {about.accounts.map((a) => (
            <Button
              key={a.name}
              label={`${a.name}, ${a.role}`}
              height={56}
              onPress={() => enter(a.name, a.passphrase)}
              testID={`demo-${a.role}-${a.name.split(' ')[0]}`}
            >
              <View
                style={{ width: '100%', flexDirection: 'row', justifyContent: 'space-between', alignItems: 'center', gap: 8 }}
              >
                <Words bold>{a.name}</Words>
                <Words soft>{a.role}</Words>
              </View>
            </Button>
          ))}
        </Card>
      ) : null}
      <Words size={15} soft>
        Gavrel never says that a pack is safe. Local codes and trained people decide.
      </Words>
    </ScrollView>
  );
}
