import type { MessagePort } from 'node:worker_threads';
import type { RosterAnswer } from '#contract/roster.ts';
import { type BankFile, type NoBankFile, readBankFile } from '#core/bank/reading.ts';
import { type Described, prepare } from '#core/contacts/comparing.ts';
import { estimate } from '#core/contacts/estimating.ts';
import type { OwnField } from '#core/contacts/fields.ts';
import type { MatchingModel } from '#core/contacts/weights.ts';
import { type Diary, DiaryProblem, readDiary } from '#core/exchange/diary.ts';
import { readTable, type Table } from '#core/exchange/table.ts';
import { type FileRow, putRight } from '#core/imports/checking.ts';
import { dateOrdersOf, type Proposal, proposeMapping } from '#core/imports/columns.ts';
import type { RowOverride } from '#core/imports/importing.ts';
import type { ColumnMeaning, Mapping } from '#core/imports/mapping.ts';
import { everyPerson } from '#core/imports/parts.ts';
import { readRow } from '#core/imports/reading.ts';
import type { RosterInstance } from '#core/roster/instance.ts';
import { sayReason } from '#core/words/reasons.ts';
import { answerRoster } from '../roster/solve.ts';

/** What a file is at first sight: all of it but its rows, and what its columns may mean. */
export interface FirstLook extends Omit<Table, 'rows'> {
  rows: number;
  proposal: Proposal;
}

/** Somebody whom a row of a table names. */
export interface Guest {
  line: number;
  given: string;
  family: string;
  email: string | null;
  phone: string | null;
  birthDate: string | null;
}

/** One row of a file, with what it takes to number the people it names. */
export interface OneLine {
  row: FileRow | null;
  lastLine: number;
}

/**
 * The computations that would hold up everybody if the thread that answers requests did them. Each takes and gives plain
 * values. Those that read a file throw TableProblem.
 */
export const tasks = {
  /** Everybody whom the rows of a file name, as far as its cells were put right. */
  'read everybody': (asked: {
    bytes: Uint8Array;
    mapping: Mapping;
    overrides: Readonly<Record<string, RowOverride>>;
  }): FileRow[] =>
    everyPerson(
      readTable(asked.bytes).rows.map((row) => ({ ...row, cells: putRight(row, asked.overrides) })),
      asked.mapping,
    ),

  /** One row of a file as it stands there, and the file's last line; null where there is no such row. */
  'read one line': (asked: { bytes: Uint8Array; line: number }): OneLine => {
    const { rows } = readTable(asked.bytes);
    return { row: rows.find((r) => r.line === asked.line) ?? null, lastLine: rows.at(-1)?.line ?? 0 };
  },

  'look at a table': (asked: {
    bytes: Uint8Array;
    country: string;
    fields: readonly OwnField[];
  }): FirstLook => {
    const { rows, ...file } = readTable(asked.bytes);
    const proposal = proposeMapping({ ...file, rows }, asked.country, asked.fields);
    return { ...file, rows: rows.length, proposal };
  },

  /**
   * A roster, for as many seconds as it is given. How far it is goes through `port`; once `stop` is not 0 it ends with what there is.
   */
  'work out a roster': async (asked: {
    instance: RosterInstance;
    seconds: number;
    port: MessagePort;
    stop: SharedArrayBuffer;
  }): Promise<RosterAnswer> => {
    const stop = new Int32Array(asked.stop);
    return answerRoster(
      { ...asked.instance, seconds: asked.seconds },
      ({ score, bound, seconds }) => asked.port.postMessage({ score, bound, seconds }),
      () => Atomics.load(stop, 0) !== 0,
    );
  },

  /** A file of the bank, or why it is none. */
  'read a bank file': (asked: {
    bytes: Uint8Array;
    digits: number;
    dates: 'day first' | 'month first' | null;
  }): BankFile | { why: NoBankFile } => readBankFile(readTable(asked.bytes), asked.digits, asked.dates),

  /** Whoever the rows of a table name, as a guest list takes them; and the rows that name nobody, with why. */
  'read guests': (asked: {
    bytes: Uint8Array;
    country: string;
    today: string;
  }): { people: Guest[]; rejected: { line: number; why: string }[] } => {
    const table = readTable(asked.bytes);
    const mapping = proposeMapping(table, asked.country);
    const people: Guest[] = [];
    const rejected: { line: number; why: string }[] = [];
    for (const { line, cells } of table.rows) {
      const read = readRow(cells, mapping, asked.country, asked.today);
      if ('rejected' in read) rejected.push({ line, why: sayReason(read.rejected) });
      else {
        const { given, family, emails, phones, birthDate } = read.person;
        people.push({ line, given, family, email: emails[0] ?? null, phone: phones[0] ?? null, birthDate });
      }
    }
    return { people, rejected };
  },

  'tell the order of dates': (asked: {
    bytes: Uint8Array;
    columns: readonly ColumnMeaning[];
    fields: readonly OwnField[];
  }): Mapping['dateOrders'] => dateOrdersOf(readTable(asked.bytes), asked.columns, asked.fields),

  /** Somebody else's diary, or why it is none. */
  'read a diary': (asked: {
    text: string;
    window: { from: string; to: string };
    zone: string;
  }): { diary: Diary } | { problem: DiaryProblem['code'] } => {
    try {
      return { diary: readDiary(asked.text, asked.window, asked.zone) };
    } catch (error) {
      if (error instanceof DiaryProblem) return { problem: error.code };
      throw error;
    }
  },

  'estimate the matching model': ({ people }: { people: readonly Described[] }): MatchingModel => {
    let state = 88172645;
    const random = () => {
      // xorshift: the same contacts give the same model.
      state ^= state << 13;
      state ^= state >>> 17;
      state ^= state << 5;
      return (state >>> 0) / 4294967296;
    };
    return estimate(
      people.map((p) => prepare(p)),
      random,
    );
  },
} as const;

export type Tasks = typeof tasks;
