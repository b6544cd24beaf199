import { spawnSync } from 'node:child_process';
import { createHash, createPrivateKey, X509Certificate } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { hostname, networkInterfaces } from 'node:os';
import { join } from 'node:path';
import { Trouble } from './common';

/** Days a server certificate is good for: browsers refuse longer ones of a new authority. It is made anew a month before. */
const SERVER_DAYS = 397;
const AUTHORITY_DAYS = 3650;
const MONTH = 30 * 24 * 3_600_000;
/** What the authority may speak for: this house's names and private networks. Whoever stole its key could not pose as a bank. */
const PERMITTED = [
  'DNS:local',
  'DNS:localhost',
  'IP:10.0.0.0/255.0.0.0',
  'IP:172.16.0.0/255.240.0.0',
  'IP:192.168.0.0/255.255.0.0',
  'IP:127.0.0.0/255.0.0.0',
];

export interface Tls {
  readonly key: string;
  readonly cert: string;
  /** The authority's certificate, which a phone must trust. */
  readonly authority: string;
  /** Its SHA-256, in groups as phones show it. */
  readonly fingerprint: string;
  /** Names and addresses it is good for, the one to tell people first. */
  readonly names: readonly string[];
}

function openssl(args: readonly string[], input?: string): void {
  const r = spawnSync('openssl', args, { encoding: 'utf8', ...(input !== undefined && { input }) });
  if (r.error) throw new Trouble('openssl is missing: apt-get install openssl');
  if (r.status !== 0) throw new Trouble(`the certificate could not be made: ${r.stderr.trim().split('\n').pop()}`);
}

const isPrivate = (ip: string) => /^(10\.|192\.168\.|172\.(1[6-9]|2\d|3[01])\.|127\.)/.test(ip);
const isIp = (name: string) => /^\d+(\.\d+){3}$/.test(name);

/** Names and private addresses of this machine, its own addresses first. */
export function ownNames(host = hostname()): string[] {
  const plain =
    host
      .split('.')[0]!
      .toLowerCase()
      .replace(/[^a-z0-9-]/g, '') || 'gavrel';
  const ips = Object.values(networkInterfaces())
    .flatMap((all) => all ?? [])
    .filter((i) => i.family === 'IPv4' && isPrivate(i.address))
    .map((i) => i.address)
    .sort((a, b) => Number(a.startsWith('127.')) - Number(b.startsWith('127.')));
  return [...new Set([`${plain}.local`, ...ips, 'localhost', '127.0.0.1'])];
}

function makeAuthority(folder: string): void {
  const config = `[req]\ndistinguished_name=dn\nx509_extensions=ca\nprompt=no\n[dn]\nCN=Gavrel, this workshop only\n[ca]\nbasicConstraints=critical,CA:TRUE,pathlen:0\nkeyUsage=critical,keyCertSign,cRLSign\nsubjectKeyIdentifier=hash\nnameConstraints=critical,${PERMITTED.map((p) => `permitted;${p}`).join(',')}\n`;
  const file = join(folder, 'authority.cnf');
  writeFileSync(file, config);
  const key = join(folder, 'authority.key.new');
  openssl(['ecparam', '-name', 'prime256v1', '-genkey', '-noout', '-out', key]);
  openssl([
    'req',
    '-x509',
    '-new',
    '-key',
    key,
    '-days',
    String(AUTHORITY_DAYS),
    '-config',
    file,
    '-out',
    join(folder, 'authority.crt.new'),
  ]);
  rmSync(file);
  // The certificate last: with it the authority is there, whatever ends the work before.
  for (const name of ['authority.key', 'authority.crt']) renameSync(join(folder, `${name}.new`), join(folder, name));
}

/** What a file holds; null where it is missing, or holds nothing of the kind. */
function readAs<T>(file: string, read: (text: string) => T): T | null {
  try {
    return read(readFileSync(file, 'utf8'));
  } catch {
    return null;
  }
}

