import { type ChildProcess, execFileSync, spawn } from 'node:child_process';
import { chownSync, mkdtempSync, rmSync } from 'node:fs';
import { type AddressInfo, createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import pg from 'pg';

/** Somebody without rights to run the server as: PostgreSQL refuses to run as root. */
function unprivileged(): { uid?: number; gid?: number } {
  if (process.getuid?.() !== 0) return {};
  const of = (flag: string) => Number(execFileSync('id', [flag, 'postgres'], { encoding: 'utf8' }));
  return { uid: of('-u'), gid: of('-g') };
}

const freePort = (): Promise<number> =>
  new Promise((resolve, reject) => {
    const probe = createServer();
    probe.once('error', reject);
    probe.listen(0, '127.0.0.1', () => {
      const { port } = probe.address() as AddressInfo;
      probe.close(() => resolve(port));
    });
  });

export interface TestServer {
  /** Where a database of that name is reached. */
  url(database: string): string;
  /** Runs statements on the server itself: databases made and dropped. */
  admin(sql: string): Promise<void>;
  stop(): Promise<void>;
}

/** Starts a PostgreSQL server of its own in a temporary folder, on a free port of this machine. */
export async function startPostgres(programs: string): Promise<TestServer> {
  const who = unprivileged();
  const home = mkdtempSync(join(tmpdir(), 'acolyte-postgres-'));
  if (who.uid !== undefined) chownSync(home, who.uid, who.gid!);
  const data = join(home, 'data');
  execFileSync(
    join(programs, 'initdb'),
    ['-D', data, '-U', 'acolyte', '-A', 'trust', '-E', 'UTF8', '--locale=C.UTF-8', '--no-sync'],
    { ...who, stdio: 'ignore', cwd: home },
  );
  const port = await freePort();
  // What is tested is thrown away: nothing needs to reach a disk.
  const settings = {
    port,
    listen_addresses: '127.0.0.1',
    unix_socket_directories: home,
    // Crashes that are played leave connections behind for a while.
    max_connections: 300,
    fsync: 'off',
    synchronous_commit: 'off',
    full_page_writes: 'off',
    autovacuum: 'off',
    shared_buffers: '256MB',
  };
  const server: ChildProcess = spawn(
    join(programs, 'postgres'),
    ['-D', data, ...Object.entries(settings).flatMap(([name, value]) => ['-c', `${name}=${value}`])],
    { ...who, stdio: 'ignore', cwd: home },
  );
  const ended = new Promise<void>((resolve) => server.once('exit', () => resolve()));
  const url = (database: string) => `postgres://acolyte@127.0.0.1:${port}/${database}`;
  const connected = async () => {
    const client = new pg.Client({ connectionString: url('postgres') });
    await client.connect();
    return client;
  };
  for (let tries = 0; ; tries += 1) {
    const up = await connected().then(
      (client) => client.end().then(() => true),
      () => false,
    );
    if (up) break;
    if (tries > 200) throw new Error('the PostgreSQL server of the tests did not start');
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
  return {
    url,
    async admin(sql) {
      const client = await connected();
      try {
        await client.query(sql);
      } finally {
        await client.end();
      }
    },
    async stop() {
      server.kill('SIGQUIT');
      await ended;
      rmSync(home, { recursive: true, force: true });
    },
  };
}
