import { randomBytes } from 'node:crypto';
import { createInterface } from 'node:readline/promises';
import { addPerson, inWorkshop } from '@gavrel/server';
import type { Knex } from 'knex';
import { v4 } from 'uuid';

/** Makes an empty workshop, unless there is one, and its first lead. Without a terminal the passphrase is made up and said once. */
export async function makeOwn(owner: Knex, say: (line: string) => void): Promise<void> {
  let name = 'Lead';
  let passphrase = randomBytes(12).toString('base64url');
  let workshop = 'Our workshop';
  if (process.stdin.isTTY) {
    const ask = createInterface({ input: process.stdin, output: process.stdout });
    workshop = (await ask.question('Name of the workshop: ')).trim() || workshop;
    name = (await ask.question('Your name (first lead): ')).trim() || name;
    for (let given = ''; given.length < 8; passphrase = given)
      given = (await ask.question('Passphrase, 8 characters or more: ')).trim();
    ask.close();
  } else say(`first lead: name "${name}", passphrase "${passphrase}" (said only now)`);
  const there = await owner('workshops').first<{ id: string } | undefined>();
  const id = there?.id ?? v4();
  const zone = Intl.DateTimeFormat().resolvedOptions().timeZone || 'UTC';
  if (!there) await owner('workshops').insert({ id, name: workshop, zone });
  await inWorkshop(owner, id, (trx) => addPerson(trx, id, { id: v4(), name, role: 'lead', competent: true, passphrase }));
}
