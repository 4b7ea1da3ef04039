import { randomBytes, randomUUID } from 'node:crypto';
import { existsSync, readdirSync, readFileSync, renameSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Queries } from './database.ts';
import { keyedHash, sha256 } from './ids.ts';

/** Says that a data folder cannot be opened as it is, and what to do. Nothing was changed. */
export class FolderRefused extends Error {}

const help =
  'Nothing was changed. Put the missing files back, or restore a backup into an empty folder: npm run restore -- FILE';

/** What a folder is that holds an organization. */
interface Marker {
  format: 1;
  id: string;
}
const markerOf = (folder: string): string => join(folder, 'acolyte.json');
const databaseOf = (folder: string): string => join(folder, 'pg');

/** What may lie in a folder besides its database. */
const ours = new Set([
  'acolyte.json',
  'owner.json',
  'owner.socket',
  'secret',
  'backups',
  'complete',
  'pg.new',
  'secret.new',
  'restoring.json',
  'moved.json',
  'closed.json',
]);
const isOurs = (name: string): boolean =>
  ours.has(name) || name.startsWith('replaced-') || name.startsWith('.');

/**
 * Looks at a data folder before anything is opened in it. A folder that is empty may be begun; one that holds a database
 * is opened; everything else is refused: a database is never made over what is there.
 */
export function inspectFolder(folder: string): 'fresh' | 'holds data' {
  finishRestore(folder);
  refuseMoved(folder);
  const entries = existsSync(folder) ? readdirSync(folder) : [];
  const marked = existsSync(markerOf(folder));
  const database = existsSync(databaseOf(folder));
  const whole =
    existsSync(join(databaseOf(folder), 'PG_VERSION')) && existsSync(join(databaseOf(folder), 'global'));
  if (database && !whole)
    throw new FolderRefused(
      `The database in ${databaseOf(folder)} is not whole: files of it are missing. ${help}`,
    );
  if (marked && !database)
    throw new FolderRefused(`${folder} held an organization, and its database is not there. ${help}`);
  if (database) return 'holds data';
  const strange = entries.filter((e) => !isOurs(e));
  if (strange.length)
    throw new FolderRefused(
      `${folder} holds other things (${strange.slice(0, 3).join(', ')}${strange.length > 3 ? ' …' : ''}). Set ACOLYTE_DATA to an empty folder, or to one that Acolyte made.`,
    );
  return 'fresh';
}

const closedPath = (folder: string): string => join(folder, 'closed.json');

/** Every file of the database with its size and when it was written. */
function filesOf(folder: string): string {
  const root = databaseOf(folder);
  return (readdirSync(root, { recursive: true }) as string[])
    .sort()
    .map((name) => ({ name, is: statSync(join(root, name)) }))
    .filter(({ is }) => is.isFile())
    .map(({ name, is }) => `${name} ${is.size} ${is.mtimeMs}`)
    .join('\n');
}

/** Writes down how the files of a database were left when it was closed. */
export function noteClosed(folder: string): void {
  writeFileSync(closedPath(folder), JSON.stringify({ files: sha256(filesOf(folder)) }));
}

/**
 * Whether the files are as they were left when the database was closed, none cut, exchanged or copied since: looking through all rows
 * takes seconds where there are a million. Asked once: from here on it is open.
 */
export function leftAsItWas(folder: string): boolean {
  const path = closedPath(folder);
  if (!existsSync(path)) return false;
  try {
    const { files } = JSON.parse(readFileSync(path, 'utf8')) as { files: string };
    return files === sha256(filesOf(folder));
  } catch {
    return false;
  } finally {
    rmSync(path, { force: true });
  }
}

const movedPath = (folder: string): string => join(folder, 'moved.json');

/** Writes down that the organization of a folder lives on a server from now on. */
export function markMoved(folder: string, to: string): void {
  writeFileSync(movedPath(folder), `${JSON.stringify({ to, at: new Date().toISOString() })}\n`);
}

/** Refuses a folder whose organization was moved: written to in two places, it would be two. */
function refuseMoved(folder: string): void {
  if (!existsSync(movedPath(folder))) return;
  const { to, at } = JSON.parse(readFileSync(movedPath(folder), 'utf8')) as { to: string; at: string };
  throw new FolderRefused(
    `The organization in ${folder} was moved to ${to} on ${at.slice(0, 10)}. Start with DATABASE_URL set. To go back to what stood here then, remove ${movedPath(folder)}.`,
  );
}

/** Marks a folder as one that holds an organization, once its database is made. */
export function markFolder(folder: string): void {
  if (existsSync(markerOf(folder))) return;
  const marker: Marker = { format: 1, id: randomUUID() };
  writeFileSync(markerOf(folder), `${JSON.stringify(marker)}\n`);
}

