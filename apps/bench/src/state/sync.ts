import type { AppendResponse, EntriesResponse, Problem } from '@gavrel/contract';
import { findingOf, isAlarm, type LoggedEntry, type Subject } from '@gavrel/core';
import { api, Away, put, Refused, errorMessage } from '../device/api';
import {
  cursor,
  dropSide,
  entryById,
  keepPulled,
  markSide,
  outbox,
  rememberAnswer,
  rememberedAnswer,
  settle,
  type Settled,
  sideItems,
} from '../device/store';
import { othersStorageError } from '../device/storage-error';
import { addVolatile, unsentDanger } from '../device/volatile';
import { wire } from '../device/write';
import type { Store } from '.';
import { fetchBehind, syncOfflineSubset } from './fetch-logs';
import { serverAway, serverHere } from './logbook';
import { applyEntries, applySubjects, countWaiting, openLog } from './projection';
import { signedOut } from './session';
import { storageErrorCame, screenLocked } from './view';

const OTHERS = 'What others wrote is not kept here';
const BATCH = 500;
const POLL_MS = 10_000;
const MAX_BACKOFF_MS = 30_000;

/** Findings that go out at once: nobody may wait six seconds for smoke. */
export function isUrgent(e: LoggedEntry): boolean {
  if (e.kind === 'container-looked' || e.kind === 'incident-opened') return isAlarm(e);
  if (e.kind !== 'finding-recorded') return false;
  const cls = findingOf(e.body.code)?.class;
  return cls === 'reacting' || cls === 'unstable';
}

/**
 * Keeps the device and the server in step: sends what waits, in order, under its author's session and from one tab only; pulls what
 * others wrote when news comes, and every ten seconds in any case.
 */
export class Sync {
  private timer: ReturnType<typeof setTimeout> | null = null;
  private poll: ReturnType<typeof setInterval> | null = null;
  private news: EventSource | null = null;
  private failures = 0;
  private busy = false;
  private again = false;
  /** Which session a round belongs to: an ended one's late answer does not end the next. */
  private turn = 0;
  private minute = '';
  private readonly tabs = new BroadcastChannel('gavrel');

  constructor(private readonly store: Store) {
    this.tabs.onmessage = ({ data }: MessageEvent<readonly Subject[] | 'all'>) =>
      void (data === 'all' ? openLog(this.store) : applySubjects(this.store, data));
  }

  start(): void {
    this.stop();
    this.failures = 0;
    this.poll = setInterval(() => this.soon(), POLL_MS);
    this.news = new EventSource('/api/news');
    this.news.onmessage = () => this.soon();
    this.soon();
  }

  stop(): void {
    if (this.timer !== null) clearTimeout(this.timer);
    if (this.poll !== null) clearInterval(this.poll);
    this.news?.close();
    this.timer = this.poll = this.news = null;
    this.turn += 1;
  }

