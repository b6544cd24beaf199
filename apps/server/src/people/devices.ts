import { createHash, randomBytes } from 'node:crypto';
import type { Knex } from 'knex';
import { v4 } from 'uuid';
import { DAY_MS } from '@gavrel/core';

/** A device that showed its secret. */
export interface Device {
  readonly id: string;
  /** What its cookie says now: the id, and a secret that changes with every person who enters. */
  readonly cookie: string;
}

const hashOf = (secret: string) => createHash('sha256').update(secret).digest('hex');
const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/;
/** Devices that nobody entered on for so long are forgotten, days. */
const FORGET_DAYS = 400;

interface Shown {
  readonly id: string;
  readonly hash: string;
}

function shownBy(cookie: string | undefined): Shown | null {
  const [id = '', secret = ''] = (cookie ?? '').split('.');
  return UUID.test(id) && secret !== '' ? { id, hash: hashOf(secret) } : null;
}

/** The id of the device whose secret a cookie holds; null for a stranger. The secret before the last is good too: an answer may be lost. */
export async function deviceOf(trx: Knex.Transaction, workshop: string, cookie: string | undefined): Promise<string | null> {
  const shown = shownBy(cookie);
  if (!shown) return null;
  const row = await trx('devices')
    .where({ workshop_id: workshop, id: shown.id })
    .where((q) => q.where('secret_hash', shown.hash).orWhere('before_hash', shown.hash))
    .first<{ id: string } | undefined>('id');
  return row?.id ?? null;
}

/** Somebody enters on a device: it gets a new secret, and is a new device where it showed none that is known. */
export async function enterOn(trx: Knex.Transaction, workshop: string, cookie: string | undefined): Promise<Device> {
  const secret = randomBytes(32).toString('base64url');
  const known = await deviceOf(trx, workshop, cookie);
  const id = known ?? v4();
  const fresh = { secret_hash: hashOf(secret), before_hash: known ? shownBy(cookie)!.hash : '', seen_at: new Date() };
  if (known) await trx('devices').where({ workshop_id: workshop, id }).update(fresh);
  else await trx('devices').insert({ workshop_id: workshop, id, ...fresh });
  await trx('devices')
    .where('seen_at', '<', new Date(Date.now() - FORGET_DAYS * DAY_MS))
    .delete();
  return { id, cookie: `${id}.${secret}` };
}
