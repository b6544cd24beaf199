import { closeRefit, groupName, jobScrews, type RefittedBody, type ScrewCount } from '@gavrel/core';
import { useState } from 'react';
import { draft } from '../../device/write';
import { whyNotFitted } from './held';
import type { JobView } from './view';

/** Closing the machine: which pack goes in, which screws are back, what else was said, and whether it closes. */
export function useRefit(v: JobView) {
  const before = v.job.refitted?.body;
  const [counts, setCounts] = useState<Record<string, number>>(() =>
    Object.fromEntries((before?.back ?? []).map((b) => [groupName(b), b.count])),
  );
  const [said, setSaid] = useState<Omit<RefittedBody, 'back'>>(() => {
    const { back: _back, ...rest } = before ?? { back: [] };
    return rest;
  });
  const fits = [...new Set(v.job.matches.filter((m) => m.verdict === 'fits').map((m) => m.new))];
  const [pack, setPack] = useState<string | null>(v.job.fittedPack ?? fits[fits.length - 1] ?? null);
  const groups = jobScrews(v.job, pack !== null);
  const back = groups.map((g): ScrewCount => ({ ...g, count: counts[groupName(g)] ?? 0 }));
  const everyScrew = () => setCounts(Object.fromEntries(groups.map((g) => [groupName(g), g.count])));
  const write = (body: RefittedBody, closes: boolean) => {
    const on = [
      `job:${v.job.id}` as const,
      ...(v.job.notebook ? [`notebook:${v.job.notebook}` as const] : []),
      ...(pack ? [`pack:${pack}` as const] : []),
    ];
    return v.write([draft('refitted', on, body)], closes ? 'refit closed' : 'refit, not closed');
  };
  const { closed } = closeRefit(groups, back);
  const chosen = v.packs.find((p) => p.facts.id === pack);
  return {
    fits,
    pack,
    setPack,
    /** Why the chosen pack does not go in; empty where it does. */
    notFitted: pack === null ? '' : whyNotFitted(chosen, pack === v.job.fittedPack),
    counts,
    groups,
    back,
    closed,
    /** Is anything counted, or nothing to count? */
    any: back.some((b) => b.count > 0) || groups.length === 0,
    total: groups.reduce((n, g) => n + g.count, 0),
    said,
    say: (part: Partial<typeof said>) => setSaid((s) => ({ ...s, ...part })),
    count: (g: ScrewCount, n: number) => setCounts((s) => ({ ...s, [groupName(g)]: Math.max(0, n) })),
    countAll: everyScrew,
    keep: () => write({ ...said, back }, closed),
    /** Everything went back as it came out: one tap says it. */
    keepAsItWas: () => {
      const all = { ...said, plugs: 'all, the pack last', clips: 'before screws' } as const;
      everyScrew();
      setSaid(all);
      return write({ ...all, back: groups }, true);
    },
  };
}

export type Refit = ReturnType<typeof useRefit>;
