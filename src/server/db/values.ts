import pg from 'pg';

type Read = (text: string) => unknown;

/** Long lists say the same instant over and over: what was read last is not read anew. */
function rememberingLast(read: (text: string) => string): Read {
  let last = { text: '', value: '' };
  return (text) => {
    if (text !== last.text) last = { text, value: read(text) };
    return last.value;
  };
}

const {
  TIMESTAMPTZ,
  TIMESTAMP,
  DATE,
  INTERVAL,
  INT8,
  NUMERIC,
  BYTEA,
  JSON: JSON_TEXT,
  JSONB,
} = pg.types.builtins;
const single: [oid: number, read: Read, array: number][] = [
  [TIMESTAMPTZ, rememberingLast((v) => new Date(v).toISOString()), 1185],
  [TIMESTAMP, (v) => v.replace(' ', 'T').slice(0, 16), 1115],
  [DATE, (v) => v, 1182],
  [INTERVAL, (v) => v, 1187],
  [INT8, Number, 1016],
  [NUMERIC, Number, 1231],
  [BYTEA, (v) => new Uint8Array(Buffer.from(v.slice(2), 'hex')), 1001],
];
const textArray: number = 1009;
const strings = pg.types.getTypeParser(textArray as never, 'text') as (text: string) => (string | null)[];

const own: Readonly<Record<number, Read>> = Object.fromEntries(
  single.flatMap(([oid, read, array]): [number, Read][] => [
    [oid, read],
    [array, (text) => strings(text).map((v) => (v === null ? null : read(v)))],
  ]),
);

/**
 * How the text of a value is read, by the number of its type in the catalogue, the same for every adapter: instants as ISO
 * text in UTC, wall times as `2026-08-08T09:00`, dates as text, bigint and numeric as numbers; and lists of these.
 */
export const readerOf = (oid: number): Read => own[oid] ?? pg.types.getTypeParser(oid, 'text');

/** A list as PostgreSQL writes it (documentation, “Array Input and Output Syntax”). */
function listOf(values: readonly unknown[]): string {
  const parts = values.map((v) => {
    if (Array.isArray(v)) return listOf(v);
    const text = textOf(v);
    return text === null ? 'NULL' : `"${text.replace(/["\\]/gu, '\\$&')}"`;
  });
  return `{${parts.join(',')}}`;
}

function textOf(value: unknown): string | null {
  if (value === null || value === undefined) return null;
  if (value instanceof Uint8Array) return `\\x${Buffer.from(value).toString('hex')}`;
  return typeof value === 'object' ? JSON.stringify(value) : String(value);
}

/** The text of a parameter of a type. Lists and objects for a JSON column become JSON; text for one is JSON already. */
export function writtenFor(oid: number, value: unknown): string | null {
  if (oid === JSON_TEXT || oid === JSONB)
    return value === null || value === undefined
      ? null
      : typeof value === 'string'
        ? value
        : JSON.stringify(value);
  return Array.isArray(value) ? listOf(value) : textOf(value);
}
