import { router, Slot, usePathname } from 'expo-router';
import { useCallback, useEffect, useState } from 'react';
import { View } from 'react-native';
import { useAppDispatch, useAppSelector } from '../state';
import { useActions } from '../state/context';
import { minuteCame, minuteOf, finderClosed, finderOpened, screenLocked } from '../state/view';
import { SPACE, useTokens, useWide } from '../theme';
import { Button } from '../ui/buttons';
import { Sheet } from '../ui/sheet';
import { isShort, partWords } from '../device/on-device';
import { StorageErrorBar } from '../ui/storage-error';
import { VolatileBar, VolatilePage } from '../ui/volatile';
import { clockWords } from '../ui/say';
import { Figures, Words } from '../ui/words';
import { AlarmBand } from '../stock/alarms';
import { Finder } from '../features/finder/finder';
import { CriticalTakeover, criticalWords, useCritical } from '../features/critical/critical';
import { fetchTheRest } from './later';
import { Lock, useIdleLock } from './lock';
import { Choose } from '../features/sign-in/choose';
import { rememberSignedIn, takeEarly } from '../features/sign-in/early';
import { SignIn } from '../features/sign-in/sign-in';

const TABS = [
  ['/', 'Bench', 'b'],
  ['/packs', 'Packs', 'p'],
  ['/yard', 'Yard', 'y'],
  ['/dispatch', 'Dispatch', 'd'],
  ['/more', 'More', 'm'],
] as const;

const KEY_HELP = [
  ['b', 'Bench'],
  ['p', 'Packs'],
  ['y', 'Yard'],
  ['d', 'Dispatch'],
  ['m', 'More'],
  ['l', 'lock this device'],
  ['/ or Ctrl K', 'find a tag, place, model, rule or screen'],
  ['Alt + letter', 'the same, also where single letters are switched off'],
  ['0–9 , ⌫', 'type a number on the keypad'],
  ['Enter', 'keep the number'],
  ['Esc', 'close the top sheet'],
  ['← →', 'from key to key of a choice'],
  ['?', 'these keys'],
] as const;

function Nav({ onFind, onHelp }: { onFind: () => void; onHelp: () => void }) {
  const t = useTokens();
  const wide = useWide();
  const path = usePathname();
  const dispatch = useAppDispatch();
  const here = (to: string) =>
    to === '/'
      ? path === '/' || path.startsWith('/job') || path === '/batch' || path === '/due'
      : to === '/packs'
        ? path.startsWith('/pack')
        : path === to ||
          (to === '/dispatch' &&
            (path === '/table' || path === '/means' || path === '/notices' || path.startsWith('/consignment'))) ||
          (to === '/yard' && (path.startsWith('/place') || path === '/round' || path.startsWith('/incident'))) ||
          (to === '/more' &&
            (path.startsWith('/more') || path === '/rules' || path === '/people' || path.startsWith('/practice')));
  return (
    <View
      role="navigation"
      aria-label="Main"
      style={{
        flexDirection: wide ? 'column' : 'row',
        backgroundColor: t.card,
        borderTopWidth: wide ? 0 : 2,
        borderRightWidth: wide ? 2 : 0,
        borderColor: t.ink,
        width: wide ? 104 : undefined,
        paddingTop: wide ? SPACE : 0,
      }}
    >
      {wide ? (
        <Words bold size={20} style={{ textAlign: 'center', paddingBottom: SPACE }}>
          Gavrel
        </Words>
      ) : null}
      {TABS.map(([to, name]) => (
        <Button
          key={to}
          label={name}
          tone="quiet"
          height={58}
          selected={here(to)}
          onPress={() => router.navigate(to)}
          style={{ flex: wide ? undefined : 1 }}
          testID={`tab-${name.toLowerCase()}`}
        />
      ))}
      {wide ? (
        <View style={{ flex: 1, justifyContent: 'flex-end' }}>
          <Button label="Find" hint="Ctrl K" tone="quiet" height={58} onPress={onFind} testID="nav-find" />
          <Button label="Keys ?" hint="what the keyboard does" tone="quiet" height={58} onPress={onHelp} testID="nav-keys" />
          <Button label="Lock" tone="quiet" height={58} onPress={() => dispatch(screenLocked())} testID="nav-lock" />
        </View>
      ) : null}
    </View>
  );
}

