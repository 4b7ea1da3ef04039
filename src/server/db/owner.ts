import { closeSync, mkdirSync, openSync, readFileSync, rmSync, writeSync } from 'node:fs';
import { join } from 'node:path';

/** Who holds a data folder. */
interface Owner {
  pid: number;
  /** When the process started, as the system counts it, so that a reused process id is not taken for the owner. */
  started: string;
  port: number | null;
}

/** Says that another process holds the folder. */
export class FolderHeld extends Error {
  constructor(folder: string, owner: Owner) {
    super(
      `The data folder ${folder} is in use by process ${owner.pid}${owner.port ? `, which answers on port ${owner.port}` : ''}. Stop it first, or set ACOLYTE_DATA to another folder.`,
    );
  }
}

/** Start time of a process in clock ticks since boot; empty where the system does not tell or it is gone. */
function startOf(pid: number): string {
  try {
    const stat = readFileSync(`/proc/${pid}/stat`, 'utf8');
    return stat.slice(stat.lastIndexOf(')') + 2).split(' ')[19] ?? '';
  } catch {
    return '';
  }
}

function isAlive(owner: Owner): boolean {
  try {
    process.kill(owner.pid, 0);
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === 'EPERM';
  }
  return owner.started === startOf(owner.pid);
}

/**
 * Takes a data folder for this process. Throws FolderHeld when a living process has it; a lock left by a crash is
 * taken over. Returns how to let go.
 */
export function holdFolder(folder: string, port: number | null): () => void {
  mkdirSync(folder, { recursive: true });
  const path = join(folder, 'owner.json');
  const mine = JSON.stringify({ pid: process.pid, started: startOf(process.pid), port } satisfies Owner);
  for (let attempt = 0; attempt < 3; attempt += 1) {
    try {
      const file = openSync(path, 'wx');
      writeSync(file, mine);
      closeSync(file);
      return () => rmSync(path, { force: true });
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
      const owner = readOwner(path);
      if (owner && owner.pid !== process.pid && isAlive(owner)) throw new FolderHeld(folder, owner);
      rmSync(path, { force: true });
    }
  }
  throw new Error(`The lock ${path} could not be taken.`);
}

/** A lock cut short by a crash has no readable owner and counts as left behind. */
function readOwner(path: string): Owner | null {
  try {
    return JSON.parse(readFileSync(path, 'utf8')) as Owner;
  } catch {
    return null;
  }
}
