import { useEffect } from 'react';
import { ScrollView, View } from 'react-native';
import { useAppDispatch, useAppSelector } from '../state';
import { useActions } from '../state/context';
import { screenLocked } from '../state/view';
import { SPACE, useTokens } from '../theme';
import { Card } from '../ui/frame';
import { Button } from '../ui/buttons';
import { Heading, Words } from '../ui/words';
import { useAlarms } from '../stock/alarms';
import { criticalWords, useCritical } from '../features/critical/critical';
import { EnterForm } from '../entry/enter-form';

const TOUCHES = ['pointerdown', 'keydown'] as const;

/** Locks the screen when nobody touched it for as long as this device was told. */
export function useIdleLock(): void {
  const dispatch = useAppDispatch();
  const after = useAppSelector((s) => s.view.lockAfter);
  const locked = useAppSelector((s) => s.view.locked);
  useEffect(() => {
    if (after === null || locked) return;
    const lock = () => dispatch(screenLocked());
    let timer = setTimeout(lock, after * 60_000);
    const again = () => {
      clearTimeout(timer);
      timer = setTimeout(lock, after * 60_000);
    };
    for (const t of TOUCHES) window.addEventListener(t, again);
    return () => {
      clearTimeout(timer);
      for (const t of TOUCHES) window.removeEventListener(t, again);
    };
  }, [after, locked, dispatch]);
}

/** A locked bench: what is critical stays in sight, everything else waits for somebody who shows who they are. */
export function Lock() {
  const t = useTokens();
  const actions = useActions();
  const person = useAppSelector((s) => s.session.session?.person);
  const unchecked = useAppSelector((s) => s.view.unchecked);
  const unsent = useAppSelector((s) => s.logbook.unsent);
  const critical = useCritical();
  const alarms = useAlarms();
  return (
    <ScrollView
      role="main"
      tabIndex={0}
      style={{ backgroundColor: t.ground }}
      contentContainerStyle={{ padding: SPACE, gap: SPACE, maxWidth: 520, width: '100%', alignSelf: 'center', paddingTop: 36 }}
      testID="locked"
    >
      {critical.length > 0 ? (
        <View role="alert" style={{ backgroundColor: t.critical, padding: SPACE }}>
          <Words bold color={t.onCritical}>{`critical: ${criticalWords(critical)}`}</Words>
        </View>
      ) : null}
      {alarms.map((a) => (
        <View key={a.words} role="alert" style={{ backgroundColor: t.critical, padding: SPACE }}>
          <Words bold color={t.onCritical}>{`alarm: ${a.words}`}</Words>
        </View>
      ))}
      <Heading level={1} size={34}>
        Locked
      </Heading>
      <Words>
        {unchecked
          ? 'The server answers again. Show who you are; what was written meanwhile goes out then.'
          : `${person?.name ?? 'Somebody'} was here last.`}
        {unsent > 0 ? ` ${unsent} wait on this device.` : ''}
      </Words>
      <Card>
        <EnterForm
          self
          onEntered={() => undefined}
          away={
            <>
              <Words size={15}>
                {`Nobody can be checked now. What is written waits for ${person?.name ?? 'whoever signed in'} to show who they are; a hazard goes out at once.`}
              </Words>
              <Button
                label={`Go on as ${person?.name ?? 'before'}, unchecked`}
                height={56}
                onPress={() => actions.openUnchecked()}
                testID="open-unchecked"
              />
            </>
          }
        />
      </Card>
      <Button label="Sign out" tone="quiet" onPress={() => actions.signOut()} testID="lock-sign-out" />
    </ScrollView>
  );
}
