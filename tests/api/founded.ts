import { cpSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { projectRoot } from '#server/db/root.ts';

/** Where the clock of every test begins: Thursday 9 July 2026, 09:20 in Halifax. */
export const beginning = '2026-07-09T12:20:00.000Z';
export const templatePath = join(projectRoot(), '.cache/test-template.tar');
/** The same as a data folder that nobody holds. */
export const templateFolder = join(projectRoot(), '.cache/test-folder');

export const readTemplate = (): Uint8Array<ArrayBuffer> => new Uint8Array(readFileSync(templatePath));

/** Makes a folder one that holds the founded organization. */
export function fillFolder(folder: string): void {
  cpSync(templateFolder, folder, { recursive: true });
  writeFileSync(join(folder, 'secret'), 'a secret of the tests');
}
