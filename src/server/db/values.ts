import pg from 'pg';

type Parse = (text: string) => unknown;

const { TIMESTAMPTZ, TIMESTAMP, DATE, INTERVAL, INT8, NUMERIC, BYTEA } = pg.types.builtins;
const single: [oid: number, parse: Parse, array: number][] = [
  [TIMESTAMPTZ, (v) => new Date(v).toISOString(), 1185],
  [TIMESTAMP, (v) => v.replace(' ', 'T').slice(0, 16), 1115],
  [DATE, (v) => v, 1182],
  [INTERVAL, (v) => v, 1187],
  [INT8, Number, 1016],
  [NUMERIC, Number, 1231],
  [BYTEA, (v) => new Uint8Array(Buffer.from(v.slice(2), 'hex')), 1001],
];
const textArray: number = 1009;
const strings = pg.types.getTypeParser(textArray as never, 'text') as (text: string) => (string | null)[];

/**
 * How values are read, by the number of their type in the catalogue, the same for every adapter: instants as ISO text in
 * UTC, wall times as `2026-08-08T09:00`, dates as text, bigint and numeric as numbers; and lists of these.
 */
export const parsers: Readonly<Record<number, Parse>> = Object.fromEntries(
  single.flatMap(([oid, parse, array]): [number, Parse][] => [
    [oid, parse],
    [array, (text) => strings(text).map((v) => (v === null ? null : parse(v)))],
  ]),
);
