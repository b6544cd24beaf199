import fc from 'fast-check';
import { condition } from '../condition/condition';
import { RANK } from '../condition/ladder';
import { hasSign, TRIAGE_SIGNS } from '../logbook/answers';
import type { Bodies, Kind, LoggedEntry, Subject } from '../logbook/entry';
import { DEFAULT_POLICY, foldNotebook, foldPack, triageOf } from '../logbook/fold';
import { intakeOf } from '../logbook/fold-job';
import { canonical } from '../logbook/ids';
import { withReached } from '../logbook/reach';
import { isMend } from '../logbook/standing';
import { ALL_GROUPS, ANNA, BRAM, entry, NOW, ON, OTHER_PACK, PACK, soundPack } from '../logbook/testing';
import { conditionThen } from '../condition/over-time';
import { type DailyInputs, dailyInputs, packOwed } from '../place/daily';
import { storedOf } from '../place/stored';
import { dangerFoundAt, watchedPack } from '../place/watch';
import { DAY_MS } from '../quantity/day';
import { duesOf } from '../ruling/due';
import { rule, type Ruling } from '../ruling/ruling';
import { isMilderRuling, waitsFor } from './waits';

const CARA = 'a0000000-0000-4000-8000-000000000003';
const PEOPLE = [ANNA, BRAM, CARA];
/** Trained to assess. */
const TRAINED: readonly string[] = [BRAM, CARA];
const [P1, P2, N, J]: readonly Subject[] = [`pack:${PACK}`, `pack:${OTHER_PACK}`, 'notebook:n1', 'job:j1'];
const [BOX, SHELF]: readonly Subject[] = ['place:box', 'place:shelf'];

/** What a server does with entries one after another, without one: numbers them, says whom each waits for, refuses what it would refuse. */
class Log {
  readonly entries: LoggedEntry[] = [];

  of = (s: Subject) => this.entries.filter((e) => e.subjects.includes(s));
  pack = (s: Subject, entries = this.entries) =>
    withReached(
      entries.filter((e) => e.subjects.includes(s)),
      (r) => entries.filter((e) => e.subjects.includes(r)),
    );
  ruling(s: Subject, entries = this.entries): Ruling | null {
    const facts = foldPack(s.slice(5), this.pack(s, entries));
    return facts && rule(facts, DEFAULT_POLICY, NOW, ON);
  }
  state = () => [P1!, P2!].map((s) => this.ruling(s));

  private refused(e: LoggedEntry): boolean {
    const of = (id: string | undefined) => this.entries.find((x) => x.id === id);
    if (isMend(e)) {
      const target = of(e.replaces);
      return !target || ['confirmed', 'declined', 'retracted'].includes(target.kind);
    }
    if (e.kind !== 'confirmed') return false;
    const target = of(e.body.confirms);
    if (!target || target.by === e.by || !['second', 'trained'].includes(target.waits ?? '')) return true;
    return target.waits === 'trained' && !TRAINED.includes(e.by);
  }

  /** @returns the entry as stored, or null when it is refused or known. */
  take(e: LoggedEntry): LoggedEntry | null {
    if (this.entries.some((x) => x.id === e.id) || this.refused(e)) return null;
    const seq = this.entries.length + 1;
    const numbered = {
      ...e,
      seq,
      recordedAt: new Date(NOW.getTime() + seq * 1000).toISOString(),
      effectiveAt: e.at,
    } as LoggedEntry;
    const waits = waitsFor(numbered, {
      packs: new Map([P1!, P2!].map((s) => [s.slice(5), this.of(s)])),
      of: this.of,
      entries: this.entries,
      triage: triageOf(this.of(N!)),
      intake: intakeOf(this.of(J!)),
      policy: DEFAULT_POLICY,
      now: NOW,
      on: ON,
    });
    const stored = waits ? { ...numbered, waits } : numbered;
    this.entries.push(stored);
    return stored;
  }
}

