import { type ChildProcess, spawn } from 'node:child_process';

/** Starts the product as a process of its own and waits until it answers. */
export async function startProcess(port: number, env: Record<string, string>): Promise<ChildProcess> {
  const child = spawn('npx', ['--no-install', 'tsx', 'src/server/main.ts'], {
    env: { ...process.env, PORT: String(port), ACOLYTE_PAGES: 'off', ACOLYTE_LOG: 'off', ...env },
    stdio: ['ignore', 'ignore', 'pipe'],
    detached: true,
  });
  let said = '';
  child.stderr!.on('data', (chunk: Buffer) => {
    said += chunk.toString();
  });
  for (let n = 0; n < 300; n += 1) {
    const up = await fetch(`http://127.0.0.1:${port}/healthz`).then(
      (r) => r.ok,
      () => false,
    );
    if (up) return child;
    if (child.exitCode !== null) break;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  throw new Error(`the server did not start: ${said}`);
}

/** Ends a process and whatever it started, and waits until it is gone. */
export const kill = (child: ChildProcess, signal: NodeJS.Signals): Promise<void> =>
  new Promise((resolve) => {
    child.on('exit', () => resolve());
    process.kill(-child.pid!, signal);
  });
