import { createHash } from 'node:crypto';
import {
  createReadStream,
  createWriteStream,
  existsSync,
  mkdirSync,
  openSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
} from 'node:fs';
import { cp, mkdir, readdir, rm } from 'node:fs/promises';
import { dirname, join, relative, sep } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { createGunzip, createGzip } from 'node:zlib';
import { extract, pack } from 'tar-stream';
import { z } from 'zod';

/** What a backup says of itself; the first entry of the archive. */
const manifest = z.object({
  format: z.literal(1),
  organization: z.string(),
  madeAt: z.string(),
  /** Rows of some tables, to be compared when it is put back. */
  rows: z.record(z.string(), z.number()),
  /** SHA-256 of every file by its path in the archive. */
  files: z.record(z.string(), z.string()),
});
export type Manifest = z.infer<typeof manifest>;

/** Says that a file is no backup, or not a whole one. */
export class BackupRefused extends Error {}

/** How far something is, in bytes. */
export type Progress = (done: number, all: number) => void;

async function filesBelow(folder: string): Promise<string[]> {
  const found: string[] = [];
  for (const entry of await readdir(folder, { withFileTypes: true })) {
    const path = join(folder, entry.name);
    if (entry.isDirectory()) found.push(...(await filesBelow(path)));
    else if (entry.isFile()) found.push(path);
  }
  return found.sort();
}

async function hashOf(path: string): Promise<string> {
  const hash = createHash('sha256');
  await pipeline(createReadStream(path), hash);
  return hash.digest('hex');
}

/** Copies a database's files; nobody may write meanwhile. */
export const copyDatabase = (from: string, to: string): Promise<void> =>
  cp(from, to, { recursive: true, filter: (path) => !path.endsWith('postmaster.pid') });

/**
 * Packs a copied database and its secret into a gzipped tar: the manifest first, then `secret`, then the files of `pg/`.
 * It is written beside and renamed at the end, so that a file of this name is always a whole backup.
 */
export async function packBackup(
  copied: string,
  secret: string,
  about: Omit<Manifest, 'format' | 'files'>,
  to: string,
  progress: Progress,
): Promise<void> {
  const files = await filesBelow(copied);
  const nameOf = (path: string) => `pg/${relative(copied, path).split(sep).join('/')}`;
  const all = files.reduce((sum, f) => sum + statSync(f).size, 0);
  const hashes: Record<string, string> = {
    secret: createHash('sha256').update(secret).digest('hex'),
  };
  for (const file of files) hashes[nameOf(file)] = await hashOf(file);
  mkdirSync(dirname(to), { recursive: true });
  const part = `${to}.part`;
  // Nobody else on the machine reads it: it holds everything.
  openSync(part, 'w', 0o600);
  const archive = pack();
  const written = pipeline(archive, createGzip({ level: 1 }), createWriteStream(part, { mode: 0o600 }));
  const text = JSON.stringify({ format: 1, ...about, files: hashes } satisfies Manifest);
  archive.entry({ name: 'acolyte-backup.json' }, text);
  archive.entry({ name: 'secret', mode: 0o600 }, secret);
  let done = 0;
  for (const file of files) {
    const { size } = statSync(file);
    await new Promise<void>((resolve, reject) => {
      const entry = archive.entry({ name: nameOf(file), size }, (error) =>
        error ? reject(error) : resolve(),
      );
      pipeline(createReadStream(file), entry).catch(reject);
    });
    done += size;
    progress(done, all);
  }
  archive.finalize();
  await written;
  renameSync(part, to);
}

/** Reads only what a backup says of itself. Throws BackupRefused when it is none. */
export async function readManifest(path: string): Promise<Manifest> {
  let found: Manifest | null = null;
  await eachEntry(path, async (name, content) => {
    if (name !== 'acolyte-backup.json') throw new BackupRefused('This file is not a backup of Acolyte.');
    found = manifest.parse(JSON.parse((await content()).toString('utf8')));
    return 'enough';
  });
  if (!found) throw new BackupRefused('This file is not a backup of Acolyte.');
  return found;
}