const said = <K extends Kind>(
  kind: K,
  body: Bodies[K],
  subjects: readonly Subject[],
  minutes: number,
  by: string,
  replaces?: string,
) => entry(kind, body, { subjects, minutes, by, seq: null, ...(replaces && { replaces }) });
const volts = (digits: string) => ({
  quantity: 'pack-voltage' as const,
  figure: { digits, unit: 'V' as const },
  restMinutes: 200,
});
const mm = (digits: string) => ({ quantity: 'thickness' as const, figure: { digits, unit: 'mm' as const }, point: 'centre' });

/** Bodies that may be said, and corrected into one another. */
const BODIES: { [K in Kind]?: readonly Bodies[K][] } = {
  'finding-recorded': ['swollen', 'dropped', 'smoke', 'worn-out', 'low-voltage', 'wet', 'smell'].map((code) => ({ code })),
  'reading-taken': [
    volts('11.40'),
    volts('13.90'),
    volts('7.00'),
    mm('5.02'),
    mm('5.70'),
    { quantity: 'surface-temperature', figure: { digits: '64', unit: '°C' } },
  ],
  looked: [{ groups: [...ALL_GROUPS] }, { groups: ['shape'] }],
  triaged: [
    { lid: 'flush', base: 'steady', smell: 'none', touch: 'cool' },
    { base: 'rocks' },
    { base: 'steady' },
    { touch: 'hot' },
  ],
  'intake-noted': [{ drop: 'yes' }, { drop: 'no', liquid: 'no' }, { sound: 'hiss' }, { sound: 'none' }],
  'label-read': [
    { series: 3 },
    { series: 4 },
    { limitedChargeVoltage: { digits: '17.4', unit: 'V' } },
    { ratedEnergy: { digits: '120', unit: 'Wh' } },
  ],
  'container-looked': [
    { smell: 'none', sound: 'none', smoke: 'none' },
    { smoke: 'smoke' },
    { temperature: { digits: '44.0', unit: '°C' }, room: { digits: '20.0', unit: '°C' } },
  ],
  'topped-up': [{ to: 80 }],
  'brought-down': [{ to: 30, how: 'notebook' }],
  cycled: [{ went: 'as-usual' }, { went: 'not-as-usual' }],
  'gauge-read': [
    { fullChargeCapacity: { digits: '4600', unit: 'mAh' }, remainingCapacity: { digits: '900', unit: 'mAh' }, maxError: 2 },
    { fullChargeCapacity: { digits: '4600', unit: 'mAh' }, remainingCapacity: { digits: '4000', unit: 'mAh' }, maxError: 2 },
  ],
};
const KINDS = Object.keys(BODIES) as Kind[];
const ABOUT: Partial<Record<Kind, readonly Subject[]>> = { triaged: [N!], 'intake-noted': [J!, N!], 'container-looked': [BOX!] };

interface Step {
  readonly who: number;
  readonly what: 'say' | 'mend' | 'take back' | 'sign' | 'decline' | 'clear' | 'move';
  readonly kind: number;
  readonly pick: number;
  readonly other: boolean;
  /** Minutes by which it is dated back. */
  readonly late: number;
  /** Where its id sorts among those of the same moment. */
  readonly id: string;
}
const step: fc.Arbitrary<Step> = fc.record({
  who: fc.nat(2),
  what: fc.constantFrom('say', 'say', 'say', 'mend', 'take back', 'sign', 'decline', 'clear', 'move'),
  kind: fc.nat(100),
  pick: fc.nat(1000),
  other: fc.boolean(),
  // Steps are five minutes apart: many fall upon one moment.
  late: fc.oneof(
    fc.constant(0),
    fc.integer({ min: 0, max: 200 }),
    fc.nat(40).map((n) => n * 5),
  ),
  id: fc.constantFrom(...'0123456789abcdef'),
});

/** The entry a step writes, or null when there is nothing to write it about. */
function write(s: Step, log: Log, n: number): LoggedEntry | null {
  const e = written(s, log, n);
  return e && { ...e, id: s.id + e.id.slice(1) };
}

