import { createHash } from 'node:crypto';
import { type KeptResponse, LOG_TYPE, MAX_PICTURE, type Owner } from '@gavrel/contract';
import { OWNER_SCHEMA } from '@gavrel/contract/schemas';
import { type Context, Hono } from 'hono';
import type { Knex } from 'knex';
import { whyNoLog } from '../kept/log-file';
import { isPictureType, redrawn } from '../kept/picture';
import { notFound, problem, ProblemError } from '../problem';
import { inWorkshop } from '../store/db';
import { body, type Env, idOf, onlyLead, type Services } from './env';
import { atMost } from './limit';

const SHA = /^[0-9a-f]{64}$/;

function refuse(status: 403 | 409 | 410 | 422, title: string, detail: string): never {
  throw new ProblemError(problem(status, 'kept', title, detail));
}

const writes = (c: Context<Env>) => {
  if (c.get('person').role === 'viewer') refuse(403, 'A viewer reads only', 'Ask the lead for a technician’s role.');
};
const erases = (c: Context<Env>) => {
  if (c.get('person').role !== 'lead') refuse(403, 'Only a lead erases', 'Ask the lead.');
};

/** Pictures, and logs of instruments. */
function pictureRoutes(s: Services): Hono<Env> {
  const app = new Hono<Env>();
  const workshop_id = s.workshop.id;
  const shaOf = (c: Context<Env>) => {
    const sha256 = c.req.param('sha256') ?? '';
    if (!SHA.test(sha256)) throw notFound('picture');
    return sha256;
  };

  const limit = atMost(
    MAX_PICTURE,
    problem(413, 'too-large', 'The picture is larger than 5 MB', 'Send it smaller; the application shrinks it to 1600 px.'),
  );
  app.put('/blobs/:sha256', limit, async (c) => {
    writes(c);
    const sha256 = shaOf(c);
    const type = c.req.header('content-type') ?? '';
    const bytes = Buffer.from(await c.req.arrayBuffer());
    if (!isPictureType(type) && type !== LOG_TYPE)
      refuse(422, 'This is not a picture to keep', 'Only JPEG and PNG are kept: save it as one of them.');
    if (createHash('sha256').update(bytes).digest('hex') !== sha256)
      refuse(422, 'The picture does not fit its hash', 'It was damaged on the way: send it again.');
    const known = await inWorkshop(s.db, workshop_id, (trx) =>
      trx('blobs').where({ workshop_id, sha256 }).first<{ erased_at: Date | null } | undefined>('erased_at'),
    );
    if (known?.erased_at) refuse(410, 'This picture was erased', 'Take another one.');
    if (known) return c.body(null, 201);
    const drawn = isPictureType(type) ? await redrawn(bytes, type) : ((await whyNoLog(bytes)) ?? bytes);
    if (typeof drawn === 'string') return refuse(422, `This is not a ${type === LOG_TYPE ? 'log' : 'picture'} to keep`, drawn);
    await inWorkshop(s.db, workshop_id, async (trx) => {
      if ((await kept(trx)) + drawn.length > s.pictureQuota)
        refuse(409, 'The workshop has no more room for pictures', 'A lead erases old ones, or gives it more room.');
      await trx('blobs')
        .insert({ workshop_id, sha256, type, size: drawn.length, bytes: drawn, by_person: c.get('person').id })
        .onConflict(['workshop_id', 'sha256'])
        .ignore();
    });
    return c.body(null, 201);
  });
  const kept = async (trx: Knex.Transaction): Promise<number> =>
    Number((await trx('blobs').whereNotNull('bytes').sum<{ sum: string | null }>('size as sum').first())?.sum ?? 0);
  app.get('/kept', onlyLead, async (c) =>
    c.json({ bytes: await inWorkshop(s.db, workshop_id, kept), most: s.pictureQuota } satisfies KeptResponse),
  );
  app.get('/blobs/:sha256', async (c) => {
    const sha256 = shaOf(c);
    const row = await inWorkshop(s.db, workshop_id, (trx) =>
      trx('blobs').where({ workshop_id, sha256 }).first<{ type: string; bytes: Buffer | null } | undefined>('type', 'bytes'),
    );
    if (!row) throw notFound('picture');
    if (!row.bytes) refuse(410, 'This picture was erased', 'Its hash stays in the log.');
    return c.body(new Uint8Array(row.bytes), 200, { 'content-type': row.type });
  });
  app.delete('/blobs/:sha256', async (c) => {
    erases(c);
    const sha256 = shaOf(c);
    const n = await inWorkshop(s.db, workshop_id, (trx) =>
      trx('blobs')
        .where({ workshop_id, sha256 })
        .update({ bytes: null, erased_at: trx.fn.now(), erased_by: c.get('person').id }),
    );
    if (n === 0) throw notFound('picture');
    return c.body(null, 204);
  });

  return app;
}

/** Whose machine or pack it is. */
function ownerRoutes(s: Services): Hono<Env> {
  const app = new Hono<Env>();
  const workshop_id = s.workshop.id;
  app.put('/owners/:id', async (c) => {
    writes(c);
    const id = idOf(c, 'owner');
    const given = await body<Omit<Owner, 'id'>>(c, OWNER_SCHEMA);
    const row = { workshop_id, id, ...given, by_person: c.get('person').id };
    await inWorkshop(s.db, workshop_id, (trx) =>
      trx('owners').insert(row).onConflict(['workshop_id', 'id']).merge(['name', 'contact', 'by_person']),
    );
    return c.json({ id, ...given } satisfies Owner);
  });
  app.get('/owners/:id', async (c) => {
    const id = idOf(c, 'owner');
    const row = await inWorkshop(s.db, workshop_id, (trx) =>
      trx('owners').where({ workshop_id, id }).first<Owner | undefined>('id', 'name', 'contact'),
    );
    if (!row) throw notFound('owner');
    return c.json(row);
  });
  app.delete('/owners/:id', async (c) => {
    erases(c);
    const id = idOf(c, 'owner');
    const n = await inWorkshop(s.db, workshop_id, (trx) => trx('owners').where({ workshop_id, id }).delete());
    if (n === 0) throw notFound('owner');
    return c.body(null, 204);
  });
  return app;
}

/** What lies outside the log and can be erased: pictures and owners. */
export const keptRoutes = (s: Services): Hono<Env> => new Hono<Env>().route('/', pictureRoutes(s)).route('/', ownerRoutes(s));
