import { findingOf, type JobFacts, type NotebookFacts, taggedId } from '@gavrel/core';
import { useAppSelector } from '../state';
import { agoWords } from '../ui/say';

/** A machine whose tag is known, and its job while that is open. */
export interface KnownMachine {
  readonly notebook: NotebookFacts;
  readonly open: JobFacts | null;
}

/** Finds the machine that carries a tag already; null where none on this device does. */
export function useKnownMachine(): (tag: string) => KnownMachine | null {
  const workshop = useAppSelector((s) => s.session.session?.workshop.id ?? '');
  const notebooks = useAppSelector((s) => s.logbook.notebooks);
  const jobs = useAppSelector((s) => s.logbook.jobs);
  return (tag) => {
    const notebook = tag.trim() === '' ? undefined : notebooks[taggedId(workshop, 'notebook', tag)];
    const job = notebook?.job ? jobs[notebook.job] : undefined;
    return notebook ? { notebook, open: job && job.closedAt === null ? job : null } : null;
  };
}

/** What is known of it, in two lines at most: which machine, since when, and what was found on it. */
export function knownWords({ notebook: n, open }: KnownMachine): string[] {
  const name = [n.maker, n.model].filter(Boolean).join(' ') || 'make not known';
  const found = [...new Set(n.findings.map((f) => findingOf(f.body.code)?.words ?? f.body.code))];
  return [
    open
      ? `${n.tag} is under way: ${name}, job opened ${agoWords(open.openedAt)}.`
      : `${n.tag} was here before: ${name}, ${agoWords(n.lastAt)}.`,
    ...(found.length > 0 ? [`Found on it: ${found.join(', ')}. It stands.`] : []),
  ];
}
