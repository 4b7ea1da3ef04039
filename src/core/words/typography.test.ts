import { readdirSync, readFileSync } from 'node:fs';
import { expect, test } from 'vitest';

const folder = new URL('.', import.meta.url).pathname;
/** The lines of a catalogue that hold words. */
const linesOf = (ending: string): [where: string, line: string][] =>
  readdirSync(folder)
    .filter((file) => file.endsWith(ending))
    .flatMap((file) =>
      readFileSync(`${folder}${file}`, 'utf8')
        .split('\n')
        .map((line, at): [string, string] => [`${file}:${at + 1}`, line])
        .filter(([, line]) => !/^\s*(?:import|export|\/?\*|\/\/)/u.test(line)),
    );
const found = (lines: [string, string][], wrong: RegExp) =>
  lines.filter(([, line]) => wrong.test(line)).map(([where, line]) => `${where} ${line.trim()}`);

test('apostrophes are those of print', () => {
  const both = [...linesOf('.en.ts'), ...linesOf('.fr.ts')];
  expect(both.length).toBeGreaterThan(1000);
  expect(found(both, /[a-zà-ÿ]\\?'[a-zà-ÿ]/iu)).toEqual([]);
});

test('in French nothing comes between a word and its colon, semicolon, mark or guillemet but a space that does not break', () => {
  expect(found(linesOf('.fr.ts'), /[^\s'":,{}[\]] [;:!?»]|« /u)).toEqual([]);
  expect(found(linesOf('.fr.ts'), /[a-zà-ÿ»)][;!?](?=\s)/iu)).toEqual([]);
});