function written(s: Step, log: Log, n: number): LoggedEntry | null {
  const by = PEOPLE[s.who]!;
  const minutes = 60 + n * 5 - s.late;
  const pack = s.other ? P2! : P1!;
  const any = <T>(list: readonly T[]): T | undefined => (list.length === 0 ? undefined : list[s.pick % list.length]);
  const mendable = log.entries.filter((e) => BODIES[e.kind] || e.kind === 'corrected');
  switch (s.what) {
    case 'say': {
      const kind = KINDS[s.kind % KINDS.length]!;
      const subjects = ABOUT[kind] ?? (kind === 'finding-recorded' && s.pick % 3 === 0 ? [N!] : [pack]);
      return said(kind, any(BODIES[kind] as readonly never[])!, subjects, minutes, by);
    }
    case 'move':
      return said('moved', {}, [pack, s.kind % 2 === 0 ? BOX! : SHELF!], minutes, by);
    case 'take back': {
      const target = any(mendable);
      return target ? said('retracted', { reason: 'slipped' }, target.subjects, minutes, by, target.id) : null;
    }
    case 'mend': {
      const target = any(mendable.filter((e) => e.kind !== 'corrected'));
      if (!target) return null;
      const bodies = BODIES[target.kind] as readonly object[];
      return said(
        'corrected',
        { body: bodies[s.kind % bodies.length] as Record<string, unknown>, reason: 'misread' },
        target.subjects,
        minutes,
        by,
        target.id,
      );
    }
    case 'clear': {
      const target = any(log.entries.filter((e) => e.kind === 'finding-recorded' && e.subjects.includes(pack)));
      return target ? said('finding-cleared', { clears: [target.id], reason: 'examined' }, target.subjects, minutes, by) : null;
    }
    default: {
      const target = any(log.entries.filter((e) => e.waits === 'second' || e.waits === 'trained'));
      if (!target) return null;
      return s.what === 'sign'
        ? said('confirmed', { confirms: target.id }, target.subjects, minutes, by)
        : said('declined', { declines: target.id }, target.subjects, minutes, by);
    }
  }
}

function begin(): Log {
  const log = new Log();
  const add = (e: LoggedEntry) => log.take({ ...e, seq: null, recordedAt: null, effectiveAt: null } as LoggedEntry);
  add(said('notebook-identified', { tag: 'N', plate: 'unreadable' }, [N!], 0, ANNA));
  add(said('job-opened', {}, [J!, N!], 0, ANNA));
  for (const e of soundPack()) add(e.kind === 'pack-added' ? ({ ...e, subjects: [P1, N, J] } as LoggedEntry) : e);
  add(said('pack-added', { tag: 'T-2', use: 'spare' }, [P2!], 1, BRAM));
  add(said('moved', {}, [P1!, BOX!], 2, ANNA));
  return log;
}

