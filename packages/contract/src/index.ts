/** What crosses the wire, as types. The Joi schemas that check it live in `@gavrel/contract/schemas`, so a page need not load them. */
import type { Role } from './who';
import type { Condition, Entry, LoggedEntry, PackFacts, Ruling, Subject, Waits } from '@gavrel/core';
import type { NoticedPack } from '@gavrel/core/dispatch';

/** RFC 9457 problem document. `errors` names each field and what to do about it. */
/** A field by its path, and what is wrong with it. */
export interface FieldError {
  readonly field: string;
  readonly detail: string;
}

export interface Problem {
  readonly type: string;
  readonly title: string;
  readonly status: number;
  readonly detail?: string;
  readonly errors?: readonly FieldError[];
}

export const MAX_BATCH = 500;
export const MAX_BODY = 2 * 1024 * 1024;

export interface AppendRequest {
  /** The device's clock when it sent, ISO 8601: the server notes its offset. */
  readonly deviceTime: string;
  readonly entries: readonly Entry[];
}

export type EntryResult =
  | {
      readonly id: string;
      readonly status: 'accepted' | 'known';
      readonly seq: number;
      readonly recordedAt: string;
      readonly effectiveAt: string;
      /** Whose confirmation it waits for; absent where it can make nothing milder. */
      readonly waits?: Waits;
    }
  | { readonly id: string; readonly status: 'refused'; readonly problem: Problem }
  /** Not looked at yet: the device keeps it and sends it again. */
  | { readonly id: string; readonly status: 'later'; readonly problem: Problem };

export interface AppendResponse {
  readonly results: readonly EntryResult[];
}

export interface EntriesResponse {
  readonly entries: readonly LoggedEntry[];
  /** Highest seq of the workshop. */
  readonly last: number;
}

/** Most entries a device holds; a longer log is held in part. */
export const MAX_OFFLINE = 20_000;
/** Most subjects whose logs are asked for at once. */
export const MAX_LOGS = 200;

/** What a device is to hold, so that it can work without the server. */
export interface OfflineSet {
  /** The whole log fits on a device. */
  readonly whole: boolean;
  /** Highest seq of the workshop. */
  readonly last: number;
  /** Subjects whose logs to hold, the most dangerous packs first; empty where everything is held. */
  readonly subjects: readonly Subject[];
  /** Packs on site, and how many of them the set holds. */
  readonly onSite: number;
  readonly held: number;
}

export interface LogsRequest {
  readonly subjects: readonly Subject[];
}

/** How a second person shows who they are without taking the device over. */
export const SIGN_WAYS = ['pin', 'passphrase', 'code'] as const;
export interface SignRequest extends AppendRequest {
  readonly person: string;
  readonly how: (typeof SIGN_WAYS)[number];
  readonly secret: string;
}

export interface Person {
  readonly id: string;
  readonly name: string;
  readonly role: Role;
  /** Has a training to assess packs that has not run out: may confirm a clearing. */
  readonly competent: boolean;
  readonly trainings?: readonly Training[];
}

/** What somebody is trained for. Refreshers: air 24 months, United States 3 years, road as its own rules say; from memory. */
export const TRAININGS = ['assess', 'air', 'us', 'adr', 'sea'] as const;
export interface Training {
  readonly kind: (typeof TRAININGS)[number];
  /** Last day it is good for, YYYY-MM-DD. */
  readonly until: string;
}

/** What only a lead sees of a person. */
export interface PersonDetail extends Person {
  readonly disabled: boolean;
  readonly pin: boolean;
}

/** Bytes of pictures that are kept, and how many may be. */
export interface KeptResponse {
  readonly bytes: number;
  readonly most: number;
}

/** The copies that the server's machine makes by itself. */
export interface BackupResponse {
  readonly automatic: boolean;
  readonly newest: { readonly at: string; readonly bytes: number } | null;
}

/** Somebody outside who may sign, and what their code generator takes in (RFC 6238 key URI): said once. */
export interface Named {
  readonly id: string;
  readonly uri: string;
}

/** A passphrase that was made up for somebody: said once. */
export interface Invited {
  readonly id: string;
  readonly passphrase: string;
}

export interface Workshop {
  readonly id: string;
  readonly name: string;
  /** IANA zone. */
  readonly zone: string;
}

