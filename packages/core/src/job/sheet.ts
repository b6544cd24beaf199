import { groupName, groupsOf, type Screw } from '../fastener/screw';
import type {
  Bodies,
  CoverBody,
  FastenersBody,
  FormBody,
  IsolatedBody,
  LabelBody,
  PackRemovedBody,
  Station,
} from '../logbook/entry';
import type { JobFacts } from '../logbook/fold-job';
import type { NotebookFacts, Statement, TakenSheet } from '../logbook/fold';
import { minutesOf, type PackWork } from './stations';

/** A statement about a model with who made it. */
export interface Told<T> {
  readonly value: T;
  /** Person's id, or the name of another workshop. */
  readonly by: string;
  readonly at: string;
  /** In how many jobs the same was said. */
  readonly times: number;
}

/** What isolating teaches about a model: never what was live, drained or found that day. */
export type SheetIsolation = Pick<IsolatedBody, 'connector' | 'tape' | 'reach' | 'coinCell'>;
/** Never its thickness: what came out may have swollen. */
export type SheetForm = Pick<FormBody, 'length' | 'width' | 'connector' | 'ears' | 'cable'>;
/** Never the day it was made: that is each pack's own. */
export type SheetLabel = Omit<LabelBody, 'madeOn'>;
export type SheetRemoval = Pick<PackRemovedBody, 'mounting' | 'screws' | 'cables' | 'cable' | 'bay'>;

/** What jobs taught about a model. Findings, readings, swelling and live sources are never taken from it. */
export interface ModelSheet {
  readonly maker: string;
  readonly model: string;
  readonly jobs: number;
  /** How many of its packs came in swollen, of how many that were judged. */
  readonly swollen: number;
  readonly judged: number;
  /** Screw maps that were met, the most frequent first: the same base in several variants. */
  readonly variants: readonly Told<FastenersBody>[];
  readonly cover: Told<CoverBody> | null;
  readonly isolation: Told<SheetIsolation> | null;
  readonly removal: Told<SheetRemoval> | null;
  /** Outline, connector and ears of the pack that belongs in it. */
  readonly form: Told<SheetForm> | null;
  /** What its packs' labels say, the most frequent first; read against the pack in hand, never received from elsewhere. */
  readonly labels: readonly Told<SheetLabel>[];
  readonly codes: readonly string[];
  readonly minutes: Partial<Record<Station, number>>;
}

/** One job of the model, with its packs. */
export interface Lesson {
  readonly job: JobFacts;
  readonly notebook: NotebookFacts;
  readonly packs: readonly {
    readonly code: string;
    /** Somebody looked at its shape, or found it swollen. */
    readonly shapeSeen: boolean;
    readonly swollen: boolean;
    readonly removed: boolean;
    readonly form: Statement<FormBody> | null;
    readonly work: readonly PackWork[];
    /** What everybody agrees its label says, and who read it first; null while it is disputed. */
    readonly label: { readonly body: LabelBody; readonly by: string; readonly at: string } | null;
  }[];
}

/** The same statements counted together; the most frequent first, then the newest. */
function told<T>(said: readonly { value: T; by: string; at: string }[], key: (v: T) => string): Told<T>[] {
  const groups = new Map<string, Told<T>>();
  for (const s of [...said].sort((a, b) => (a.at < b.at ? -1 : 1))) {
    const known = groups.get(key(s.value));
    groups.set(key(s.value), { ...s, times: (known?.times ?? 0) + 1 });
  }
  return [...groups.values()].sort((a, b) => b.times - a.times || (a.at < b.at ? 1 : -1));
}

const json = (v: unknown) => JSON.stringify(v);
const median = (list: readonly number[]): number => {
  const sorted = [...list].sort((a, b) => a - b);
  const mid = Math.floor(sorted.length / 2);
  return sorted.length % 2 === 1 ? sorted[mid]! : (sorted[mid - 1]! + sorted[mid]!) / 2;
};

/** Variants differ by what screws they have, not by where a finger tapped or what was missing that day. */
const variantKey = (f: FastenersBody) =>
  groupsOf(asNew(f.screws))
    .map((g) => `${groupName(g)}:${g.count}`)
    .join(' ') + f.screws.filter((s) => s.captive).length;
/** A missing or stripped screw belongs to one machine, not to the model. */
const asNew = (screws: readonly Screw[]): Screw[] => screws.map(({ state: _state, ...s }) => s);

const defined = <T extends object>(o: T): T | null => (Object.values(o).some((v) => v !== undefined) ? o : null);