describe('nobody alone lowers what another could already see', () => {
  const rankOf = (r: Ruling | null) => (r ? RANK[r.judgement.condition] : 0);
  /** New evidence may prove a pack; it never undoes danger. Everything else makes nothing milder at all. */
  const holds = (e: LoggedEntry, before: Ruling | null, after: Ruling | null): boolean => {
    if (!before || !after) return before === null;
    if (rankOf(before) >= RANK.damaged && rankOf(after) < rankOf(before)) return false;
    // Bringing down or topping up changes the charge, and with it the routes; never the condition.
    if (e.kind === 'topped-up' || e.kind === 'brought-down') return rankOf(after) >= rankOf(before);
    const evidence = !isMend(e) && !['moved', 'triaged', 'intake-noted'].includes(e.kind);
    // A slip of the eye at a label, mended by who made it, is the one exception, where no danger goes with it.
    const slip = isMend(e) && e.waits === 'nobody' && rankOf(before) < RANK.damaged;
    return evidence || slip || !isMilderRuling(before, after);
  };
  test('in random histories of three people, late and doubled arrivals among them', () => {
    fc.assert(
      fc.property(fc.array(step, { minLength: 1, maxLength: 14 }), (steps) => {
        const log = begin();
        steps.forEach((s, n) => {
          const e = write(s, log, n);
          if (!e) return;
          const [before, base] = [log.state(), triageOf(log.of(N!)).base];
          const stored = log.take(e);
          expect(log.take(e)).toBeNull();
          if (!stored || stored.kind === 'confirmed') return;
          const after = log.state();
          before.forEach((b, i) => {
            if (!holds(stored, b, after[i]!))
              throw new Error(
                `${stored.kind} by one made pack ${i} milder: ${b?.judgement.condition} to ${after[i]?.judgement.condition}`,
              );
          });
          if (base === 'rocks' && stored.kind === 'triaged') expect(triageOf(log.of(N!)).base).toBe('rocks');
        });
      }),
      { numRuns: 250 },
    );
  });
  test('in places where moves and alarms fall upon the same moments', () => {
    const act = fc.record({
      what: fc.constantFrom('move', 'move', 'take back', 'hand over', 'in hand', 'alarm', 'quiet look'),
      box: fc.boolean(),
      minutes: fc.nat(4),
      who: fc.nat(2),
      id: fc.constantFrom(...'0123456789abcdef'),
    });
    fc.assert(
      fc.property(fc.array(act, { maxLength: 8 }), (acts) => {
        const log = begin();
        const look = (place: Subject, smoke: 'smoke' | 'none', minutes: number, by: string) =>
          said('container-looked', { smoke, smell: 'none', sound: 'none' }, [place], minutes, by);
        for (const { what, box, minutes, who, id } of acts) {
          const [place, at, by] = [box ? BOX! : SHELF!, 60 + minutes, PEOPLE[who]!];
          const moves = log.entries.filter((e) => e.kind === 'moved' || e.kind === 'handed-over');
          const slip = moves[Math.max(0, moves.length - 1 - (minutes % 2))]!;
          const e = {
            move: () => said('moved', {}, [P1!, place], at, by),
            'take back': () => said('retracted', { reason: 'slipped' }, slip.subjects, at, by, slip.id),
            'hand over': () => said('handed-over', { oldPack: 'given back' }, [J!, N!, P1!], at, by),
            'in hand': () => said('reading-taken', volts('11.40'), [P1!], at, by),
            alarm: () => look(place, 'smoke', at, by),
            'quiet look': () => look(place, 'none', at, by),
          }[what]!();
          const before = log.state();
          const stored = log.take({ ...e, id: id + e.id.slice(1) });
          if (stored && !holds(stored, before[0]!, log.state()[0]!)) throw new Error(`${stored.kind} made the pack milder`);
        }
        // Where it is shown to lie an alarm finds it.
        const { place } = foldPack(PACK, log.pack(P1!))!;
        if (place !== null) log.take(look(`place:${place}`, 'smoke', 90, ANNA));
        if (place !== null) expect(log.ruling(P1!)!.judgement.condition).toBe('critical');
      }),
      { numRuns: 250 },
    );
  });
  test('the condition holds until the moment it names, and no longer', () => {
    const moment = fc.integer({ min: 0, max: 90 * 24 * 60 });
    fc.assert(
      fc.property(fc.array(step, { maxLength: 8 }), fc.array(moment, { minLength: 1, maxLength: 6 }), (steps, looks) => {
        const log = begin();
        looks.forEach((m) => log.take(said('looked', { groups: [...ALL_GROUPS] }, [P1!], 90 - m, ANNA)));
        steps.forEach((s, n) => {
          const e = write(s, log, n);
          if (e) log.take(e);
        });
        const facts = foldPack(PACK, log.pack(P1!))!;
        const at = (ms: number) => condition(facts, DEFAULT_POLICY, new Date(ms)).condition;
        const { until, condition: now } = condition(facts, DEFAULT_POLICY, NOW);
        const end = until === null ? NOW.getTime() + 400 * DAY_MS : Date.parse(until);
        for (const part of [0.2, 0.7, 1]) expect(at(NOW.getTime() + Math.floor(part * (end - NOW.getTime())))).toBe(now);
        if (until !== null) expect(RANK[at(end + 1)]).toBeGreaterThan(RANK[now]);
      }),
      { numRuns: 150 },
    );
  });
  test('condition and dues of any moment follow from the small part of the facts that is stored', () => {
    const moment = fc.integer({ min: 0, max: 90 * 24 * 60 });
    const day = (iso: string) => iso.slice(0, 10);
    const moments = fc.array(moment, { minLength: 1, maxLength: 6 });
    fc.assert(
      fc.property(fc.array(step, { maxLength: 12 }), moments, fc.constantFrom(1, 20, 30, 45), (steps, looks, lookDays) => {
        const log = begin();
        looks.forEach((m) => log.take(said('looked', { groups: [...ALL_GROUPS] }, [P1!], 90 - m, ANNA)));
        steps.forEach((s, n) => {
          const e = write(s, log, n);
          if (e) log.take(e);
        });
        const policy = { ...DEFAULT_POLICY, lookDays };
        for (const p of [P1!, P2!]) {
          const facts = foldPack(p.slice(5), log.pack(p))!;
          const stored = JSON.parse(JSON.stringify(dailyInputs(facts, DEFAULT_POLICY))) as DailyInputs;
          for (const later of [0, ...looks]) {
            const at = new Date(NOW.getTime() + later * 60_000);
            const j = condition(facts, policy, at);
            expect(conditionThen(stored.assessed, policy, at)).toEqual({ condition: j.condition, kind: j.kind, until: j.until });
            const { dues, watch, agedLook } = packOwed(stored, j, policy, day);
            expect(dues).toEqual(duesOf(facts, j, day));
            const item = storedOf(facts, j, policy);
            const lies = item.place !== null && facts.left === null;
            expect(watch?.next).toBe(
              lies ? watchedPack(item, { ...facts, foundAt: dangerFoundAt(facts) }, policy)?.next : undefined,
            );
            expect(agedLook !== null).toBe(lies && item.condition === 'unproven' && RANK[item.placedAs] < RANK.unproven);
          }
        }
      }),
      { numRuns: 150 },
    );
  });
  test('the same set in any order, doubled, gives the same state', () => {
    fc.assert(
      fc.property(fc.array(step, { minLength: 3, maxLength: 14 }), fc.infiniteStream(fc.nat(1000)), (steps, noise) => {
        const log = begin();
        steps.forEach((s, n) => {
          const e = write(s, log, n);
          if (e) log.take(e);
        });
        const mixed = [...log.entries, ...log.entries.slice(0, 5)]
          .map((e) => ({ e, k: noise.next().value }))
          .sort((a, b) => a.k - b.k)
          .map((x) => x.e);
        for (const s of [P1!, P2!]) {
          const of = (list: LoggedEntry[]) => canonical(foldPack(s.slice(5), log.pack(s, list)));
          expect(of(mixed)).toBe(of(log.entries));
        }
        const machine = (list: LoggedEntry[]) =>
          canonical(foldNotebook('n1', [...new Map(list.filter((e) => e.subjects.includes(N!)).map((e) => [e.id, e])).values()]));
        expect(machine(mixed)).toBe(machine(log.entries));
      }),
      { numRuns: 120 },
    );
  });
});

