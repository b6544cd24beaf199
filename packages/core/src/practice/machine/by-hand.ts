import type { IntakeBody, TriageBody } from '../../logbook/entry-job';
import { answerWords } from '../../logbook/answer-words';
import type { OwnEntry, Writing } from '../by-hand';
import { chargeShown, type MachineAction } from './acts';
import type { TrueMachine } from './machine';

type Field = keyof TriageBody | keyof IntakeBody;

/** What an action shows of the questions at the intake. @param done with the action itself. */
function answersShown(
  m: TrueMachine,
  action: MachineAction,
  done: readonly MachineAction[],
): Readonly<Partial<Record<Field, unknown>>> {
  switch (action) {
    case 'owner':
      return m.owner;
    case 'hands':
      return m.hands;
    case 'eyes':
      return m.eyes;
    case 'shown':
    case 'run-down':
      return { charge: chargeShown(m, done) };
    default:
      return {};
  }
}

/** Every answer that these actions show. */
const shownBy = (m: TrueMachine, done: readonly MachineAction[]): Map<Field, unknown> =>
  new Map(done.flatMap((a, i) => Object.entries(answersShown(m, a, done.slice(0, i + 1)))) as [Field, unknown][]);

const said = (field: Field, value: unknown): string =>
  field === 'charge' ? `charge ${String(value)} %` : answerWords(field, value);

/** A charge is read off in whole per cent. */
const agrees = (field: Field, mine: unknown, shown: unknown): boolean =>
  field === 'charge' ? Math.abs(Number(mine) - Number(shown)) <= 0.5 : mine === shown;

/** What was answered at the intake against what was there when it was answered; of one question the last answer counts. */
export function compareAnswers(m: TrueMachine, actions: readonly MachineAction[], own: readonly OwnEntry[]): Writing {
  const last = new Map<Field, { readonly value: unknown; readonly after: number }>();
  for (const o of own) {
    if (o.kind !== 'triaged' && o.kind !== 'intake-noted') continue;
    for (const [field, value] of Object.entries(o.body)) last.set(field as Field, { value, after: o.after });
  }
  const wrong = [...last].flatMap(([field, { value, after }]) => {
    const shown = shownBy(m, actions.slice(0, after));
    if (!shown.has(field)) return [`${said(field, value)}: nothing had shown it`];
    return agrees(field, value, shown.get(field)) ? [] : [`${said(field, value)}: it was ${said(field, shown.get(field))}`];
  });
  const left = [...shownBy(m, actions)].flatMap(([field, value]) => (last.has(field) ? [] : [said(field, value)]));
  return { wrong, left };
}