/** What a page may know before anyone signed in. */
export interface About {
  readonly workshop: Workshop;
  readonly demo: boolean;
  /** Demo accounts with their passphrases; only when started with demo data. */
  readonly accounts: readonly { readonly name: string; readonly passphrase: string; readonly role: Role }[];
  /** Who is signed in on this browser; null when nobody is. */
  readonly session: SessionResponse | null;
}

export interface SessionResponse {
  readonly person: Person;
  readonly workshop: Workshop;
  readonly people: readonly Person[];
  /** The passphrase was made by somebody else: nothing else goes before this person has chosen their own. */
  readonly mustChoose?: true;
}

/** What is kept of people and their secrets. */
export const TRAIL_WHATS = [
  'signed-in',
  'switched',
  'signed-out',
  'invited',
  'outside-named',
  'role-changed',
  'shut-out',
  'let-in',
  'reset',
  'passphrase-set',
  'pin-set',
  'training-set',
  'wrong-tries',
] as const;
export type TrailWhat = (typeof TRAIL_WHATS)[number];

/** One line of the trail: who did what, to whom, on which device. */
export interface TrailItem {
  readonly id: number;
  readonly at: string;
  readonly what: TrailWhat;
  readonly by: string | null;
  readonly about: string | null;
  readonly device: string | null;
  readonly note: string | null;
}

/** Most practice sessions that are sent at a time. */
export const MAX_PRACTISED = 500;
/** Practice scenarios in one file, and of other people's on one device. */
export const MAX_SCENARIOS = 50;

/** One practice session as it ended. It is no part of the log: nothing of it was ever true of a pack. */
export interface Practised {
  readonly scenario: string;
  /** When it began and ended, ISO 8601 UTC. */
  readonly begun: string;
  readonly at: string;
  readonly full: boolean;
  /** Unsafe acts. */
  readonly harm: number;
  /** The record said what the whole of it would. */
  readonly found: boolean;
  /** How sure the bet was, 0 to 1, and whether it was right; null: no bet. */
  readonly bet: { readonly sure: number; readonly right: boolean } | null;
}

/** The same with whose it was, as the lead sees it. */
export interface PractisedBy extends Practised {
  readonly person: string;
}

/** Whose machine or pack it is. Lies outside the log and can be erased. */
export interface Owner {
  readonly id: string;
  readonly name: string;
  readonly contact: string;
}

/** Pictures: largest accepted, bytes; longest side a device sends, px. */
export const MAX_PICTURE = 5 * 1024 * 1024;
/** A discharge log is kept packed, and at most as large as a picture. */
export const LOG_TYPE = 'application/gzip';
export const PICTURE_SIDE = 1600;
export const PICTURE_TYPES = ['image/jpeg', 'image/png'] as const;
export type PictureType = (typeof PICTURE_TYPES)[number];

/** The calendar of what is due. Its address is a secret, told once, when it is made. */
export interface CalendarResponse {
  readonly madeAt: string | null;
  readonly path?: string;
}

export interface PackRow {
  readonly id: string;
  readonly tag: string;
  readonly use: string | null;
  readonly typeCode: string;
  readonly condition: Condition;
  readonly place: string | null;
  /** Characters that were taken for others to find it. */
  readonly forgave: readonly string[];
}

export interface Page<T> {
  readonly items: readonly T[];
  readonly next: string | null;
}

/** A page of packs. Each condition shown is today's; by which they are filtered may be yesterday's while packs are judged anew. */
export interface PackPage extends Page<PackRow> {
  /** Packs that are still to be judged anew. */
  readonly stale: number;
}

/** Packs that a notice concerns, or may, of a stretch of the whole stock; `next` asks for the stretch after it. */
export type NoticedPacks = Page<NoticedPack>;

/** A discharge on an electronic load as it stands, with its rows from the one asked for. */
export interface BenchTestResponse {
  readonly pack: string;
  readonly amperes: number;
  readonly cutOff: number;
  /** Name of who began it. */
  readonly by: string;
  /** ISO 8601 UTC. */
  readonly began: string;
  readonly rows: readonly {
    readonly seconds: number;
    readonly volts: number;
    readonly amperes: number;
    readonly celsius: number | null;
  }[];
  /** The row to ask from next. */
  readonly next: number;
  /** null while it runs. */
  readonly end: { readonly whole: boolean; readonly off: boolean; readonly words: string } | null;
}

export interface PackResponse {
  readonly facts: PackFacts;
  readonly ruling: Ruling;
  readonly history: readonly LoggedEntry[];
}
export * from './lengths';
export * from './who';
