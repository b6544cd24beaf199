import { findingOf } from '../condition/findings';
import type { Judgement } from '../condition/condition';
import { ladder } from '../condition/ladder';
import type { IntakeBody, TriageBody } from '../logbook/entry';
import type { JobFacts } from '../logbook/fold-job';
import type { NotebookFacts } from '../logbook/fold';
import { counted } from '../quantity/counted';
import type { Interval } from '../quantity/interval';

export type OpeningWord = 'open now' | 'bring down first' | 'do not open' | 'emergency';

/** The ruling before a screw turns. */
export interface Opening {
  readonly word: OpeningWord;
  readonly reasons: readonly string[];
  /** The machine opens at the station for swollen packs, by a trained person. */
  readonly asDamaged: boolean;
}

/** Charge below which a machine is opened, % of full. Common practice, no source: 25 to 30. */
export const OPEN_BELOW = 30;

/** Findings that follow from a look from outside: each sign of a displaced part is swelling (common practice, no source). */
export function triageFindings(t: TriageBody): { code: string; note: string }[] {
  return [
    ...(t.lid === 'not flush' ? [{ code: 'swollen', note: 'lid not flush' }] : []),
    ...(t.base === 'rocks' ? [{ code: 'swollen', note: 'base rocks' }] : []),
    ...(t.smell === 'smell' ? [{ code: 'smell', note: 'at the closed machine' }] : []),
    ...(t.touch === 'warm' ? [{ code: 'warm', note: 'outside of the machine' }] : []),
    ...(t.touch === 'hot' ? [{ code: 'hot', note: 'outside of the machine' }] : []),
  ];
}

/** Findings that follow from the intake. */
export function intakeFindings(i: IntakeBody): { code: string; note: string }[] {
  return [
    ...(i.keyboard === 'uneven' ? [{ code: 'swollen', note: 'keyboard uneven' }] : []),
    ...(i.trackpad === 'stiff' ? [{ code: 'swollen', note: 'trackpad stiff' }] : []),
    ...(i.seam === 'gapes' ? [{ code: 'swollen', note: 'seam gapes' }] : []),
    ...(i.sound === 'hiss' ? [{ code: 'hissing', note: 'at the closed machine' }] : []),
    ...(i.liquid === 'yes' ? [{ code: 'spill', note: 'said or seen at intake' }] : []),
    ...(i.drop === 'yes' ? [{ code: 'dropped', note: 'the machine' }] : []),
  ];
}

const TRIAGE_FIELDS = ['lid', 'base', 'smell', 'touch'] as const;

/** What was not looked at from outside yet. */
export const notTriaged = (t: TriageBody): string[] => TRIAGE_FIELDS.filter((f) => t[f] === undefined);

const notLookedAt = (t: TriageBody): string[] => {
  const missing = notTriaged(t);
  return missing.length > 0 ? [`not looked at from outside yet: ${missing.join(', ')}`] : [];
};

/** The machine is its owner's: it opens when they agreed, not when nobody asked. */
const noConsent = (i: IntakeBody): string[] => {
  if (i.consent === 'given') return [];
  return [i.consent === 'refused' ? 'the owner does not agree to opening' : 'the owner was not asked yet'];
};

/**
 * May it be opened? The worst of machine and packs decides; what was not looked at and what the owner did not agree to keep it closed, an
 * unknown charge is not low.
 * @param packs judgements of the packs in the machine; @param charge % of full from the gauge or a rest voltage, or null.
 * @param trained ids of people trained to assess: only they stand at a swollen machine.
 * @param unheld packs of the job of which a device knows nothing: the machine stays closed there.
 */
export function opening(
  job: JobFacts,
  notebook: NotebookFacts | null,
  packs: readonly Judgement[],
  charge: Interval | null,
  trained: readonly string[],
  unheld = 0,
): Opening {
  const found = notebook?.findings ?? [];
  // What two people cleared on a pack no longer counts; what stands only on the machine does.
  const onMachine = found
    .filter((f) => !packs.some((p) => p.findings.some((x) => x.entries.includes(f.id))))
    .map((f) => f.body.code);
  // An answer that means danger counts also where no finding came with it: another device, or an import, left it out.
  const answered = [...triageFindings(notebook?.triage ?? {}), ...intakeFindings(job.intake)]
    .filter((a) => !found.some((f) => f.body.code === a.code && f.body.note === a.note))
    .map((a) => a.code);
  const machineCodes = [...onMachine, ...answered];
  const codes = [...new Set([...machineCodes, ...packs.flatMap((p) => p.because)])];
  const seen = ladder({ findings: codes, conditionKnown: true });
  const worst = packs.find((p) => p.condition === 'critical') ?? packs.find((p) => p.condition === 'damaged');
  const words = (list: readonly string[]) => list.map((c) => findingOf(c)?.words ?? c);
  if (seen.condition === 'critical' || worst?.condition === 'critical') {
    const kind = worst?.condition === 'critical' ? worst.kind : seen.kind;
    const because = seen.condition === 'critical' ? seen.because : worst!.because;
    const act = kind === 'reacting' ? 'leave, alarm, call' : 'keep people away; a trained person carries it outdoors';
    return { word: 'emergency', reasons: [...words(because), act], asDamaged: false };
  }
  if (codes.includes('smell')) {
    return {
      word: 'do not open',
      reasons: ['smell of solvent', 'close it, carry it outdoors if trained, air the room'],
      asDamaged: false,
    };
  }
  if (codes.includes('warm')) {
    return {
      word: 'do not open',
      reasons: ['warm at rest', 'off the charger, outdoors or fire-rated, watch it'],
      asDamaged: false,
    };
  }
  const machine = ladder({ findings: machineCodes, conditionKnown: true });
  const because = worst?.because ?? (machine.condition === 'damaged' ? machine.because : []);
  const asDamaged = because.length > 0;
  const stays = [
    ...(unheld > 0 ? [`what is known of ${counted(unheld, 'pack')} in it is not on this device`] : []),
    ...notLookedAt(notebook?.triage ?? {}),
    ...noConsent(job.intake),
  ];
  if (stays.length > 0) {
    const station = asDamaged ? ['a trained person opens it, at the station for swollen packs'] : [];
    return { word: 'do not open', reasons: [...words(because), ...stays, ...station], asDamaged };
  }
  if (asDamaged) {
    const ready = job.prepared !== null && trained.includes(job.prepared.by);
    return ready
      ? {
          word: 'open now',
          reasons: [...words(because), 'by the trained person, charge as found, never pry over the pack'],
          asDamaged: true,
        }
      : {
          word: 'do not open',
          reasons: [...words(because), 'a trained person opens it, at the station for swollen packs'],
          asDamaged: true,
        };
  }
  const shown = job.intake.charge === undefined ? null : job.intake.charge + 5;
  const upper = charge ? Math.max(charge.hi, shown ?? 0) : shown;
  if (upper === null)
    return { word: 'bring down first', reasons: ['charge not known: read the gauge, or run it down'], asDamaged: false };
  if (upper > OPEN_BELOW)
    return { word: 'bring down first', reasons: [`charge up to ${Math.round(upper)} %, over ${OPEN_BELOW} %`], asDamaged: false };
  return { word: 'open now', reasons: [`nothing seen from outside, charge at most ${Math.round(upper)} %`], asDamaged: false };
}
