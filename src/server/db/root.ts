import { existsSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

/** The folder of the project: the nearest one above this file that has a package.json. Works built and unbuilt. */
export function projectRoot(): string {
  let folder = dirname(fileURLToPath(import.meta.url));
  while (!existsSync(join(folder, 'package.json'))) {
    const above = dirname(folder);
    if (above === folder) throw new Error('package.json was not found above this file');
    folder = above;
  }
  return folder;
}
