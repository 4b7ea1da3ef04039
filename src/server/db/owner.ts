import { mkdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { join } from 'node:path';
import { sha256 } from './ids.ts';

/** Who holds a data folder, written down for whoever comes second. */
export interface Owner {
  pid: number;
  port: number | null;
}

/** Says that another process holds the folder. */
export class FolderHeld extends Error {
  constructor(folder: string, owner: Owner | null) {
    super(
      `The data folder ${folder} is in use${owner ? ` by process ${owner.pid}${owner.port ? `, which answers on port ${owner.port}` : ''}` : ' by another process'}. Stop it first, or set ACOLYTE_DATA to another folder.`,
    );
  }
}

/**
 * A name that one process of the machine can hold at a time and that the system lets go when the process ends, however it
 * ends: nothing is left behind to be taken for a lock, and no two can take over at once. It belongs to the folder itself,
 * not to its path or contents, so that a copy of a folder is another one.
 */
function lockName(folder: string): string {
  const { dev, ino } = statSync(folder);
  const name = `acolyte-${sha256(`${dev} ${ino}`).slice(0, 32)}`;
  if (process.platform === 'linux') return `\0${name}`;
  if (process.platform === 'win32') return `\\\\.\\pipe\\${name}`;
  return join(folder, 'owner.socket');
}

const ownerPath = (folder: string): string => join(folder, 'owner.json');

/** Who says that they hold a folder; null where that cannot be read. It is a hint: the lock decides. */
export function readOwner(folder: string): Owner | null {
  try {
    return JSON.parse(readFileSync(ownerPath(folder), 'utf8')) as Owner;
  } catch {
    return null;
  }
}

/** Takes a data folder for this process, until it lets go or ends. Throws FolderHeld when another has it. */
export async function holdFolder(folder: string, port: number | null): Promise<() => Promise<void>> {
  mkdirSync(folder, { recursive: true });
  const lock = createServer((socket) => socket.destroy());
  await new Promise<void>((resolve, reject) => {
    lock.once('error', (error: NodeJS.ErrnoException) =>
      reject(error.code === 'EADDRINUSE' ? new FolderHeld(folder, readOwner(folder)) : error),
    );
    lock.listen({ path: lockName(folder), exclusive: true }, resolve);
  });
  lock.unref();
  writeFileSync(ownerPath(folder), JSON.stringify({ pid: process.pid, port } satisfies Owner));
  return async () => {
    rmSync(ownerPath(folder), { force: true });
    await new Promise((resolve) => lock.close(resolve));
  };
}
