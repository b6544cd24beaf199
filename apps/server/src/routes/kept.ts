import { createHash } from 'node:crypto';
import { MAX_PICTURE, type Owner } from '@gavrel/contract';
import { OWNER_SCHEMA } from '@gavrel/contract/schemas';
import { type Context, Hono } from 'hono';
import { bodyLimit } from 'hono/body-limit';
import { pictureTrouble } from '../kept/picture';
import { answer, notFound, problem, ProblemError } from '../problem';
import { inWorkshop } from '../store/db';
import { body, type Env, idOf, type Services } from './env';

const SHA = /^[0-9a-f]{64}$/;

function refuse(status: 403 | 410 | 422, title: string, detail: string): never {
  throw new ProblemError(problem(status, 'kept', title, detail));
}

/** What lies outside the log and can be erased: pictures and owners. */
export function keptRoutes(s: Services): Hono<Env> {
  const app = new Hono<Env>();
  const workshop_id = s.workshop.id;
  const writes = (c: Context<Env>) => {
    if (c.get('person').role === 'viewer') refuse(403, 'A viewer reads only', 'Ask the lead for a technician’s role.');
  };
  const erases = (c: Context<Env>) => {
    if (c.get('person').role !== 'lead') refuse(403, 'Only a lead erases', 'Ask the lead.');
  };
  const shaOf = (c: Context<Env>) => {
    const sha256 = c.req.param('sha256') ?? '';
    if (!SHA.test(sha256)) throw notFound('picture');
    return sha256;
  };

  const limit = bodyLimit({
    maxSize: MAX_PICTURE,
    onError: (c) =>
      answer(
        c,
        problem(413, 'too-large', 'The picture is larger than 5 MB', 'Send it smaller; the application shrinks it to 1600 px.'),
      ),
  });
  app.put('/blobs/:sha256', limit, async (c) => {
    writes(c);
    const sha256 = shaOf(c);
    const type = c.req.header('content-type') ?? '';
    const bytes = Buffer.from(await c.req.arrayBuffer());
    const trouble = pictureTrouble(bytes, type);
    if (trouble) refuse(422, 'This is not a picture to keep', trouble);
    if (createHash('sha256').update(bytes).digest('hex') !== sha256)
      refuse(422, 'The picture does not fit its hash', 'It was damaged on the way: send it again.');
    const erased = await inWorkshop(s.db, workshop_id, async (trx) => {
      await trx('blobs')
        .insert({ workshop_id, sha256, type, size: bytes.length, bytes, by_person: c.get('person').id })
        .onConflict(['workshop_id', 'sha256'])
        .ignore();
      return trx('blobs').where({ workshop_id, sha256 }).whereNotNull('erased_at').first('sha256');
    });
    if (erased) refuse(410, 'This picture was erased', 'Take another one.');
    return c.body(null, 201);
  });
  app.get('/blobs/:sha256', async (c) => {
    const sha256 = shaOf(c);
    const row = await inWorkshop(s.db, workshop_id, (trx) =>
      trx('blobs').where({ workshop_id, sha256 }).first<{ type: string; bytes: Buffer | null } | undefined>('type', 'bytes'),
    );
    if (!row) throw notFound('picture');
    if (!row.bytes) refuse(410, 'This picture was erased', 'Its hash stays in the log.');
    return c.body(new Uint8Array(row.bytes), 200, {
      'content-type': row.type,
      'cache-control': 'private, max-age=31536000, immutable',
    });
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

  app.put('/owners/:id', bodyLimit({ maxSize: 10_000 }), async (c) => {
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
