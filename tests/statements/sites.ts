import { readdirSync, readFileSync } from 'node:fs';
import { join, relative } from 'node:path';
import { fileURLToPath } from 'node:url';
import { parseSync } from 'vite';

export const root = fileURLToPath(new URL('../..', import.meta.url));

/** A place in the code that asks the database something. */
export interface Site {
  file: string;
  line: number;
  /** `insert` and `update` write objects; the others carry SQL. */
  by: string;
  /** The type its rows are read as, as it is written; null where rows are not read. */
  type: string | null;
}

interface Node {
  type: string;
  start: number;
  end: number;
  [key: string]: unknown;
}

const asksWith = ['query', 'first', 'insert', 'update'];

/** The files of a folder that are not tests. */
export const filesOf = (folder: string): string[] =>
  readdirSync(join(root, folder), { recursive: true, withFileTypes: true })
    .filter((f) => f.isFile() && f.name.endsWith('.ts') && !f.name.endsWith('.test.ts'))
    .map((f) => relative(root, join(f.parentPath, f.name)));

/** Every place of a file that asks the database something through `query`, `first`, `insert` or `update`. */
export function sitesOf(file: string): Site[] {
  const text = readFileSync(join(root, file), 'utf8');
  const { program, errors } = parseSync(file, text);
  if (errors.length) throw new Error(`${file} cannot be read: ${errors[0]!.message}`);
  const lineAt = (at: number): number => text.slice(0, at).split('\n').length;
  const sites: Site[] = [];
  const look = (node: Node): void => {
    if (node.type === 'CallExpression') {
      const callee = node.callee as Node & { name?: string; property?: Node & { name: string } };
      const called = callee.property ?? callee;
      const name = callee.property?.name ?? callee.name;
      if (
        name &&
        asksWith.includes(name) &&
        (name === 'query') === Boolean(callee.property) &&
        (node.arguments as Node[]).length
      ) {
        const type = (node.typeArguments as { params: Node[] } | null)?.params[0];
        sites.push({
          file,
          line: lineAt(called.start),
          by: name,
          type: type ? text.slice(type.start, type.end) : null,
        });
      }
    }
    for (const value of Object.values(node))
      for (const child of Array.isArray(value) ? value : [value])
        if (child && typeof child === 'object' && typeof (child as Node).type === 'string')
          look(child as Node);
  };
  look(program as unknown as Node);
  return sites;
}
