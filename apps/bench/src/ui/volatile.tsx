import { View } from 'react-native';
import { useAppDispatch, useAppSelector } from '../state';
import { storageFailureRead } from '../state/view';
import { SPACE, useTokens } from '../theme';
import { Button } from './buttons';
import { Heading, Words } from './words';

/** What is wrong with the storage of this device, what is safe, and what to do: before anything else is shown. */
export function VolatilePage() {
  const t = useTokens();
  const dispatch = useAppDispatch();
  const volatile = useAppSelector((s) => s.view.volatile);
  if (!volatile || volatile.read) return null;
  return (
    <View
      role="main"
      style={{
        flex: 1,
        backgroundColor: t.ground,
        padding: SPACE * 1.5,
        gap: SPACE,
        maxWidth: 640,
        width: '100%',
        alignSelf: 'center',
      }}
      testID="volatile"
    >
      <Heading level={1} size={26}>
        This device keeps nothing now
      </Heading>
      <Words>{volatile.why}</Words>
      <Words bold>What is safe</Words>
      <Words>
        All that was sent is on the server. What waited here to be sent lies in the closed storage: do not clear the browser's
        data.
      </Words>
      <Words bold>Going on without it</Words>
      <Words>What you write goes to the server while it answers, and ends with this page while it does not.</Words>
      <Button
        label="Go on, nothing is kept"
        tone="next"
        height={64}
        onPress={() => dispatch(storageFailureRead())}
        testID="volatile-go"
      />
    </View>
  );
}

/** The same in one line, for as long as the page is open. */
export function VolatileBar() {
  const t = useTokens();
  const volatile = useAppSelector((s) => s.view.volatile);
  if (!volatile) return null;
  return (
    <View
      role="alert"
      style={{ backgroundColor: t.critical, paddingHorizontal: SPACE, paddingVertical: 6 }}
      testID="volatile-bar"
    >
      <Words bold size={15} color={t.onCritical}>
        Nothing is kept on this device: leave this page open until all is sent.
      </Words>
    </View>
  );
}