/** The shortest secret, in characters. */
const shortest = 16;

/** The secret of the environment; null when none is set. */
function givenSecret(): string | null {
  const given = process.env.ACOLYTE_SECRET;
  if (given !== undefined && given.trim().length < shortest)
    throw new FolderRefused(`ACOLYTE_SECRET has at least ${shortest} characters, or is not set at all.`);
  return given?.trim() ?? null;
}

/** The secret of processes that share a server: of the environment, or of the folder that was moved there. */
export function sharedSecret(folder: string): string {
  const path = join(folder, 'secret');
  const secret = givenSecret() ?? (existsSync(path) ? readFileSync(path, 'utf8').trim() : '');
  if (secret.length >= shortest) return secret;
  throw new FolderRefused(
    `With DATABASE_URL, set ACOLYTE_SECRET to at least ${shortest} characters, the same for every process: links are made from it. After a move it is what stands in the file “secret” of the folder.`,
  );
}

/**
 * The secret that public links are derived from: of the environment, or made once and kept beside the database. One that
 * is missing beside data is not made anew: every link that was sent would be dead.
 */
export function secretOf(folder: string, state: 'fresh' | 'holds data'): string {
  const path = join(folder, 'secret');
  const given = givenSecret();
  if (given) return given;
  if (!existsSync(path)) {
    if (state === 'holds data' && process.env.ACOLYTE_NEW_SECRET !== 'yes')
      throw new FolderRefused(
        `The file ${path} is missing, from which every link that was sent is made. Put it back. If it is lost for good, start once with ACOLYTE_NEW_SECRET=yes: links sent so far then lead nowhere.`,
      );
    writeFileSync(path, randomBytes(32).toString('base64url'), { mode: 0o600 });
  }
  const secret = readFileSync(path, 'utf8').trim();
  if (secret.length < shortest)
    throw new FolderRefused(`The file ${path} is empty or cut. Put the one back that was there.`);
  return secret;
}

/** Refuses a secret that is not the one links were made from so far; the first one is written down as a hash. */
export async function checkSecret(db: Queries, secret: string): Promise<void> {
  const mark = keyedHash(secret, 'the secret of this organization');
  await db.query(
    `insert into secret_mark (mark) values ($1)
     on conflict (id) do ${process.env.ACOLYTE_NEW_SECRET === 'yes' ? 'update set mark = excluded.mark' : 'nothing'}`,
    [mark],
  );
  const [kept] = await db.query<{ mark: string }>('select mark from secret_mark');
  if (kept?.mark !== mark)
    throw new FolderRefused(
      'ACOLYTE_SECRET is not the one that links were made from so far. Set that one. If it is lost for good, start once with ACOLYTE_NEW_SECRET=yes: links sent so far then lead nowhere.',
    );
}

/** Where things lie while a backup is put in the place of a database. */
export const restorePaths = (folder: string) => ({
  pg: databaseOf(folder),
  fresh: join(folder, 'pg.new'),
  secret: join(folder, 'secret'),
  freshSecret: join(folder, 'secret.new'),
  note: join(folder, 'restoring.json'),
});

/**
 * Puts the restored database in the place of the one there is; what there was is kept aside. Cut short anywhere, it is
 * finished at the next start: the note says that everything was ready. Answers whether there was any.
 */
export function swapDatabase(folder: string, stamp: string): boolean {
  const { pg, fresh, secret, freshSecret, note } = restorePaths(folder);
  const aside = join(folder, `replaced-${stamp}`);
  writeFileSync(note, JSON.stringify({ aside }));
  const replaces = existsSync(pg) && existsSync(fresh);
  if (replaces) renameSync(pg, aside);
  if (existsSync(fresh)) renameSync(fresh, pg);
  if (existsSync(freshSecret)) renameSync(freshSecret, secret);
  markFolder(folder);
  rmSync(note, { force: true });
  return replaces;
}

/** Finishes a swap that was cut short, and clears away what was unpacked and never became one. */
function finishRestore(folder: string): void {
  const { pg, fresh, freshSecret, secret, note } = restorePaths(folder);
  if (existsSync(note)) {
    const { aside } = JSON.parse(readFileSync(note, 'utf8')) as { aside: string };
    if (existsSync(pg) && existsSync(fresh) && !existsSync(aside)) renameSync(pg, aside);
    if (existsSync(fresh)) renameSync(fresh, pg);
    if (existsSync(freshSecret)) renameSync(freshSecret, secret);
    markFolder(folder);
    rmSync(note, { force: true });
    return;
  }
  rmSync(fresh, { recursive: true, force: true });
  rmSync(freshSecret, { force: true });
}
