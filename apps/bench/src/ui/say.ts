import {
  type DRAINS,
  alarmsOf,
  answersWords,
  bodyOf,
  type ContainerLookBody,
  type EntryOf,
  factWords,
  findingOf,
  type LoggedEntry,
  show,
  signsOf,
  subjectId,
  SUMMARY_ITEMS,
  SWEEP_NOT,
  SWEEP_POINTS,
  counted,
} from '@gavrel/core';
import { dispatchWords, isDispatch } from './dispatch-words';
import { differenceInCalendarDays, format, formatDistanceToNowStrict, isToday, parseISO } from 'date-fns';

/** "due in 2 days, Thu 3 Dec", as people say it. */
export function dueWords(day: string, today: string): string {
  const n = differenceInCalendarDays(parseISO(day), parseISO(today));
  const exact = format(parseISO(day), 'EEE d MMM');
  if (n === 0) return `due today, ${exact}`;
  if (n < 0) return `${-n} ${n === -1 ? 'day' : 'days'} late, ${exact}`;
  return `due in ${counted(n, 'day')}, ${exact}`;
}

/** A day as it stands everywhere: "Mon 26 Oct 2026"; what is no whole day as it is. @param day YYYY-MM-DD. */
export const dayWords = (day: string): string => (/^\d{4}-\d\d-\d\d$/.test(day) ? format(parseISO(day), 'EEE d MMM yyyy') : day);
/** A sentence with its days as people read them. */
export const withDays = (text: string): string => text.replace(/\b\d{4}-\d\d-\d\d\b/g, dayWords);

/** Where a tag that this device does not know could not be asked for. */
export const UNANSWERED = 'not on this device, and the server does not answer. Try again when it does.';

/** "12 minutes ago", exact on tap elsewhere. */
export const agoWords = (iso: string): string => formatDistanceToNowStrict(parseISO(iso), { addSuffix: true });
/** "14:32" today, with the day before that. */
export const clockWords = (iso: string): string => format(parseISO(iso), isToday(parseISO(iso)) ? 'HH:mm' : 'EEE d MMM, HH:mm');
export const exactWords = (iso: string): string => format(parseISO(iso), 'EEE d MMM yyyy, HH:mm');

/** By what a pack is brought down. */
export const drainWords = (how: (typeof DRAINS)[number]): string =>
  ({ notebook: 'in its notebook', resistor: 'by a resistor', load: 'on a load' })[how];

/** A look at a container, in a line; an alarm first. @param looks those of its place, or of the pack. */
export function containerWords(
  look: { readonly at: string; readonly body: ContainerLookBody },
  looks: readonly { readonly at: string; readonly body: ContainerLookBody }[] = [],
): string {
  const b = look.body;
  const signs = signsOf(b);
  const heat = alarmsOf(
    look,
    looks.filter((l) => l.at < look.at),
  );
  const degrees = b.temperature && b.room ? `${show(b.temperature)}, ${b.against ?? 'room'} ${show(b.room)}` : '';
  const alarm = [...signs, ...heat];
  const seen = alarm.length > 0 ? `ALARM: ${alarm.join(', ')}` : b.lid === 'open' ? '' : 'nothing noticed';
  return `container: ${[seen, b.lid === 'open' && 'lid open', degrees].filter(Boolean).join(', ')}`;
}

