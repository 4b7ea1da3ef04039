import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test } from 'vitest';
import { fillFolder } from './founded.ts';
import { killedRun } from './killedRun.ts';
import { kill, startProcess } from './processes.ts';

test('killed while it sends, with a gateway that fails, every message is at the gateway once', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'acolyte-'));
  const port = 43_000 + Math.floor(Math.random() * 2000);
  fillFolder(folder);
  const messages = 150;
  try {
    const outcome = await killedRun({
      folder,
      origin: `http://127.0.0.1:${port}`,
      start: () => startProcess(port, { ACOLYTE_DATA: folder }),
      end: kill,
      messages,
      kills: 2,
      worksFor: (n) => 150 + 200 * n,
    });
    expect(outcome).toMatchObject({ states: { sent: messages }, atGateway: messages, astray: 0 });
    // Something did go wrong on the way.
    expect(outcome.tries).toBeGreaterThan(messages);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
});