/** What has not gone out, the Undo of the last entry, and an unsent hazard, loud. */
function Bars() {
  const t = useTokens();
  const actions = useActions();
  const { unsent, unsentHazards, away, refused, asOf } = useAppSelector((s) => s.logbook);
  const unchecked = useAppSelector((s) => s.view.unchecked);
  const undo = useAppSelector((s) => s.view.undo);
  const kept = useAppSelector((s) => (s.view.volatile ? 'only on this page' : 'kept on this device'));
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    setNow(Date.now());
    if (!undo) return;
    const timer = setInterval(() => setNow(Date.now()), 500);
    return () => clearInterval(timer);
  }, [undo]);
  const left = undo ? Math.ceil((undo.until - now) / 1000) : 0;
  return (
    <View aria-live="polite">
      {away && unsentHazards > 0 ? (
        <View style={{ backgroundColor: t.critical, padding: SPACE }} testID="hazard-unsent">
          <Words bold color={t.onCritical}>
            A hazard is not sent: the lead does not know yet. Tell them yourself.
          </Words>
        </View>
      ) : null}
      <VolatileBar />
      <StorageErrorBar testID="storage-error" />
      {undo && left > 0 ? (
        <View
          style={{
            backgroundColor: t.ink,
            flexDirection: 'row',
            alignItems: 'center',
            justifyContent: 'space-between',
            paddingLeft: SPACE,
            gap: 8,
          }}
          testID="undo-bar"
        >
          <Words color={t.ground} style={{ flex: 1 }} lines={1}>
            {undo.words}
          </Words>
          <Button label={`Undo, ${left} s`} onPress={() => actions.undo(undo.ids)} style={{ borderWidth: 0 }} testID="undo" />
        </View>
      ) : away || refused.length > 0 ? (
        <View
          style={{
            backgroundColor: t.wash,
            paddingHorizontal: SPACE,
            paddingVertical: 6,
            flexDirection: 'row',
            justifyContent: 'space-between',
            gap: 8,
          }}
          testID="away-bar"
        >
          <Words size={15}>
            {refused.length > 0
              ? `${refused.length} came back: see More, This device`
              : unchecked
                ? `offline, nobody checked: ${kept}`
                : `offline${asOf ? `, as of ${clockWords(asOf)}` : ''}: ${kept}`}
          </Words>
          <Figures size={15} bold>{`${unsent} waiting`}</Figures>
        </View>
      ) : null}
    </View>
  );
}

/** On a device that does not hold everything on site every count and every list of what is due is too short. */
function ShortBand() {
  const t = useTokens();
  const holds = useAppSelector((s) => s.logbook.holds);
  if (!holds || !isShort(holds)) return null;
  return (
    <View role="alert" style={{ backgroundColor: t.wash, padding: SPACE }} testID="short-band">
      <Words bold>{partWords(holds)}</Words>
    </View>
  );
}

function KeyHelp({ onClose }: { onClose: () => void }) {
  return (
    <Sheet title="Keys" onClose={onClose}>
      {KEY_HELP.map(([k, what]) => (
        <View key={k} style={{ flexDirection: 'row', gap: SPACE }}>
          <Figures bold style={{ width: 110 }}>
            {k}
          </Figures>
          <Words>{what}</Words>
        </View>
      ))}
    </Sheet>
  );
}

/** Fetches what is not in the first load once somebody is in. @returns how to change over to a newer program; null where there is none. */
function useLater(isIn: boolean): (() => void) | null {
  const [change, setChange] = useState<(() => void) | null>(null);
  useEffect(() => {
    if (!isIn) return;
    const timer = setTimeout(() => {
      fetchTheRest();
      // Not in the first load: it only makes the next one possible without a server.
      import('../state/offline').then((m) => m.keepApplication((go) => setChange(() => go))).catch(() => undefined);
    }, 1500);
    return () => clearTimeout(timer);
  }, [isIn]);
  return change;
}

/** Lets the clock of the application tick. */
function useMinute(): void {
  const dispatch = useAppDispatch();
  useEffect(() => {
    const tick = () => dispatch(minuteCame(minuteOf(Date.now())));
    const timer = setInterval(tick, 5_000);
    // A page that slept is behind.
    document.addEventListener('visibilitychange', tick);
    return () => {
      clearInterval(timer);
      document.removeEventListener('visibilitychange', tick);
    };
  }, [dispatch]);
}