/**
 * Unpacks a backup: the database into `to`, the secret into `secretTo`. Every file is compared with its hash, and none may
 * be missing. Throws BackupRefused, and leaves nothing behind, when anything is not as it was packed.
 */
export async function unpackBackup(
  path: string,
  to: string,
  secretTo: string,
  progress: Progress,
): Promise<Manifest> {
  await rm(to, { recursive: true, force: true });
  await mkdir(to, { recursive: true });
  let about: Manifest | null = null;
  const seen = new Set<string>();
  const all = statSync(path).size;
  try {
    await eachEntry(
      path,
      async (name, content, stream) => {
        if (!about) {
          if (name !== 'acolyte-backup.json')
            throw new BackupRefused('This file is not a backup of Acolyte.');
          about = manifest.parse(JSON.parse((await content()).toString('utf8')));
          return 'more';
        }
        const expected = about.files[name];
        if (!expected || seen.has(name) || name.split('/').includes('..'))
          throw new BackupRefused(
            `The backup holds something that does not belong there: ${name.slice(0, 80)}.`,
          );
        const target = name === 'secret' ? secretTo : join(to, ...name.split('/').slice(1));
        mkdirSync(dirname(target), { recursive: true });
        await pipeline(stream(), createWriteStream(target, { mode: 0o600 }));
        if ((await hashOf(target)) !== expected)
          throw new BackupRefused(`${name} in the backup is not as it was packed.`);
        seen.add(name);
        return 'more';
      },
      (done) => progress(done, all),
    );
    if (!about) throw new BackupRefused('This file is not a backup of Acolyte.');
    const missing = Object.keys((about as Manifest).files).filter((f) => !seen.has(f));
    if (missing.length)
      throw new BackupRefused(`The backup is cut: ${missing.length} of its files are missing.`);
    // Empty folders hold no file, and the database wants them.
    for (const name of databaseFolders) mkdirSync(join(to, name), { recursive: true });
    return about;
  } catch (error) {
    await rm(to, { recursive: true, force: true });
    rmSync(secretTo, { force: true });
    if (error instanceof BackupRefused) throw error;
    throw new BackupRefused(
      `This file cannot be read as a backup: ${error instanceof Error ? error.message : error}`,
    );
  }
}

/** Folders of a PostgreSQL data directory that may be empty. */
const databaseFolders = [
  'pg_commit_ts',
  'pg_dynshmem',
  'pg_logical/mappings',
  'pg_logical/snapshots',
  'pg_notify',
  'pg_replslot',
  'pg_serial',
  'pg_snapshots',
  'pg_stat',
  'pg_stat_tmp',
  'pg_subtrans',
  'pg_tblspc',
  'pg_twophase',
  'pg_wal/archive_status',
  'pg_wal/summaries',
];

async function eachEntry(
  path: string,
  visit: (
    name: string,
    content: () => Promise<Buffer>,
    stream: () => NodeJS.ReadableStream,
  ) => Promise<'more' | 'enough'>,
  progress: (done: number) => void = () => {},
): Promise<void> {
  if (!existsSync(path)) throw new BackupRefused(`There is no file ${path}.`);
  const source = createReadStream(path);
  const archive = extract();
  const reading = pipeline(source, createGunzip(), archive);
  // What goes wrong in reading comes out of the loop below.
  reading.catch(() => undefined);
  for await (const entry of archive) {
    const content = async () => {
      const parts: Buffer[] = [];
      let size = 0;
      for await (const part of entry as AsyncIterable<Buffer>) {
        size += part.length;
        if (size > 16_000_000) throw new BackupRefused('This file is not a backup of Acolyte.');
        parts.push(part);
      }
      return Buffer.concat(parts);
    };
    const after = await visit(entry.header.name, content, () => entry as unknown as NodeJS.ReadableStream);
    progress(source.bytesRead);
    if (after === 'enough') {
      source.destroy();
      archive.destroy();
      return;
    }
    entry.resume();
  }
  await reading;
}

export const readSecret = (path: string): string => readFileSync(path, 'utf8').trim();