describe('whom an entry waits for', () => {
  const all = () => begin();
  const condOf = (log: Log) => log.ruling(P1!)!.judgement.condition;
  test('taking a finding back needs somebody trained; an untrained second does not do', () => {
    const log = all();
    const found = log.take(said('finding-recorded', { code: 'swollen' }, [P1!], 70, ANNA))!;
    const back = log.take(said('retracted', { reason: 'light fell badly' }, [P1!], 71, CARA, found.id))!;
    expect(back.waits).toBe('trained');
    expect(log.take(said('confirmed', { confirms: back.id }, [P1!], 72, ANNA))).toBeNull();
    expect(condOf(log)).toBe('damaged');
    expect(log.take(said('confirmed', { confirms: back.id }, [P1!], 73, BRAM))).not.toBeNull();
    expect(condOf(log)).toBe('sound');
  });
  test('two findings taken back one after the other: each waits, also where the other still stands', () => {
    const log = all();
    const found = ['swollen', 'punctured'].map((code) => log.take(said('finding-recorded', { code }, [P1!], 70, ANNA))!);
    const back = found.map((f) => log.take(said('retracted', { reason: 'other pack' }, [P1!], 71, ANNA, f.id))!);
    expect(back.map((b) => b.waits)).toEqual(['trained', 'trained']);
  });
  test('what makes nothing milder acts at once: a note, a worse value, a look taken back', () => {
    const log = all();
    const dent = log.take(said('finding-recorded', { code: 'case-dented' }, [P1!], 70, ANNA))!;
    const worse = log.take(said('corrected', { body: { code: 'cell-dented' }, reason: 'deeper' }, [P1!], 71, CARA, dent.id))!;
    const look = log.entries.find((e) => e.kind === 'looked')!;
    const back = log.take(said('retracted', { reason: 'not I' }, [P1!], 72, ANNA, look.id))!;
    expect([worse.waits, back.waits]).toEqual(['nobody', 'nobody']);
    expect(log.ruling(P1!)!.judgement.because).toEqual(['cell-dented']);
  });
  test('a label misread is mended by who read it, unless danger goes with it', () => {
    const log = all();
    const read = log.take(said('label-read', { typeCode: 'QX 1', designation: '4ICP5/57/101' }, [P1!], 70, ANNA))!;
    expect(condOf(log)).toBe('unproven');
    const mend = log.take(
      said('corrected', { body: { typeCode: 'QX 1', designation: '3ICP5/57/101' }, reason: 'misread' }, [P1!], 71, ANNA, read.id),
    )!;
    expect([mend.waits, condOf(log)]).toEqual(['nobody', 'sound']);
    const low = log.take(said('label-read', { series: 4 }, [P1!], 80, ANNA))!;
    log.take(said('reading-taken', volts('7.40'), [P1!], 81, BRAM));
    expect(condOf(log)).toBe('damaged');
    const again = log.take(said('corrected', { body: { series: 3 }, reason: 'misread' }, [P1!], 82, ANNA, low.id))!;
    expect([again.waits, condOf(log)]).toEqual(['trained', 'damaged']);
  });
  test('steady after rocks stands only when somebody trained agrees, and both stay in the history', () => {
    const log = all();
    log.take(said('triaged', { base: 'rocks' }, [N!], 70, ANNA));
    const steady = log.take(said('triaged', { base: 'steady' }, [N!], 71, ANNA))!;
    const machine = () => foldNotebook('n1', log.of(N!))!;
    expect(steady.waits).toBe('trained');
    expect(machine().triage.base).toBe('rocks');
    expect(machine().waiting).toMatchObject([{ id: steady.id, trained: true }]);
    log.take(said('confirmed', { confirms: steady.id }, [N!], 72, BRAM));
    expect(machine().triage.base).toBe('steady');
    expect(machine().triageHistory.base!.map((a) => a.value)).toEqual(['rocks', 'steady']);
    // A sign that comes in late was not what they agreed about.
    log.take(said('triaged', { base: 'rocks' }, [N!], 69, CARA));
    expect(machine().triage.base).toBe('rocks');
    expect(hasSign(TRIAGE_SIGNS, machine().triage)).toBe(true);
  });
  test('a move dated back behind an alarm does not take the pack out of it', () => {
    const log = all();
    log.take(said('container-looked', { smoke: 'smoke' }, [BOX!], 80, CARA));
    expect(condOf(log)).toBe('critical');
    const away = log.take(said('moved', {}, [P1!, SHELF!], 75, ANNA))!;
    expect([away.waits, condOf(log)]).toEqual(['trained', 'critical']);
    expect(foldPack(PACK, log.pack(P1!))!.place).toBe('shelf');
    log.take(said('confirmed', { confirms: away.id }, away.subjects, 90, BRAM));
    expect(condOf(log)).toBe('sound');
  });
  test('a move of the very moment of an alarm leaves the pack in it', () => {
    const log = all();
    log.take(said('container-looked', { smoke: 'smoke' }, [BOX!], 80, CARA));
    log.take(said('moved', {}, [P1!, SHELF!], 80, ANNA));
    expect(condOf(log)).toBe('critical');
  });
  test('an alarm in a place where nothing is known to lie is not taken back alone: a pack may have lain there', () => {
    const log = all();
    const alarm = log.take(said('container-looked', { smoke: 'smoke' }, [SHELF!], 80, CARA))!;
    const calm = { body: { smoke: 'none', smell: 'smell' }, reason: 'dust' };
    expect(log.take(said('corrected', calm, [SHELF!], 81, CARA, alarm.id))!.waits).toBe('trained');
    expect(log.take(said('retracted', { reason: 'dust' }, [SHELF!], 82, CARA, alarm.id))!.waits).toBe('trained');
    const worse = { body: { smoke: 'smoke', sound: 'hiss' }, reason: 'heard it too' };
    expect(log.take(said('corrected', worse, [SHELF!], 83, CARA, alarm.id))!.waits).toBe('nobody');
    log.take(said('moved', {}, [P1!, SHELF!], 70, ANNA));
    expect(condOf(log)).toBe('critical');
  });
  test('a hand-over dated back behind an alarm leaves the pack here until somebody trained agrees', () => {
    const log = all();
    log.take(said('container-looked', { smoke: 'smoke' }, [BOX!], 80, CARA));
    const away = log.take(said('handed-over', { oldPack: 'given back' }, [J!, N!, P1!], 75, ANNA))!;
    const facts = () => foldPack(PACK, log.pack(P1!))!;
    expect([away.waits, condOf(log), facts().left, facts().place]).toEqual(['trained', 'critical', null, 'box']);
    log.take(said('confirmed', { confirms: away.id }, away.subjects, 90, BRAM));
    expect([condOf(log), facts().leftTo, facts().place]).toEqual(['sound', 'owner', null]);
  });
  test('a move that was taken back never took the pack away', () => {
    const after = (place: Subject) => {
      const log = all();
      const slip = log.take(said('moved', {}, [P1!, SHELF!], 60, ANNA))!;
      log.take(said('retracted', { reason: 'other pack' }, slip.subjects, 61, ANNA, slip.id));
      log.take(said('container-looked', { smoke: 'smoke' }, [place], 80, CARA));
      return [foldPack(PACK, log.pack(P1!))!.place, condOf(log)];
    };
    expect(after(BOX!)).toEqual(['box', 'critical']);
    expect(after(SHELF!)).toEqual(['box', 'sound']);
  });
  test('a second correction that waits takes away nothing that the first had left', () => {
    const log = all();
    const [label, gauge] = ['label-read', 'gauge-read'].map((kind) => log.entries.find((e) => e.kind === kind)!);
    const newer = { ...BODIES['gauge-read']![0] };
    log.take(said('corrected', { body: newer, reason: 'misread' }, [P1!], 60, ANNA, gauge!.id));
    const rest = log.take(said('reading-taken', volts('11.40'), [P1!], 55, ANNA))!;
    expect(log.take(said('retracted', { reason: 'slipped' }, [P1!], 70, ANNA, label!.id))!.waits).toBe('second');
    const before = log.ruling(P1!)!;
    const other = log.take(said('corrected', { body: volts('7.00'), reason: 'misread' }, [P1!], 75, ANNA, rest.id))!;
    expect([other.waits, isMilderRuling(before, log.ruling(P1!)!)]).toEqual(['second', false]);
  });
  test('declined, it waits no more and has no force', () => {
    const log = all();
    const found = log.take(said('finding-recorded', { code: 'swollen' }, [P1!], 70, ANNA))!;
    const back = log.take(said('retracted', { reason: 'light fell badly' }, [P1!], 71, ANNA, found.id))!;
    const facts = () => foldPack(PACK, log.pack(P1!))!;
    expect(facts().waiting).toMatchObject([{ id: back.id, trained: true, about: [found.id] }]);
    log.take(said('declined', { declines: back.id }, [P1!], 72, CARA));
    expect([facts().waiting, condition(facts(), DEFAULT_POLICY, NOW).condition]).toEqual([[], 'damaged']);
  });
  test('a correction taken back leaves what it mended standing again', () => {
    const log = all();
    const found = log.take(said('finding-recorded', { code: 'swollen' }, [P1!], 70, ANNA))!;
    const mild = log.take(said('corrected', { body: { code: 'worn-out' }, reason: 'only old' }, [P1!], 71, ANNA, found.id))!;
    log.take(said('confirmed', { confirms: mild.id }, [P1!], 72, BRAM));
    expect(condOf(log)).toBe('spent');
    log.take(said('retracted', { reason: 'it is swollen' }, [P1!], 73, CARA, mild.id));
    expect(condOf(log)).toBe('damaged');
  });
});
