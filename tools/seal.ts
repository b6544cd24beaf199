import { createHash } from 'node:crypto';
import { createReadStream, createWriteStream, existsSync, openSync, readSync, closeSync, rmSync, statSync } from 'node:fs';
import { Readable, Writable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import Joi from 'joi';
import { Trouble } from './common';
import { readNote, writeNote } from './notes';

/** First words of a file in the age format, version 1: what any program of that format opens. */
const SEALED = 'age-encryption.org/v1';

export function isSealed(file: string): boolean {
  const head = Buffer.alloc(SEALED.length);
  const fd = openSync(file, 'r');
  readSync(fd, head);
  closeSync(fd);
  return head.toString('latin1') === SEALED;
}

type Bytes = ReadableStream<Uint8Array<ArrayBuffer>>;
const read = (file: string) => Readable.toWeb(createReadStream(file)) as Bytes;
const write = (from: Bytes, file: string) =>
  from.pipeTo(Writable.toWeb(createWriteStream(file, { mode: 0o600, flags: 'wx' })) as WritableStream<Uint8Array>);

/** Encrypts a file with a passphrase (age: scrypt, ChaCha20-Poly1305): whoever takes it reads nothing, and whoever changes it is found out. */
export async function seal(plain: string, file: string, passphrase: string): Promise<void> {
  const { Encrypter } = await import('age-encryption');
  const e = new Encrypter();
  e.setPassphrase(passphrase);
  await write((await e.encrypt(read(plain))) as Bytes, file);
}

/** @throws Trouble when the passphrase does not open it, or it was changed. */
export async function unseal(file: string, plain: string, passphrase: string): Promise<void> {
  const { Decrypter } = await import('age-encryption');
  const d = new Decrypter();
  d.addPassphrase(passphrase);
  try {
    await write((await d.decrypt(read(file))) as Bytes, plain);
  } catch (e) {
    rmSync(plain, { force: true });
    throw new Trouble(`${file} does not open: another passphrase, or it was changed (${(e as Error).message})`);
  }
}

/** What a copy holds and how it is known again. */
interface Manifest {
  readonly made: string;
  readonly database: string;
  readonly holds: string;
  readonly bytes: number;
  readonly sha256: string;
}
const SHAPE = Joi.object<Manifest>({
  made: Joi.string().isoDate().required(),
  database: Joi.string().required(),
  holds: Joi.string().required(),
  bytes: Joi.number().integer().required(),
  sha256: Joi.string().hex().length(64).required(),
});

export const manifestOf = (file: string): string => `${file}.manifest.json`;

async function hashOf(file: string): Promise<string> {
  const hash = createHash('sha256');
  await pipeline(createReadStream(file), hash);
  return hash.digest('hex');
}

/** Writes beside a copy what it is. */
export async function writeManifest(file: string, database: string, holds: string): Promise<void> {
  const made = new Date().toISOString();
  writeNote(manifestOf(file), {
    made,
    database,
    holds,
    bytes: statSync(file).size,
    sha256: await hashOf(file),
  } satisfies Manifest);
}

/** Is the copy what its manifest says? @returns what to say of it. @throws Trouble when it is another. */
export async function checkManifest(file: string): Promise<string> {
  if (!existsSync(file)) throw new Trouble(`there is no file ${file}`);
  const note = readNote(manifestOf(file), SHAPE);
  if (note.is === 'missing') return 'no manifest lies beside the copy: only its own word says that it is whole';
  if (note.is === 'torn')
    throw new Trouble(`${manifestOf(file)} cannot be read (${note.why}): take the copy and its manifest from elsewhere`);
  const { bytes, sha256, made, holds } = note.value;
  if (statSync(file).size !== bytes || (await hashOf(file)) !== sha256)
    throw new Trouble(`${file} is not the copy its manifest describes: it was changed or is torn, take another one`);
  return `the copy is the one made at ${made}: ${holds}`;
}
