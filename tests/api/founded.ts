import { join } from 'node:path';
import { projectRoot } from '#server/db/root.ts';

/** Where the clock of every test begins: Thursday 9 July 2026, 09:20 in Halifax. */
export const beginning = '2026-07-09T12:20:00.000Z';
export const templatePath = join(projectRoot(), '.cache/test-template.tar');
