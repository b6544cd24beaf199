import { whyNot } from '@gavrel/contract';
import type { About, AppendResponse, Owner, SessionResponse, SignRequest } from '@gavrel/contract';
import type { LoggedEntry, PackFacts, PhotoBody, Subject } from '@gavrel/core';
import { api, Away, Refused } from '../device/api';
import { dropDrafts, loadDrafts } from '../device/drafts';
import { notOnDevice } from '../device/on-device';
import {
  deviceName,
  dropSide,
  entriesOf,
  keepNew,
  keepSide,
  type Leaving,
  outbox,
  releaseHeld,
  rememberedLeaving,
  rememberedScreen,
  rememberedSession,
  rememberLeaving,
  rememberScreen,
  rememberSession,
  type ScreenMemory,
  startOver,
  storageTrouble,
} from '../device/store';
import { StorageError } from '../device/storage-error';
import { unsentDanger } from '../device/volatile';
import type { PackedFile } from '../device/log-file';
import type { Shrunk } from '../device/picture';
import { type Author, draft, type Draft, makeEntry, wire } from '../device/write';
import { whyWrong } from './check';
import { fetchLogs } from './fetch-logs';
import type { Store } from '.';
import { applyEntries, openLog, undoEntries } from './projection';
import { aboutCame, deviceNamed, signedIn, signedOut } from './session';
import { isUrgent, Sync } from './sync';
import { storageErrorCame, screenLocked, screenOpened, screenRemembered, storageFailed, undoOffered } from './view';

/** What a device remembers of its screen. */
const REMEMBERED = [
  'theme',
  'readCritical',
  'shift',
  'speak',
  'putAway',
  'region',
  'locked',
  'unchecked',
  'lockAfter',
  'letters',
  'cables',
] as const satisfies readonly (keyof ScreenMemory)[];

/** How long an entry waits behind its Undo bar. */
export const UNDO_MS = 6000;

/** How long an answer at a station may be taken back while the station stands open, unless it is critical. */
export const STATION_UNDO_MS = 60_000;

/** What the screens may do: everything goes through here, and everything is an entry. */
export class Actions {
  private readonly sync: Sync;
  private writing: Promise<unknown> = Promise.resolve();
  /** The other tabs of this device: they lock and open together, and belong to the same person. */
  private readonly tabs = new BroadcastChannel('gavrel-lock');
  private hearing = false;

  constructor(private readonly store: Store) {
    this.sync = new Sync(store);
    this.tabs.onmessage = ({ data }: MessageEvent<{ locked: boolean } | { out: true }>) =>
      void ('out' in data ? this.leftElsewhere() : this.heard(data.locked));
  }

  private async heard(locked: boolean): Promise<void> {
    // Who opened it may be another person: the server knows.
    if (!locked) await this.refreshSession().catch(() => undefined);
    this.hearing = true;
    this.store.dispatch(locked ? screenLocked() : screenOpened({ unchecked: false }));
    this.hearing = false;
  }

  /** Another tab of this device signed out: this one shows it too. */
  private leftElsewhere(): void {
    this.sync.stop();
    this.store.dispatch(signedOut({ expired: false }));
  }

  /** Opens the device's copy first, then asks the server who is signed in. */
  async open(): Promise<void> {
    const trouble = await storageTrouble();
    if (trouble !== null) this.store.dispatch(storageFailed(trouble));
    // The server is asked while what the device holds is read: neither waits for the other.
    const asked = this.leave().then(() => api<About>('GET', '/about'));
    asked.catch(() => undefined);
    // Each read of the device waits for a free moment of the page: they wait together.
    const [name, screen, remembered] = await Promise.all([
      deviceName(),
      rememberedScreen(),
      rememberedSession(),
      loadDrafts(),
      openLog(this.store),
    ]);
    this.store.dispatch(deviceNamed(name));
    this.rememberTheScreen(screen);
    if (remembered) this.store.dispatch(signedIn(remembered));
    try {
      const about = await asked;
      this.store.dispatch(aboutCame(about));
      if (remembered && remembered.workshop.id !== about.workshop.id) await this.changeWorkshop();
      if (about.session) this.enter(about.session);
      else this.store.dispatch(signedOut({ expired: remembered !== null }));
    } catch (e) {
      if (!(e instanceof Refused || e instanceof Away)) throw e;
      // It did not say that nobody is signed in: who is remembered goes on, and is asked when it answers.
      if (remembered) this.sync.start();
      else this.store.dispatch(signedOut({ expired: false }));
    }
  }