/** The keys of the frame. @param on somebody is in, and the device is not locked. */
function useKeys(on: boolean, onHelp: () => void): void {
  const dispatch = useAppDispatch();
  const letters = useAppSelector((s) => s.view.letters);
  useEffect(() => {
    if (!on) return;
    const onKey = (e: KeyboardEvent) => {
      // Nothing behind a sheet moves while it is open.
      if (document.querySelector('[aria-modal="true"]')) return;
      if ((e.ctrlKey || e.metaKey) && e.key === 'k') {
        e.preventDefault();
        dispatch(finderOpened());
        return;
      }
      const typing = e.target instanceof HTMLInputElement || e.target instanceof HTMLTextAreaElement;
      if (e.ctrlKey || e.metaKey || (!e.altKey && (typing || !letters))) return;
      const tab = TABS.find(([, , k]) => k === e.key);
      if (tab) router.navigate(tab[0]);
      else if (e.key === '?') onHelp();
      else if (e.key === '/') dispatch(finderOpened());
      else if (e.key === 'l') dispatch(screenLocked());
      else return;
      e.preventDefault();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [on, letters, dispatch, onHelp]);
}

/** The frame around every screen: navigation, bars, and the take-over when a pack is critical. */
export function Shell() {
  const t = useTokens();
  const wide = useWide();
  const status = useAppSelector((s) => s.session.status);
  /** Name of somebody who came in with a passphrase that a lead made. */
  const choosing = useAppSelector((s) => (s.session.session?.mustChoose ? s.session.session.person.name : null));
  const read = useAppSelector((s) => s.view.readCritical);
  const locked = useAppSelector((s) => s.view.locked);
  const volatile = useAppSelector((s) => s.view.volatile);
  const dispatch = useAppDispatch();
  const critical = useCritical();
  const [help, setHelp] = useState(false);
  const finding = useAppSelector((s) => s.view.finding);
  const change = useLater(status === 'in');
  const covered = volatile !== null && !volatile.read;
  useEffect(() => {
    if (status !== 'loading') rememberSignedIn(status === 'in');
    // Its own sign-in takes over what was typed; any other screen has no use for it.
    if (covered || status === 'in') takeEarly();
  }, [status, covered]);
  useIdleLock();
  useMinute();
  const showHelp = useCallback(() => setHelp(true), []);
  useKeys(status === 'in' && !locked, showHelp);
  if (volatile && !volatile.read) return <VolatilePage />;
  if (status === 'loading') return <View style={{ flex: 1, backgroundColor: t.ground }} />;
  if (status === 'out') {
    return (
      <View role="main" style={{ flex: 1, backgroundColor: t.ground }}>
        <SignIn />
      </View>
    );
  }
  if (choosing) {
    return (
      <View role="main" style={{ flex: 1, backgroundColor: t.ground }}>
        <Choose name={choosing} />
      </View>
    );
  }
  const fresh = critical.filter((c) => !read.includes(c.key));
  // Behind a lock everything stays as it was left, out of sight and out of reach.
  const frame = (
    <View
      style={{
        flex: 1,
        backgroundColor: t.ground,
        flexDirection: wide ? 'row' : 'column',
        display: locked ? 'none' : 'flex',
      }}
    >
      {wide ? <Nav onFind={() => dispatch(finderOpened())} onHelp={showHelp} /> : null}
      <View style={{ flex: 1 }}>
        {critical.length > 0 && fresh.length === 0 ? (
          <Button
            label={`critical: ${criticalWords(critical)}`}
            tone="critical"
            onPress={() => router.push(`/pack/${critical[0]!.id}`)}
            testID="critical-band"
          />
        ) : null}
        <AlarmBand />
        <ShortBand />
        <View role="main" style={{ flex: 1 }}>
          <Slot />
        </View>
        {change ? <Button label="A newer Gavrel is ready: change over" onPress={change} testID="change-over" /> : null}
        <Bars />
      </View>
      {wide ? null : <Nav onFind={() => dispatch(finderOpened())} onHelp={showHelp} />}
      {help ? <KeyHelp onClose={() => setHelp(false)} /> : null}
      {finding ? <Finder onClose={() => dispatch(finderClosed())} /> : null}
    </View>
  );
  return (
    <View style={{ flex: 1, backgroundColor: t.ground }}>
      {frame}
      {locked ? <Lock /> : null}
      {fresh.length > 0 ? <CriticalTakeover packs={fresh} /> : null}
    </View>
  );
}
