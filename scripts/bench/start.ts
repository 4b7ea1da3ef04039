import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Report } from './report.ts';
import { filledFolder, startShipped, stopped } from './site.ts';

// npm run bench -- start: from the command to the first answer, on an empty folder, on the same one again, and on the
// demonstration.
const port = 45_901;
const work = mkdtempSync(join(tmpdir(), 'acolyte-start-'));
async function started(folder: string): Promise<number> {
  const began = performance.now();
  const child = await startShipped(folder, port);
  const ms = performance.now() - began;
  await stopped(child);
  return ms;
}
const report = new Report('start');
const empty = join(work, 'empty');
report.row('an empty folder', await started(empty), 'ms', { goal: { of: 'value', atMost: 15_000 } });
report.row('the same again', await started(empty), 'ms', { goal: { of: 'value', atMost: 5_000 } });
const { folder, remove } = await filledFolder();
report.row('the demonstration', await started(folder), 'ms', { goal: { of: 'value', atMost: 5_000 } });
report.finish();
remove();
rmSync(work, { recursive: true, force: true });
process.exit(0);
