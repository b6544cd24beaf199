import { findingOf, type LoggedEntry, show } from '@gavrel/core';
import { differenceInCalendarDays, format, formatDistanceToNowStrict, parseISO } from 'date-fns';

/** "due in 2 days, Thu 3 Dec", as people say it. */
export function dueWords(day: string, today: string): string {
  const n = differenceInCalendarDays(parseISO(day), parseISO(today));
  const exact = format(parseISO(day), 'EEE d MMM');
  if (n === 0) return `due today, ${exact}`;
  if (n < 0) return `${-n} ${n === -1 ? 'day' : 'days'} late, ${exact}`;
  return `due in ${n} ${n === 1 ? 'day' : 'days'}, ${exact}`;
}

/** "12 minutes ago", exact on tap elsewhere. */
export const agoWords = (iso: string): string => formatDistanceToNowStrict(parseISO(iso), { addSuffix: true });
export const exactWords = (iso: string): string => format(parseISO(iso), 'EEE d MMM yyyy, HH:mm');

/** One entry in a line, for the history. */
export function entryWords(e: LoggedEntry): string {
  switch (e.kind) {
    case 'pack-added':
      return `pack ${e.body.tag} added, ${e.body.use}`;
    case 'label-read': {
      const b = e.body;
      const figures = [b.nominalVoltage, b.ratedCapacity, b.ratedEnergy, b.limitedChargeVoltage].flatMap((f) =>
        f ? [show(f)] : [],
      );
      const others = [
        b.typeCode,
        b.chemistry,
        b.designation,
        b.madeOn && `made ${b.madeOn}`,
        b.energyMarked === undefined ? undefined : b.energyMarked ? 'Wh printed' : 'no Wh printed',
      ];
      return `label: ${[...figures, ...others.filter(Boolean)].join(', ')}`;
    }
    case 'reading-taken':
      return `${e.body.quantity.replace(/-/g, ' ')}${e.body.point ? ` ${e.body.point}` : ''}: ${show(e.body.figure)}`;
    case 'gauge-read': {
      const { fullChargeCapacity: f, designCapacity: d, remainingCapacity: r } = e.body;
      return `gauge: ${[r && `${show(r)} left`, f && `of ${show(f)}`, d && `design ${show(d)}`].filter(Boolean).join(' ')}`;
    }
    case 'looked':
      return `looked, nothing found: ${e.body.groups.join(', ')}`;
    case 'finding-recorded':
      return `found: ${findingOf(e.body.code)?.words ?? e.body.code}${e.body.note ? ` (${e.body.note})` : ''}`;
    case 'finding-cleared':
      return `clearing: ${e.body.reason}`;
    case 'quiet-declared':
      return `24 quiet hours: ${e.body.reason}`;
    case 'corrected':
      return `correction: ${e.body.reason}`;
    case 'retracted':
      return `taken back: ${e.body.reason}`;
    case 'confirmed':
      return 'confirmed by a second person';
    case 'evidence-stated':
      return `UN 38.3 evidence: ${e.body.typeTested}`;
    case 'intended':
      return `meant for ${e.body.purpose}`;
    case 'moved':
      return 'moved';
    case 'due-set':
      return `due: ${e.body.what} on ${e.body.on}`;
    case 'due-met':
      return 'due met';
    case 'job-opened':
      return `job opened${e.body.complaint ? `: ${e.body.complaint}` : ''}`;
    case 'job-closed':
      return 'job closed';
    case 'notebook-identified':
      return `notebook ${e.body.tag}${e.body.model ? `, ${e.body.model}` : ''}`;
    case 'place-added':
      return `place ${e.body.name}`;
    case 'site-card-set':
      return 'site card set';
    case 'policy-set':
      return 'policy set';
  }
}
