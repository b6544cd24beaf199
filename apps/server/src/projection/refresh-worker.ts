import { constants, setPriority } from 'node:os';
import type { Knex } from 'knex';
import { PolicyLog } from '../log/policy';
import { connect } from '../store/db';
import { refreshAll } from './refresh';

/** What the thread that judges packs anew is told; nothing that cannot be copied to it. */
export interface RefreshOrder {
  readonly url: string;
  readonly workshop: string;
  readonly zone: string;
}

// On Linux it is this thread alone that stands back for whoever appends and reads.
setPriority(constants.priority.PRIORITY_LOW);

let task: { readonly db: Knex; readonly policy: PolicyLog } | null = null;

/** Judges every stale pack anew, over a connection of its own. Runs in a thread of its own. */
export default async function refreshInThread({ url, workshop, zone }: RefreshOrder): Promise<void> {
  task ??= { db: connect(url, 1), policy: new PolicyLog(workshop) };
  await refreshAll({ ...task, workshop, zone });
}