  /** Theme and read take-overs outlive a reload. */
  private rememberTheScreen(known: ScreenMemory | undefined): void {
    if (known) this.store.dispatch(screenRemembered(known));
    let last = this.store.getState().view;
    this.store.subscribe(() => {
      const { view } = this.store.getState();
      if (REMEMBERED.every((k) => view[k] === last[k])) return;
      if (view.locked && !last.locked) void this.release();
      if (view.locked && !last.locked && !this.hearing) this.tabs.postMessage({ locked: true });
      last = view;
      void rememberScreen(Object.fromEntries(REMEMBERED.map((k) => [k, view[k]])) as unknown as ScreenMemory);
    });
  }

  /** Another workshop answers at this address: what belongs to the old one is of no use here, unless something waits. */
  private async changeWorkshop(): Promise<void> {
    if ((await outbox()).length > 0 || unsentDanger().length > 0) return;
    await startOver();
    dropDrafts();
    await openLog(this.store);
  }

  private enter(session: SessionResponse): void {
    this.store.dispatch(signedIn(session));
    // Before they have chosen a passphrase of their own the server takes nothing of theirs.
    if (session.mustChoose) return;
    void rememberSession(session);
    this.sync.start();
  }

  /** Tells the server of a sign-out that it has not heard of. @throws Away while it cannot hear: the cookie here lets nobody in before. */
  private async leave(): Promise<void> {
    const leaving = await rememberedLeaving();
    if (!leaving) return;
    await api('DELETE', leaving === 'everywhere' ? '/sessions' : '/session').catch((e: unknown) => {
      if (!(e instanceof Refused)) throw e;
    });
    await rememberLeaving(null);
  }

  /** A passphrase of one's own in place of the one that somebody else made. @throws Refused, Away. */
  async choosePassphrase(passphrase: string, fresh: string): Promise<void> {
    await api('PUT', '/session/passphrase', { passphrase, fresh });
    await this.refreshSession();
  }

  async signIn(name: string, passphrase: string): Promise<void> {
    await this.leave();
    const { device } = this.store.getState().session;
    this.enterHere(await api<SessionResponse>('POST', '/session', { name, passphrase, device }));
  }

  /** Hands this device to another person by their PIN; only the server can check it. */
  async switchTo(person: string, pin: string): Promise<void> {
    await releaseHeld(Date.now());
    await this.sync.now();
    this.enterHere(await api<SessionResponse>('POST', '/session/switch', { person, pin }));
  }

  /** Somebody showed who they are: in every tab. */
  private enterHere(session: SessionResponse): void {
    this.enter(session);
    this.store.dispatch(screenOpened({ unchecked: false }));
    this.tabs.postMessage({ locked: false });
  }

  /** Goes on while the server is away and can check nobody; it asks again when it answers, and only hazards go out before. */
  openUnchecked(): void {
    this.store.dispatch(screenOpened({ unchecked: true }));
  }