/** Puts together what jobs of one model taught. @param lessons at least one. */
export function sheetOf(lessons: readonly Lesson[]): ModelSheet {
  const first = lessons[0]!.notebook;
  const said = <T, U extends object>(pick: (j: JobFacts) => { body: T; by: string; at: string } | null, keep: (b: T) => U) =>
    lessons.flatMap(({ job }) => {
      const n = pick(job);
      const value = n && defined(keep(n.body));
      return n && value ? [{ value, by: n.by, at: n.at }] : [];
    });
  const maps = said(
    (j) => j.fasteners,
    (b) => {
      const { photo: _photo, ...rest } = b;
      return { ...rest, screws: asNew(b.screws) };
    },
  );
  const isolation = said(
    (j) => j.isolated,
    ({ connector, tape, reach, coinCell }): SheetIsolation => ({
      ...(connector && { connector }),
      ...(tape !== undefined && { tape }),
      ...(reach && { reach }),
      ...(coinCell && { coinCell }),
    }),
  );
  const removals = lessons.flatMap(({ job }) =>
    job.removals.flatMap(({ said: n }) => {
      const { mounting, screws, cables, cable, bay } = n.body;
      const value = defined<SheetRemoval>({
        ...(mounting && { mounting }),
        ...(screws && { screws }),
        ...(cables && { cables }),
        ...(cable && { cable }),
        ...(bay && { bay }),
      });
      return value ? [{ value, by: n.by, at: n.at }] : [];
    }),
  );
  const forms = lessons.flatMap((l) =>
    l.packs.flatMap((p) => {
      if (!p.form || !p.removed) return [];
      const { length, width, connector, ears, cable } = p.form.body;
      const value = defined<SheetForm>({
        ...(length && { length }),
        ...(width && { width }),
        ...(connector && { connector }),
        ...(ears !== undefined && { ears }),
        ...(cable && { cable }),
      });
      return value ? [{ value, by: p.form.by, at: p.form.at }] : [];
    }),
  );
  const labels = lessons.flatMap((l) =>
    l.packs.flatMap(({ label, removed }) => {
      if (!label || !removed) return [];
      const { madeOn: _madeOn, readBy: _readBy, ...rest } = label.body as Bodies['label-read'];
      const value = defined<SheetLabel>(rest);
      return value ? [{ value, by: label.by, at: label.at }] : [];
    }),
  );
  const came = lessons.flatMap((l) => l.packs.filter((p) => p.removed));
  const judged = came.filter((p) => p.shapeSeen);
  const minutes: Partial<Record<Station, number[]>> = {};
  for (const { job, packs } of lessons) {
    const own = minutesOf(
      job.visits,
      packs.flatMap((p) => p.work),
    );
    for (const [s, m] of Object.entries(own) as [Station, number][]) (minutes[s] ??= []).push(m);
  }
  return {
    maker: first.maker,
    model: first.model,
    jobs: lessons.length,
    swollen: judged.filter((p) => p.swollen).length,
    judged: judged.length,
    variants: told(maps, variantKey),
    cover:
      told(
        said(
          (j) => j.cover,
          ({ note: _note, ...b }) => b,
        ),
        json,
      )[0] ?? null,
    isolation: told(isolation, json)[0] ?? null,
    removal: told(removals, json)[0] ?? null,
    form: told(forms, json)[0] ?? null,
    labels: told(labels, json),
    codes: [...new Set(came.map((p) => p.code).filter((c) => c !== ''))].sort(),
    minutes: Object.fromEntries(Object.entries(minutes).map(([s, list]) => [s, Math.round(median(list))])),
  };
}

/** A sheet as a file between workshops: people's ids stay home. */
export interface SheetFile {
  readonly gavrel: 'model sheet';
  readonly version: 1;
  readonly sheet: ModelSheet;
}

/** The sheet for others: who said a thing becomes the workshop's name. */
export function exportSheet(sheet: ModelSheet, workshop: string): SheetFile {
  const ours = <T>(t: Told<T>): Told<T> => ({ ...t, by: workshop });
  return {
    gavrel: 'model sheet',
    version: 1,
    sheet: {
      ...sheet,
      variants: sheet.variants.map(ours),
      cover: sheet.cover && ours(sheet.cover),
      isolation: sheet.isolation && ours(sheet.isolation),
      removal: sheet.removal && ours(sheet.removal),
      form: sheet.form && ours(sheet.form),
      labels: [],
    },
  };
}

/** Our own sheet first; what it does not know is taken from sheets of other workshops, their counts are not added to ours. */
export function withTaken(own: ModelSheet | null, taken: readonly TakenSheet[]): ModelSheet | null {
  const others = taken.map((t) => (t.sheet as unknown as SheetFile).sheet);
  const newest = others[others.length - 1];
  if (!own) return newest ? { ...newest, jobs: 0, swollen: 0, judged: 0, labels: [], minutes: {} } : null;
  if (!newest) return own;
  return {
    ...own,
    variants: own.variants.length > 0 ? own.variants : newest.variants,
    cover: own.cover ?? newest.cover,
    isolation: own.isolation ?? newest.isolation,
    removal: own.removal ?? newest.removal,
    form: own.form ?? newest.form,
    codes: [...new Set([...own.codes, ...newest.codes])].sort(),
  };
}
