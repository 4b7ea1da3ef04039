import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, test } from 'vitest';
import { type FactKind, tellings } from '#server/app/kinds.ts';
import { projectRoot } from '#server/db/root.ts';
import { reactions } from '#server/reactions.ts';

/** Facts that are only told, to open pages or in the audit trail: by decision nothing else follows from them. */
const onlyTold: readonly FactKind[] = [
  'step-in begun',
  'crew ticked off',
  'crew written to',
  'hours corrected',
  'plan sent',
  'clearance spoken of',
  'offer taken',
  'call changed',
  'deposit received',
  'deposit let off',
  'deposit refund failed',
  'deposit taken back',
  'roster asked for',
  'roster worked out',
  'application changed',
  'money returned',
  'payment contested',
  'gift returned',
  'gift hidden',
  'gift refund failed',
  'gift taken back',
  'giving page changed',
  'pledge changed',
  'receipt written',
  'receipt voided',
  'receipts of a year',
  'receipts set up',
  'seats valued',
  'seat receipted',
  'account planned',
  'cost recorded',
  'bank file brought in',
  'bank line settled',
  'account codes changed',
  'card move put aside',
  'card move settled',
  'left as a gift',
  'letters let go',
  'question answered',
  'changed together',
  'account changed',
  'organization changed',
  'segment changed',
  'series changed',
  'preview link made',
  'preview link stopped',
  'picture kept',
  'logo given',
  'picture described',
  'field changed',
  'import changed',
  'register grew',
  'place changed',
  'mailing written',
  'message tried again',
  'message settled',
  'line tested',
  'sending stopped or not',
  'team changed',
  'file kept',
  'answers forgotten',
  'health forgotten',
  'self check-in set',
  'doors closed',
  'attendance opened again',
  'attendance corrected',
  'attendance list taken',
  'attendance list undone',
  'attendance disputed',
  'question set kept',
  'survey template kept',
  'lesson changed',
  'measure changed',
  'report changed',
  'initiative changed',
  'tallies entered',
  'tallies decided',
  'tally corrected',
  'counting set',
  'session proposed',
  'event proposed',
  'invitation answered',
  'letter written',
  'source changed',
  'survey answered',
  'mail bounced',
  'mail complained of',
  'incoming settled',
  'letter changed',
  'year-round line changed',
  'year-round lines planned',
  'board set',
];

const kinds = Object.keys(tellings) as FactKind[];
const sources = (folder: string): string[] =>
  readdirSync(folder, { withFileTypes: true }).flatMap((f) =>
    f.isDirectory() ? sources(join(folder, f.name)) : f.name.endsWith('.ts') ? [join(folder, f.name)] : [],
  );
const server = sources(join(projectRoot(), 'src/server')).map((file) => readFileSync(file, 'utf8'));

describe('facts', () => {
  test.each(kinds)('%s has somebody, or it was decided that it has nobody', (kind) => {
    const words = reactions.filter((word) => word[kind]);
    expect(words.length > 0).toBe(!onlyTold.includes(kind));
  });

  test.each(kinds)('%s is recorded by some command', (kind) => {
    expect(server.some((text) => new RegExp(`record\\([^;]*?, '${kind}'`, 'u').test(text))).toBe(true);
  });

  test('nothing that follows from a fact is called by hand', () => {
    for (const called of ['replan', 'tellBuyer', 'tellOfShift', 'reopenChanged', 'letGoAll', 'passOnFreed']) {
      const call = new RegExp(`(?<!function )\\b${called}\\(`, 'u');
      const callers = server.filter(
        (text) =>
          call.test(text) &&
          !text.includes('Reactions: Reactions') &&
          !text.includes(`export async function ${called}(`),
      );
      expect(callers.map((text) => call.exec(text)!.input.slice(0, 200))).toEqual([]);
    }
  });
});