  /**
   * Another person signs here, with their own secret, without taking the device over. Only the server can check it.
   * @throws Refused when the secret or the signature does not fit, Away when the server does not answer.
   */
  async sign(person: string, how: SignRequest['how'], secret: string, confirms: readonly LoggedEntry[]): Promise<void> {
    const { session, device } = this.store.getState().session;
    const author = { workshop: session!.workshop.id, person, device };
    const entries = confirms.map((e) =>
      wire(makeEntry(author, draft('confirmed', e.subjects, { confirms: e.id }), Date.now(), e.effectiveAt ?? e.at)),
    );
    const deviceTime = new Date().toISOString();
    const request: SignRequest = { deviceTime, person, how, secret, entries };
    const { results } = await api<AppendResponse>('POST', '/entries/sign', request);
    for (const r of results) if ('problem' in r) throw new Refused(r.problem);
    this.sync.soon();
  }

  /** Asks again who is signed in and who belongs to the workshop. */
  async refreshSession(): Promise<void> {
    this.enter(await api<SessionResponse>('GET', '/session'));
  }

  /** Out at once, with or without the server: it is told as soon as it hears. */
  async signOut(everywhere = false): Promise<void> {
    await this.out(everywhere ? 'everywhere' : 'here');
    this.tabs.postMessage({ out: true });
    await this.leave().catch(() => undefined);
  }

  private async out(leaving: Leaving): Promise<void> {
    this.sync.stop();
    await rememberLeaving(leaving);
    await rememberSession(null);
    this.store.dispatch(signedOut({ expired: false }));
  }

  /**
   * Writes entries, one call after another: to IndexedDB first, then the fold, then, after the Undo bar, the server.
   * @param words what the Undo bar says. @param undoFor ms for which it may be taken back; danger that cannot wait goes at once.
   */
  write(drafts: readonly Draft[], words: string, undoFor = UNDO_MS): Promise<LoggedEntry[]> {
    const { session, device } = this.store.getState().session;
    if (!session) throw new Error('sign in first');
    // Refused here, before anything is kept: the server would refuse it by the same table, hours later.
    const no = drafts.map((d) => whyNot(d.kind, session.person)).find((why) => why !== null);
    if (no) return this.orSay(words, Promise.reject(new StorageError(null, `Not written: ${no}.`)));
    // Whose it is, is settled now: the device may change hands before its turn comes.
    const author = { workshop: session.workshop.id, person: session.person.id, device };
    const written = this.writing.then(() => this.orSay(words, this.writeNow(author, drafts, words, undoFor)));
    this.writing = written.catch(() => undefined);
    return written;
  }

  /** What the device could not keep is said wherever it was written, and whoever wrote it hears of it. @throws StorageError. */
  private async orSay<T>(words: string, work: Promise<T>): Promise<T> {
    this.store.dispatch(storageErrorCame(null));
    try {
      return await work;
    } catch (e) {
      const why = e instanceof StorageError ? e : new StorageError(e);
      this.store.dispatch(storageErrorCame({ words, why: why.message }));
      throw why;
    }
  }

  private async writeNow(author: Author, drafts: readonly Draft[], words: string, undoFor: number): Promise<LoggedEntry[]> {
    const wrong = await whyWrong(drafts);
    if (wrong !== null) throw new StorageError(null, `Not written yet: ${wrong}.`);
    const seen = await Promise.all(drafts.flatMap((d) => d.subjects.map(entriesOf)));
    const newest = seen.flat().map((e) => e.effectiveAt ?? e.at);
    let last = newest.length > 0 ? newest.reduce((a, b) => (a > b ? a : b)) : null;
    const entries = drafts.map((d) => {
      const e = makeEntry(author, d, Date.now(), last);
      last = e.at;
      return e;
    });
    const urgent = entries.some(isUrgent);
    const until = urgent ? Date.now() : Date.now() + undoFor;
    try {
      await keepNew(entries, until);
    } catch (e) {
      return this.sendWithoutStoring(entries, words, e);
    }
    this.sync.tellTabs(await applyEntries(this.store, entries));
    this.store.dispatch(undoOffered(urgent ? null : { ids: entries.map((e) => e.id), words, until }));
    this.sync.soon(urgent ? 0 : undoFor);
    return entries;
  }

