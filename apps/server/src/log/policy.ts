import { foldPolicy, type LoggedEntry, type PolicyFacts, type Subject } from '@gavrel/core';
import type { Knex } from 'knex';
import { query } from '../store/db';
import { type EntryRow, logged } from './read';

export const policySubject = (workshop: string): Subject => `policy:${workshop}`;

/**
 * The policy of a workshop, the summaries filed with it among them. It is asked for by every entry and every reading, so it is kept, and
 * only what the log has besides is read. The log only grows: what was read stays true.
 */
export class PolicyLog {
  private entries: readonly LoggedEntry[] = [];
  private facts: PolicyFacts | null = null;

  constructor(private readonly workshop: string) {}

  /** As it stands for this transaction. */
  async of(trx: Knex.Transaction): Promise<PolicyFacts> {
    const reached = this.entries[this.entries.length - 1]?.seq ?? 0;
    const rows = await query<EntryRow>(
      trx,
      'policy-after',
      `select e.seq, e.recorded_at, e.effective_at, e.waits, e.entry from entry_subjects s
       join entries e on e.workshop_id = s.workshop_id and e.seq = s.seq
       where s.workshop_id = ?::uuid and s.subject = ? and s.seq > ? order by s.seq`,
      [this.workshop, policySubject(this.workshop), reached],
    );
    if (rows.length === 0) return (this.facts ??= foldPolicy(this.entries));
    const all = [...this.entries, ...rows.map(logged)];
    const facts = foldPolicy(all);
    // Another request may have read further meanwhile.
    if ((this.entries[this.entries.length - 1]?.seq ?? 0) === reached) {
      this.entries = all;
      this.facts = facts;
    }
    return facts;
  }
}
