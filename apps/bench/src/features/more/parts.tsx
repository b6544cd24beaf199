import type { ReactNode } from 'react';
import { useAppDispatch, useAppSelector } from '../../state';
import { themeChosen } from '../../state/view';
import { Choice } from '../../ui/buttons';
import { Card } from '../../ui/frame';
import { Figures, Words } from '../../ui/words';
import { BackupCard } from './backup-card';
import { CalendarCard } from './calendar-card';
import { DeviceCard } from './device-card';
import { InstrumentsCard } from './instruments-card';
import { PersonCard } from './person-card';
import { PolicyCard } from './policy-card';
import { RefusedItem } from './refused-item';
import { SiteCardPart } from './site-card';
import { SlipsCard } from './slips-card';

/** One thing under More: a part with a path of its own, or a screen elsewhere. */
export interface Part {
  readonly id: string;
  readonly group: string;
  readonly title: string;
  /** What it is also looked for by. */
  readonly more: string;
  readonly to?: string;
  readonly show?: () => ReactNode;
  readonly leadsOnly?: boolean;
}

/** What waits for the server, and what it sent back. */
function UnsentCard() {
  const { unsent, refused, away } = useAppSelector((s) => s.logbook);
  return (
    <Card title="Not sent yet" right={<Figures bold>{unsent}</Figures>} testID="unsent-card">
      <Words>
        {away ? 'The server does not answer. Everything is kept on this device and goes out by itself.' : 'The server answers.'}
      </Words>
      {refused.map((r) => (
        <RefusedItem key={r.id} id={r.id} problem={r.problem} />
      ))}
    </Card>
  );
}

function ScreenCard() {
  const dispatch = useAppDispatch();
  const theme = useAppSelector((s) => s.view.theme);
  return (
    <Card title="Screen">
      <Choice
        label="Screen"
        options={['auto', 'light', 'dark'] as const}
        value={theme}
        onChange={(v) => dispatch(themeChosen(v))}
      />
    </Card>
  );
}

function AboutCard() {
  return (
    <Card title="What Gavrel is not">
      <Words>
        It never says that a pack is safe. Rules are our copy, from memory: check the current edition. Local codes and trained
        people decide.
      </Words>
    </Card>
  );
}

export const PARTS: readonly Part[] = [
  {
    id: 'you',
    group: 'You and this device',
    title: 'You',
    more: 'PIN passphrase hand over sign out lock training',
    show: () => <PersonCard />,
  },
  { id: 'screen', group: 'You and this device', title: 'Screen', more: 'light dark theme', show: () => <ScreenCard /> },
  {
    id: 'device',
    group: 'You and this device',
    title: 'This device',
    more: 'offline waiting unsent refused kept storage speak letters keys',
    show: () => (
      <>
        <UnsentCard />
        <DeviceCard />
      </>
    ),
  },
  {
    id: 'practice',
    group: 'Practice',
    title: 'Practise on packs that cannot burn',
    more: 'learn rehearse scenarios training first day',
    to: '/practice',
  },
  { id: 'rules', group: 'Rules and tables', title: 'Read the rules', more: 'editions provisions paragraphs', to: '/rules' },
  { id: 'table', group: 'Rules and tables', title: 'Rule on a table of packs', more: 'CSV spreadsheet import', to: '/table' },
  { id: 'slips', group: 'Rules and tables', title: 'Paper slips', more: 'print offline blank', show: () => <SlipsCard /> },
  {
    id: 'site',
    group: 'Workshop',
    title: 'Site card',
    more: 'emergency number assembly point fire call',
    show: () => <SiteCardPart />,
  },
  { id: 'people', group: 'Workshop', title: 'People', more: 'invite roles trainings', to: '/people' },
  {
    id: 'instruments',
    group: 'Workshop',
    title: 'Instruments',
    more: 'meter calliper scale calibration',
    show: () => <InstrumentsCard />,
  },
  { id: 'policy', group: 'Workshop', title: 'Policy', more: 'schools swelling limits days quorum', show: () => <PolicyCard /> },
  {
    id: 'backup',
    group: 'Data',
    title: 'Backups',
    more: 'copy restore',
    leadsOnly: true,
    show: () => <BackupCard />,
  },
  {
    id: 'calendar',
    group: 'Data',
    title: 'Calendar',
    more: 'subscribe dues ics',
    leadsOnly: true,
    show: () => <CalendarCard />,
  },
  { id: 'about', group: 'Data', title: 'What Gavrel is not', more: 'safe limits of use', show: () => <AboutCard /> },
];

/** The parts that somebody may see and that fit the typed words. */
export function partsFor(lead: boolean, typed: string): readonly Part[] {
  const wanted = typed.trim().toLowerCase();
  return PARTS.filter((p) => (lead || !p.leadsOnly) && `${p.title} ${p.group} ${p.more}`.toLowerCase().includes(wanted));
}