  /**
   * Danger that this device cannot keep is shown and goes to the server at once, without a moment to take it back, or as soon as it answers.
   * @throws why it was not kept, when it is no danger.
   */
  private async sendWithoutStoring(entries: readonly LoggedEntry[], words: string, why: unknown): Promise<LoggedEntry[]> {
    if (!entries.every((e) => e.hazard)) throw why;
    await this.sync.show(entries);
    const has = await this.sync.sendDanger().catch(() => null);
    if (has === false) return [...entries];
    const said = has
      ? 'The server has it and tells the others, but this device could not keep it: free some space on it.'
      : 'This device could not keep it and the server does not answer: tell the others yourself, and leave this page open until it is sent.';
    this.store.dispatch(storageErrorCame({ words, why: said }));
    return [...entries];
  }

  /** Takes back what has not been sent yet. */
  async undo(ids: readonly string[]): Promise<void> {
    this.store.dispatch(undoOffered(null));
    this.sync.tellTabs(await undoEntries(this.store, ids));
  }

  /** A station closes, or the device changes hands: what could still be taken back goes out now. */
  async release(): Promise<void> {
    await this.writing;
    const by = Date.now() + UNDO_MS;
    const { undo } = this.store.getState().view;
    if (undo && undo.until > by) this.store.dispatch(undoOffered({ ...undo, until: by }));
    if (await releaseHeld(by)) this.sync.soon(UNDO_MS);
  }

  /** Fetches a log that this device does not hold. @returns whether anything is said there. @throws Away, Refused. */
  async fetchLog(subject: Subject): Promise<boolean> {
    const entries = await fetchLogs([subject]);
    await applyEntries(this.store, entries);
    return entries.some((e) => e.subjects.includes(subject));
  }

  /**
   * Packs as they are on record: those whose logs this device does not hold are asked for at the server first.
   * @returns all packs of this device then; null where the server was needed and did not answer.
   */
  async packsOnRecord(ids: readonly string[]): Promise<Readonly<Record<string, PackFacts>> | null> {
    const missing = await notOnDevice(ids.map((id): Subject => `pack:${id}`));
    try {
      if (missing.length > 0) await applyEntries(this.store, await fetchLogs(missing));
    } catch {
      return null;
    }
    return this.store.getState().logbook.packs;
  }

  /** Puts a refused entry or picture away; what it said can be written again. */
  async discard(id: string): Promise<void> {
    if (id.includes('/')) await dropSide(id);
    await this.undo([id]);
  }

  /** Keeps a picture on the device and sends it beside the log. @returns what an entry says of it. */
  async keepPicture(p: Shrunk): Promise<Omit<PhotoBody, 'of'>> {
    const { blob, ...said } = p;
    const side = { path: `blobs/${p.sha256}`, by: this.me(), type: p.type, body: blob };
    await this.orSay('the picture', keepSide(side, p.sha256));
    this.sync.soon(UNDO_MS);
    return { ...said, bytes: blob.size };
  }

  /** Keeps the packed file of a log for the server, as a picture is kept. */
  async keepFile({ blob, sha256 }: PackedFile): Promise<void> {
    const side = { path: `blobs/${sha256}`, by: this.me(), type: blob.type, body: blob };
    await this.orSay('the log', keepSide(side, sha256));
    this.sync.soon(UNDO_MS);
  }

  /** Keeps an owner's name and contact for the server's table; they never enter the log. */
  async keepOwner(owner: Owner): Promise<void> {
    const { id, ...body } = owner;
    const side = { path: `owners/${id}`, by: this.me(), type: 'application/json', body: JSON.stringify(body) };
    await this.orSay('the owner', keepSide(side));
    this.sync.soon();
  }

  private me(): string {
    const { session } = this.store.getState().session;
    if (!session) throw new Error('sign in first');
    return session.person.id;
  }
}
