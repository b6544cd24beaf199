import type { ContainerLookBody, LoggedEntry } from '../logbook/entry';
import type { Statement } from '../logbook/fold';
import { step, value } from '../quantity/figure';
import { combine, expanded, limitsOf, rectangular, resolution } from '../quantity/uncertainty';
import type { MeasuredFinding } from './findings';
import { DAY_MS } from '../quantity/day';

/** K over the room at rest that raise the alarm. Common practice, no source: +5 to +10 K is an alarm. */
export const ALARM_OVER_ROOM = 10;
/** K that a container may gain over its room between two looks of a day before it counts as rising. Our own rule, no source. */
export const ALARM_RISE = 3;
/** Of a probe nobody named, K. */
const UNNAMED = 2;

export interface OverRoom {
  /** K over the room, or over the empty twin. */
  readonly kelvin: number;
  /** Expanded uncertainty of the difference, K. */
  readonly u: number;
}

/** How far a container is over its room, with the uncertainty of that; null where one of the two was not taken. */
export function overRoom(b: ContainerLookBody): OverRoom | null {
  if (!b.temperature || !b.room) return null;
  const u = (f: NonNullable<ContainerLookBody['room']>) =>
    b.instrument
      ? combine(rectangular(limitsOf(b.instrument.accuracy, Math.abs(value(f)), step(f))), resolution(step(f)))
      : rectangular(UNNAMED);
  return { kelvin: value(b.temperature) - value(b.room), u: expanded(combine(u(b.temperature), u(b.room))) };
}

/** Smell, hiss and smoke were each asked and answered with nothing. */
export const quietSigns = (b: ContainerLookBody): boolean => b.smell === 'none' && b.sound === 'none' && b.smoke === 'none';

type Look = Pick<Statement<ContainerLookBody>, 'at' | 'body'>;

/** What is seen, heard and smelt that alarms, in words. */
export const signsOf = (b: ContainerLookBody): string[] => [
  ...(b.smoke === 'smoke' ? ['smoke'] : []),
  ...(b.sound === 'hiss' ? ['hiss'] : []),
  ...(b.smell === 'smell' ? ['smell'] : []),
];

/** Why a look alarms beside smoke, hiss and smell, in words; empty when it does not. @param earlier looks before it. */
export function alarmsOf(look: Look, earlier: readonly Look[]): string[] {
  const { body } = look;
  const out: string[] = [];
  if (body.seen === 'growing') out.push('something in it grows');
  const now = overRoom(body);
  if (now === null) return out;
  // The upper end counts: the room for doubt is on the side of caution.
  if (now.kelvin + now.u > ALARM_OVER_ROOM) out.push(`${now.kelvin.toFixed(1)} K over its ${body.against ?? 'room'}`);
  for (const e of earlier) {
    const before = e.body.probe === body.probe && e.body.against === body.against ? overRoom(e.body) : null;
    if (before === null || Date.parse(look.at) - Date.parse(e.at) > DAY_MS) continue;
    const rise = now.kelvin - before.kelvin;
    if (rise > Math.max(ALARM_RISE, Math.hypot(now.u, before.u))) {
      out.push(`${rise.toFixed(1)} K more than at an earlier look`);
      break;
    }
  }
  return out;
}

/** Each look with the looks of the day before it. @param looks oldest first. */
export function withDayBefore<T extends { readonly at: string }>(looks: readonly T[]): { look: T; earlier: T[] }[] {
  let first = 0;
  return looks.map((look) => {
    while (Date.parse(look.at) - Date.parse(looks[first]!.at) > DAY_MS) first += 1;
    const earlier: T[] = [];
    for (let i = first; i < looks.length && looks[i]!.at < look.at; i += 1) earlier.push(looks[i]!);
    return { look, earlier };
  });
}

/**
 * What looks at its container say of a pack that lay in it: smoke and hiss react now, smell is unstable, heat, a rise or growth
 * call for an examination from outside. Every look counts for itself, whatever came later; its own order does not matter.
 */
export function containerFindings(looks: readonly Statement<ContainerLookBody>[]): MeasuredFinding[] {
  const out: MeasuredFinding[] = [];
  for (const { look, earlier } of withDayBefore([...looks].sort((a, b) => (a.at < b.at ? -1 : 1)))) {
    const add = (code: string) => out.push({ code, entries: [look.id] });
    if (look.body.smoke === 'smoke') add('smoke');
    if (look.body.sound === 'hiss') add('hissing');
    if (look.body.smell === 'smell') add('container-smell');
    if (alarmsOf(look, earlier).length > 0) add('container-alarm');
  }
  return out;
}

/** Does it warn of something that others must know at once? */
export const isAlarm = (e: LoggedEntry): boolean =>
  e.kind === 'finding-recorded' ||
  e.kind === 'incident-opened' ||
  (e.kind === 'container-looked' && (signsOf(e.body).length > 0 || alarmsOf({ body: e.body, at: e.at }, []).length > 0));