/** What was said at a station, in a line. */
function workWords(e: LoggedEntry): string {
  switch (e.kind) {
    case 'triaged':
      return `from outside: ${answersWords(e.body)}`;
    case 'intake-noted':
      return `intake: ${answersWords(e.body)}`;
    case 'owner-linked':
      return `owner of ${e.body.of === 'both' ? 'machine and pack' : `the ${e.body.of}`}`;
    case 'swollen-prepared':
      return 'opened as swollen: charge as found';
    case 'fasteners-mapped':
      return `${counted(e.body.screws.length, 'screw')} mapped`;
    case 'cover-opened':
      return `cover off${e.body.pryStart ? ` from ${e.body.pryStart}` : ''}`;
    case 'isolated':
      return `isolated${e.body.connector ? `: ${e.body.connector}` : ''}`;
    case 'pack-removed':
      return `taken out${e.body.stuck === 'stopped' ? ': stopped, it would not let go' : ''}`;
    case 'form-noted':
      return 'outline and connector noted';
    case 'source-stated':
      return `from: ${[e.body.school, e.body.supplier].filter(Boolean).join(', ') || 'noted'}`;
    case 'match-decided':
      return `match: ${e.body.verdict}`;
    case 'return-opened':
      return `return to ${e.body.to}: ${e.body.reason}`;
    case 'refitted':
      return `refitted, ${counted(
        e.body.back.reduce((n, b) => n + b.count, 0),
        'screw',
      )} back`;
    case 'proof-taken':
      return `proof: ${Object.entries(e.body)
        .map(([k, v]) => `${k} ${v}`)
        .join(', ')}`;
    case 'job-taken':
      return 'job taken up';
    case 'job-put-down':
      return 'job put down';
    case 'handed-over':
      return `handed over, old pack ${e.body.oldPack}`;
    case 'photo-taken':
      return `picture of the ${e.body.of === 'other' ? 'work' : e.body.of}`;
    case 'instrument-added':
      return `instrument ${e.body.name}`;
    case 'instrument-connected':
      return e.body.address ? `reached at ${e.body.address.host}, port ${e.body.address.port}` : 'not reached any more';
    case 'sheet-taken-in':
      return `model sheet from ${e.body.from}`;
    case 'station-skipped':
      return `${e.body.station} skipped`;
    default:
      return isDispatch(e) ? dispatchWords(e) : e.kind;
  }
}

/** What a correction or retraction mends, and what it says instead; empty where what it mends is not at hand. */
export function changeWords(
  e: LoggedEntry & EntryOf<'corrected' | 'retracted'>,
  all: readonly LoggedEntry[],
): { readonly before: string; readonly after: string } {
  const target = all.find((x) => x.id === e.replaces);
  if (!target) return { before: '', after: '' };
  const root = rootOf(target, all);
  const said = (body: unknown) => entryWords({ ...root, body } as LoggedEntry);
  return { before: said(bodyOf(target)), after: e.kind === 'corrected' ? said(e.body.body) : '' };
}

/** The entry that a correction, or a correction of corrections, rests on. */
function rootOf(e: LoggedEntry, all: readonly LoggedEntry[], depth = 0): LoggedEntry {
  const target = e.kind === 'corrected' && depth < 100 ? all.find((x) => x.id === e.replaces) : undefined;
  return target ? rootOf(target, all, depth + 1) : e;
}

/** What was said of a place, a drum or an incident, in a line; null for anything else. */
function yardWords(e: LoggedEntry, all: readonly LoggedEntry[]): string | null {
  switch (e.kind) {
    case 'place-added':
      return `place ${e.body.name}`;
    case 'place-described':
      return `place described: ${Object.keys(e.body).map(factWords).join(', ')}`;
    case 'incident-opened':
      return `incident: ${e.body.what}${e.body.note ? ` (${e.body.note})` : ''}`;
    case 'incident-noted':
      return `incident: ${e.body.step}`;
    case 'incident-looked':
      return 'incident: looked again, nothing seen';
    case 'incident-closed':
      return `incident declared over${e.body.falseAlarm ? ' as a false alarm' : ''}: ${e.body.reason}`;
    case 'place-closed':
      return `place closed: ${e.body.reason}`;
    case 'container-looked':
      return containerWords(
        e,
        all.filter((x): x is LoggedEntry & EntryOf<'container-looked'> => x.kind === 'container-looked'),
      );
    case 'alarm-answered':
      return `alarm answered: ${e.body.found}`;
    case 'place-counted':
      return `counted: ${counted(e.body.seen.length, 'pack')}, ${counted(e.body.strangers?.length ?? 0, 'stranger')}`;
    case 'drum-collected':
      return `collected by ${e.body.to}`;
    case 'drum-answered':
      return `the recycler answered${e.body.certificate ? `: ${e.body.certificate}` : ''}`;
    case 'sweep-walked':
      return `${e.body.sweep} walk: ${
        SWEEP_POINTS.filter((p) => e.body.points[p] === 'no')
          .map((p) => SWEEP_NOT[p])
          .join(', ') || 'nothing out of order'
      }`;
    default:
      return null;
  }
}

