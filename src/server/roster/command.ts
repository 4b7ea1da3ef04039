import { readFileSync } from 'node:fs';
import { rosterFile } from '#contract/roster.ts';
import { answerRoster, RosterRefused } from './solve.ts';

/** `roster FILE`: reads an instance, works it out, and prints the answer as JSON. What is wrong with it goes to the other output. */
try {
  const [file] = process.argv.slice(2);
  if (!file) throw new RosterRefused('Say which file: npm run roster -- FILE');
  let read: unknown;
  try {
    read = JSON.parse(readFileSync(file, 'utf8'));
  } catch (error) {
    throw new RosterRefused(`${file} cannot be read as JSON: ${(error as Error).message}`);
  }
  const parsed = rosterFile.safeParse(read);
  if (!parsed.success)
    throw new RosterRefused(
      parsed.error.issues
        .map(({ path, message }) => `${path.join('.') || 'the file'}: ${message}`)
        .join('\n'),
    );
  process.stdout.write(`${JSON.stringify(await answerRoster(parsed.data), null, 1)}\n`);
  process.exit(0);
} catch (error) {
  if (!(error instanceof RosterRefused)) throw error;
  process.stderr.write(`${error.message}\n`);
  process.exit(1);
}