/** The authority that phones were told to trust; made where there was none. @throws Trouble where it was and is lost. */
function authorityIn(folder: string): X509Certificate {
  const crt = join(folder, 'authority.crt');
  if (!existsSync(crt) && !existsSync(join(folder, 'server.crt'))) makeAuthority(folder);
  const found = readAs(crt, (t) => new X509Certificate(t));
  if (found?.ca) return found;
  throw new Trouble(
    `${crt} is missing or damaged, and phones trust it: put it back from a copy. Or remove ${folder}: a new authority is made then, and every phone must be told of it`,
  );
}

/** Does the server's certificate hold: by this authority, with its own key, for these names, and for a month yet? */
function holds(folder: string, authority: X509Certificate, names: readonly string[], now: Date): boolean {
  const cert = readAs(join(folder, 'server.crt'), (t) => new X509Certificate(t));
  const key = readAs(join(folder, 'server.key'), createPrivateKey);
  return (
    cert !== null &&
    key !== null &&
    cert.checkPrivateKey(key) &&
    cert.verify(authority.publicKey) &&
    covers(cert, names) &&
    Date.parse(cert.validTo) - now.getTime() > MONTH
  );
}

function makeServer(folder: string, names: readonly string[]): void {
  const alt = names.map((n) => `${isIp(n) ? 'IP' : 'DNS'}:${n}`).join(',');
  const config = `[req]\ndistinguished_name=dn\nprompt=no\n[dn]\nCN=${names[0]}\n[ext]\nbasicConstraints=critical,CA:FALSE\nkeyUsage=critical,digitalSignature\nextendedKeyUsage=serverAuth\nsubjectAltName=${alt}\n`;
  const file = join(folder, 'server.cnf');
  const request = join(folder, 'server.csr');
  writeFileSync(file, config);
  openssl(['ecparam', '-name', 'prime256v1', '-genkey', '-noout', '-out', join(folder, 'server.key')]);
  openssl(['req', '-new', '-key', join(folder, 'server.key'), '-config', file, '-out', request]);
  openssl([
    ...['x509', '-req', '-in', request, '-CA', join(folder, 'authority.crt'), '-CAkey', join(folder, 'authority.key')],
    ...[
      '-CAcreateserial',
      '-days',
      String(SERVER_DAYS),
      '-extfile',
      file,
      '-extensions',
      'ext',
      '-out',
      join(folder, 'server.crt'),
    ],
  ]);
  rmSync(file);
  rmSync(request);
}

const covers = (cert: X509Certificate, names: readonly string[]) =>
  names.every((n) => (isIp(n) ? cert.checkIP(n) : cert.checkHost(n)) !== undefined);

/**
 * The workshop's own authority, made once, and a server certificate by it: made anew when the machine's names changed or it runs out
 * within a month. The authority stays, so that no phone must be told again.
 */
export function localTls(data: string, names: readonly string[] = ownNames(), now = new Date()): Tls {
  const folder = join(data, 'tls');
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  const old = process.umask(0o077);
  try {
    const authority = authorityIn(folder);
    if (!holds(folder, authority, names, now)) {
      const key = readAs(join(folder, 'authority.key'), createPrivateKey);
      if (key === null || !authority.checkPrivateKey(key))
        throw new Trouble(
          `${join(folder, 'authority.key')} is missing or damaged, and a new server certificate is needed: put it back from a copy. Or remove ${folder}: a new authority is made then, and every phone must be told of it`,
        );
      makeServer(folder, names);
    }
  } finally {
    process.umask(old);
  }
  const text = (name: string) => readFileSync(join(folder, name), 'utf8');
  const authority = text('authority.crt');
  const sha = createHash('sha256').update(new X509Certificate(authority).raw).digest('hex').toUpperCase();
  return {
    key: text('server.key'),
    cert: text('server.crt'),
    authority,
    fingerprint: sha.match(/../g)!.join(':'),
    names,
  };
}
