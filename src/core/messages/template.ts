import { type Context, Liquid, type Template } from 'liquidjs';

/** What a text may use of the template language (Liquid): conditions, and a few filters. Nothing that repeats or takes in other texts. */
const tags = ['if', 'unless', 'case', 'comment'];
const filters = ['default', 'upcase', 'downcase', 'capitalize', 'truncate', 'strip'];

/** What is wrong with a text, and in which of its lines. */
export interface TextProblem {
  code: 'text-tag' | 'text-filter' | 'text-open' | 'text-broken' | 'not-a-merge-field' | 'field-elsewhere';
  /** What stands there: a tag, a filter, a field, a piece of the text. */
  what: string;
  line: number;
}

/** Thrown when a text says a field that is empty for somebody: nothing is sent with a gap in it. */
export class EmptyField extends Error {
  constructor(readonly field: string) {
    super(`no value for ${field}`);
  }
}

/** Thrown when a text that was kept cannot be read. */
export class BrokenText extends Error {}

function makeEngine(strict: boolean, written: ((value: string) => string) | null): Liquid {
  const engine = new Liquid({
    strictFilters: true,
    // What is empty is not there.
    jsTruthy: true,
    strictVariables: strict,
    // A condition, or a field that says what stands there instead, may ask for what is empty.
    lenientIf: true,
    ownPropertyOnly: true,
    // A range of numbers could ask for more memory than there is.
    memoryLimit: 100_000,
    ...(written && { outputEscape: (value: unknown) => written(String(value ?? '')) }),
  });
  for (const tag of Object.keys(engine.tags)) if (!tags.includes(tag)) delete engine.tags[tag];
  for (const filter of Object.keys(engine.filters))
    if (!filters.includes(filter)) delete engine.filters[filter];
  return engine;
}

/** A value as it stands within a string of JSON. */
const inJson = (value: string): string => JSON.stringify(value).slice(1, -1);
const engines = {
  strict: makeEngine(true, null),
  lenient: makeEngine(false, null),
  strictJson: makeEngine(true, inJson),
  lenientJson: makeEngine(false, inJson),
};
export type Engine = keyof typeof engines;

/** Texts that were read, by engine: one is filled in for thousands. */
const read = new Map<string, Template[]>();
const mostRead = 300;

function parse(engine: Engine, source: string): Template[] {
  const key = `${engine} ${source}`;
  const known = read.get(key);
  if (known) return known;
  const parsed = engines[engine].parse(source);
  if (read.size >= mostRead) read.delete(read.keys().next().value!);
  read.set(key, parsed);
  return parsed;
}

/** Fills a text in. Throws EmptyField where it is strict and a field has no value, BrokenText where it cannot be read. */
export function fill(engine: Engine, source: string, values: Readonly<Record<string, string>>): string {
  if (!source.includes('{{') && !source.includes('{%')) return source;
  const known = engine.startsWith('strict')
    ? Object.fromEntries(Object.entries(values).filter(([, value]) => value !== ''))
    : values;
  try {
    return engines[engine].renderSync(parse(engine, source), known as Context['environments']) as string;
  } catch (error) {
    const field = /undefined variable: ([\w.]+)/u.exec(String(error))?.[1];
    throw field ? new EmptyField(field) : new BrokenText(String(error));
  }
}

/** The fields a text asks for, each once. Of one that cannot be read, none. */
export function fieldsIn(source: string): string[] {
  try {
    return engines.lenient.globalVariablesSync(parse('lenient', source));
  } catch {
    return [];
  }
}

/** A condition or a field, as it stands in a text. */
export const tagsIn = /\{\{[\s\S]*?\}\}|\{%[\s\S]*?%\}/gu;

/** What is wrong with a text that may use some fields; nothing where it can be filled in. */
export function problemsWith(
  source: string,
  known: (field: string) => boolean,
  fits: (field: string) => boolean = known,
): TextProblem[] {
  try {
    parse('lenient', source);
  } catch (error) {
    const said = String(error);
    const line = Number(/line:(\d+)/u.exec(said)?.[1] ?? 1);
    const tag = /tag "([^"]*)" not found/u.exec(said)?.[1];
    if (tag !== undefined) return [{ code: 'text-tag', what: tag, line }];
    const filter = /undefined filter: (\S+?),/u.exec(said)?.[1];
    if (filter) return [{ code: 'text-filter', what: filter, line }];
    const open = /(?:tag|output) "?([\s\S]*?)"? not closed/u.exec(said)?.[1];
    if (open) return [{ code: 'text-open', what: open.split('\n')[0]!.slice(0, 40), line }];
    return [{ code: 'text-broken', what: source.split('\n')[line - 1]?.trim().slice(0, 60) ?? '', line }];
  }
  return fieldsIn(source)
    .filter((field) => !fits(field))
    .map((field) => ({
      code: known(field) ? 'field-elsewhere' : 'not-a-merge-field',
      what: field,
      line: source.slice(0, Math.max(0, source.search(new RegExp(`\\b${field}\\b`, 'u')))).split('\n').length,
    }));
}