  /** Asks for a round as soon as possible, or after a wait. */
  soon(ms = 0): void {
    if (this.timer !== null) clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.round(), ms);
  }

  /** A round now; whoever asks goes on when it ended, well or not. */
  async now(): Promise<void> {
    await this.round();
  }

  /** Tells the other tabs of this device what changed in the log they share. */
  tellTabs(subjects: readonly Subject[] | 'all'): void {
    this.tabs.postMessage(subjects);
  }

  private async round(): Promise<void> {
    if (this.busy) {
      this.again = true;
      return;
    }
    this.busy = true;
    const { turn } = this;
    try {
      await this.locked(async () => {
        await this.sendDanger();
        const later = await this.send();
        await this.sendSide();
        // What others found comes also while the server takes nothing more of this person's.
        await this.pull();
        if (later) throw new Refused(later);
      });
      this.failures = 0;
      this.store.dispatch(serverHere());
      if (this.ownLost() === null) this.store.dispatch(storageErrorCame(null));
      await this.answered();
      const { locked, unchecked } = this.store.getState().view;
      if (unchecked && !locked) this.store.dispatch(screenLocked());
    } catch (e) {
      if (turn === this.turn) await this.failed(e);
    } finally {
      this.busy = false;
      await this.plan(turn);
    }
  }

  /** When the next round comes, if the poll is not enough; none after the session ended. */
  private async plan(turn: number): Promise<void> {
    const next = await this.nextWait();
    if (this.again) {
      this.again = false;
      this.soon();
    } else if (next !== null && turn === this.turn) this.soon(Math.max(next, this.backoff()));
  }

  private locked(work: () => Promise<void>): Promise<void> {
    return navigator.locks ? navigator.locks.request('gavrel-sync', work) : work();
  }

  private backoff(): number {
    return this.failures === 0 ? 0 : Math.min(MAX_BACKOFF_MS, 500 * 2 ** this.failures);
  }

  /** Remembers the minute of the last answer: while nobody answers, everything on the screen is as of then. */
  private async answered(): Promise<void> {
    const minute = new Date().toISOString().slice(0, 16);
    if (minute === this.minute) return;
    this.minute = minute;
    await rememberAnswer(`${minute}:00.000Z`);
  }

  private async failed(e: unknown): Promise<void> {
    this.failures += 1;
    if (e instanceof Refused && e.problem.status === 401) {
      this.stop();
      this.store.dispatch(signedOut({ expired: true }));
    } else if (e instanceof Away || e instanceof Refused) this.store.dispatch(serverAway(await rememberedAnswer()));
    // The device could not keep what came: it is asked for again, and nothing that waits is forgotten.
    else if (this.ownLost() === null) this.store.dispatch(storageErrorCame({ words: OTHERS, why: othersStorageError(e) }));
  }

  /** What this person wrote and the device could not keep is said before what others wrote. */
  private ownLost(): string | null {
    const words = this.store.getState().view.lost?.words ?? OTHERS;
    return words === OTHERS ? null : words;
  }

  /** Milliseconds until the next waiting entry may go; null when none waits. */
  private async nextWait(): Promise<number | null> {
    // Until somebody was checked nothing is in a hurry but hazards, and they come with a round of their own.
    if (this.store.getState().view.unchecked) return null;
    const open = (await outbox()).filter((i) => !i.problem);
    return open.length === 0 ? null : Math.max(0, Math.min(...open.map((i) => i.sendAfter)) - Date.now());
  }

  /** What may go now: everything whose Undo has run out, in order, and what is urgent before its turn; hazards only, while nobody was checked. */
  private async ripe(): Promise<LoggedEntry[]> {
    const { session, view } = this.store.getState();
    const me = session.session?.person.id;
    const items = (await outbox()).filter((i) => i.by === me && !i.problem).sort((a, b) => (a.id < b.id ? -1 : 1));
    const entries = await Promise.all(items.map((i) => entryById(i.id)));
    const out: LoggedEntry[] = [];
    let undoable = false;
    items.forEach((item, i) => {
      const e = entries[i];
      if (!e || (view.unchecked && !e.hazard)) return;
      undoable ||= item.sendAfter > Date.now() && !isUrgent(e);
      if (!undoable || isUrgent(e)) out.push(e);
    });
    return out.slice(0, BATCH);
  }

  /** @returns why the server takes the rest later; null when it has everything. */
  private async send(): Promise<Problem | null> {
    for (let ripe = await this.ripe(); ripe.length > 0; ripe = await this.ripe()) {
      let results: AppendResponse['results'];
      try {
        ({ results } = await this.post(ripe));
      } catch (e) {
        if (e instanceof Refused && e.problem.status === 429) return e.problem;
        throw e;
      }
      const accepted: Settled[] = results.flatMap((r) =>
        r.status === 'refused' || r.status === 'later'
          ? []
          : [
              {
                id: r.id,
                seq: r.seq,
                recordedAt: r.recordedAt,
                effectiveAt: r.effectiveAt,
                ...(r.waits && { waits: r.waits }),
              },
            ],
      );
      const refused = results.flatMap((r) => (r.status === 'refused' ? [{ id: r.id, problem: r.problem }] : []));
      await settle(accepted, refused);
      this.tellTabs(await applyEntries(this.store, ripe));
      const later = results.find((r) => r.status === 'later');
      if (later) return later.problem;
    }
    return null;
  }

  /** Pictures and owners, after the entries that name them: danger first. */
  private async sendSide(): Promise<void> {
    const { session, view } = this.store.getState();
    if (view.unchecked) return;
    const me = session.session?.person.id;
    for (const item of (await sideItems()).filter((i) => i.by === me && !i.problem)) {
      try {
        await put(item.path, item.body, item.type);
        await dropSide(item.path);
      } catch (e) {
        if (!(e instanceof Refused) || e.problem.status === 401) throw e;
        await markSide(item, e.problem);
      }
      await countWaiting(this.store);
    }
  }

  private async pull(): Promise<void> {
    let volatile: unknown;
    try {
      if (await syncOfflineSubset()) {
        await openLog(this.store);
        this.tellTabs('all');
      }
    } catch (e) {
      if (e instanceof Away || e instanceof Refused) throw e;
      // No room for the set: what others write comes all the same.
      volatile = e;
    }
    await this.pullNew();
    if (volatile !== undefined) throw volatile;
  }

  /** Pulls to the end. What comes after something that could not be stored is not stored either: the next round begins there. */
  private async pullNew(): Promise<void> {
    let volatile: unknown;
    let after = await cursor();
    for (;;) {
      const { entries, last } = await api<EntriesResponse>('GET', `/entries?after=${after}&limit=2000`);
      if (entries.length === 0) break;
      after = entries[entries.length - 1]!.seq!;
      try {
        if (volatile === undefined) await this.keep(entries, after);
      } catch (e) {
        if (e instanceof Away || e instanceof Refused) throw e;
        volatile = e;
      }
      // Danger is shown also by a device that cannot store it.
      if (volatile !== undefined) await this.show(entries.filter((e) => e.hazard));
      if (after >= last) break;
    }
    if (volatile !== undefined) throw volatile;
  }

  private async keep(entries: readonly LoggedEntry[], reached: number): Promise<void> {
    const behind = await fetchBehind(entries);
    await keepPulled(entries, reached);
    this.tellTabs(await applyEntries(this.store, [...behind, ...entries]));
  }

  /** Shows danger that this device cannot keep. */
  async show(danger: readonly LoggedEntry[]): Promise<void> {
    addVolatile(danger);
    await applyEntries(this.store, danger);
  }

  /**
   * Sends what only this page has; what the server does not take stays on the screen, and its reason is said.
   * @returns whether the server has all of it now. @throws Away or Refused: then it is tried again.
   */
  async sendDanger(): Promise<boolean> {
    const me = this.store.getState().session.session?.person.id;
    const danger = unsentDanger().filter((e) => e.by === me);
    if (danger.length === 0) return true;
    const { results } = await this.post(danger);
    const numbers = new Map(results.map((r) => [r.id, r]));
    await this.show(
      danger.map((e): LoggedEntry => {
        const r = numbers.get(e.id);
        if (!r || r.status === 'refused' || r.status === 'later') return e;
        const { seq, recordedAt, effectiveAt, waits } = r;
        return { ...e, seq, recordedAt, effectiveAt, ...(waits && { waits }) };
      }),
    );
    const no = results.find((r) => r.status === 'refused');
    const why = no && `The server does not take it, tell the others yourself: ${errorMessage(new Refused(no.problem))}`;
    this.store.dispatch(storageErrorCame(why ? { words: 'Danger that only this page holds', why } : null));
    return no === undefined;
  }

  private post(entries: readonly LoggedEntry[]): Promise<AppendResponse> {
    return api<AppendResponse>('POST', '/entries', { deviceTime: new Date().toISOString(), entries: entries.map(wire) });
  }
}