/**
 * One entry in a line, for the history.
 * @param all the history: what an alarm or a correction is told against. @param placeName of a place by its id.
 */
export function entryWords(
  e: LoggedEntry,
  all: readonly LoggedEntry[] = [],
  placeName: (id: string) => string = () => '',
): string {
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
      return `label${b.readBy ? ', read by camera' : ''}: ${[...figures, ...others.filter(Boolean)].join(', ')}`;
    }
    case 'reading-taken':
      return `${e.body.quantity.replace(/-/g, ' ')}${e.body.point ? ` ${e.body.point}` : ''}: ${show(e.body.figure)}`;
    case 'gauge-read': {
      const { fullChargeCapacity: f, designCapacity: d, remainingCapacity: r } = e.body;
      return `gauge: ${[r && `${show(r)} left`, f && `of ${show(f)}`, d && `design ${show(d)}`].filter(Boolean).join(' ')}`;
    }
    case 'log-measured': {
      const { charge: c, health: h } = e.body;
      const health = h ? `, ${h.lo.toFixed(0)} to ${h.hi.toFixed(0)} % of the label` : '';
      return `discharge log: ${c.lo.toFixed(3)} to ${c.hi.toFixed(3)} Ah${health}`;
    }
    case 'looked':
      return `looked, nothing found: ${e.body.groups.join(', ')}`;
    case 'finding-recorded':
      return `found: ${findingOf(e.body.code)?.words ?? e.body.code}${e.body.note ? ` (${e.body.note})` : ''}`;
    case 'finding-cleared':
      return `clearing: ${e.body.reason}`;
    case 'quiet-declared':
      return `24 quiet hours: ${e.body.reason}`;
    case 'corrected': {
      const { before, after } = changeWords(e, all);
      return before ? `corrected: ${before} → ${after} (${e.body.reason})` : `correction: ${e.body.reason}`;
    }
    case 'retracted': {
      const { before } = changeWords(e, all);
      return `taken back: ${before ? `${before} (${e.body.reason})` : e.body.reason}`;
    }
    case 'confirmed':
      return 'confirmed by a second person';
    case 'brought-down':
      return `being brought down to ${e.body.to} %, ${drainWords(e.body.how)}`;
    case 'topped-up':
      return `topped up to ${e.body.to} %`;
    case 'cycled':
      return `one full cycle in a host: ${e.body.went === 'as-usual' ? 'as usual' : 'not as usual'}${e.body.note ? ` (${e.body.note})` : ''}`;
    case 'evidence-stated':
      return `UN 38.3 evidence: ${e.body.typeTested}`;
    case 'intended':
      return `meant for ${e.body.purpose}`;
    case 'moved': {
      const place = e.subjects.find((s) => s.startsWith('place:'));
      const to = place ? ` to ${placeName(subjectId(place)) || 'a place'}` : '';
      return `moved${to}${e.body.despite ? `, where it may not lie: ${e.body.despite}` : ''}`;
    }
    case 'due-set':
      return `due: ${e.body.what} on ${dayWords(e.body.on)}`;
    case 'due-met':
      return 'due met';
    case 'job-opened':
      return `job opened${e.body.complaint ? `: ${e.body.complaint}` : ''}`;
    case 'job-closed':
      return 'job closed';
    case 'notebook-identified':
      return `notebook ${e.body.tag}${e.body.model ? `, ${e.body.model}` : ''}`;
    case 'declined':
      return `refused by a second person${e.body.reason ? `: ${e.body.reason}` : ''}`;
    case 'site-card-set':
      return 'site card set';
    case 'rule-checked':
      return `${e.body.rule} checked against ${e.body.edition}`;
    case 'summary-filed':
      return `test summary of ${e.body.typeCode}: ${e.body.items.length} of ${SUMMARY_ITEMS.length} items`;
    case 'policy-set':
      return `policy: ${Object.entries(e.body)
        .map(([k, v]) => `${factWords(k)} ${String(v)}`)
        .join(', ')}`;
    default:
      return yardWords(e, all) ?? workWords(e);
  }
}
