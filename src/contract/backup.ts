import { z } from 'zod';
import { contract, done, instant } from './endpoint.ts';

const name = z.string().regex(/^[\w.-]{1,120}$/u, 'no-backup-name');
const backup = z.object({ name, at: instant, bytes: z.int() });

const who = ['coordinator'] as const;
export const backupContract = contract({
  'GET /api/backups': {
    summary: 'Backups kept in the data folder, newest first, and whether one is being made or put back',
    who,
    response: z.object({
      backups: z.array(backup),
      /** What is under way, and how far: done of all bytes. */
      working: z
        .object({ what: z.enum(['making', 'checking', 'putting back']), done: z.int(), all: z.int() })
        .nullable(),
      /** Where the product cannot make backups, why. */
      unable: z.string().nullable(),
    }),
  },
  'POST /api/backups': {
    summary: 'Make a backup of everything, while the product goes on',
    who,
    ownTransactions: true,
    response: backup,
  },
  'GET /api/backups/:name': {
    summary: 'A backup to take along; it holds everything, and the secret of every link',
    who,
    params: z.object({ name }),
    response: { file: 'application/gzip' },
  },
  'DELETE /api/backups/:name': {
    summary: 'Delete a backup from the data folder',
    who,
    ownTransactions: true,
    params: z.object({ name }),
    response: done,
  },
  'POST /api/backups/:name/restore': {
    summary: 'Put a backup in the place of everything there is; what there is, is kept aside',
    who,
    ownTransactions: true,
    params: z.object({ name }),
    body: z.object({ organization: z.string().max(200) }),
    response: z.object({ organization: z.string(), madeAt: instant }),
  },
});
