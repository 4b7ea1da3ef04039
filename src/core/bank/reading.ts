import type { Table } from '#core/exchange/table.ts';
import { dateOrderOf, isInNumbers, readDate } from '#core/imports/cells.ts';
import type { Amount } from '#core/money/amount.ts';
import type { CalendarDate } from '#core/time/clock.ts';

/** One line of a bank's file. Money that came is above nought. */
export interface BankLine {
  /** Its line in the file, counted from 1. */
  line: number;
  on: CalendarDate;
  amount: Amount;
  words: string;
  /** What it is known by when it comes again: day, amount, words, and which of several alike it is. */
  key: string;
}

/** What was wrong with lines that could not be read. */
export interface Unread {
  line: number;
  why: 'no date' | 'no amount';
}

export interface BankFile {
  lines: BankLine[];
  unread: Unread[];
  /** How its dates and amounts were read. */
  dates: 'year first' | 'day first' | 'month first';
  decimals: '.' | ',';
}

/** Why a file cannot be read as one of a bank. */
export type NoBankFile = 'no date column' | 'no amount column' | 'dates either way';

const headings = {
  date: /^(?:(?:booking|transaction|posting|posted|value|settlement)[ -]?)?date$|^date (?:de |d[’'])?(?:l[’'])?(?:op[ée]ration|valeur|comptable)?$|^datum$|^posted$/iu,
  amount: /^(?:net |gross )?amount(?: \(?[a-z$]{1,4}\)?)?$|^montant(?: net)?$|^betrag$|^value$/iu,
  came: /^credits?(?: amount)?$|^deposits?$|^paid in$|^money in$|^cr[ée]dits?$|^d[ée]p[ôo]ts?$/iu,
  went: /^debits?(?: amount)?$|^withdrawals?$|^paid out$|^money out$|^d[ée]bits?$|^retraits?$/iu,
} as const;
const aside = /balance|solde|saldo/iu;

/** Digits after the separator that is one of decimals; null where the cell cannot tell. */
function separatorOf(cell: string): '.' | ',' | null {
  const dot = cell.lastIndexOf('.');
  const comma = cell.lastIndexOf(',');
  if (dot >= 0 && comma >= 0) return dot > comma ? '.' : ',';
  const only = dot >= 0 ? '.' : comma >= 0 ? ',' : null;
  if (!only) return null;
  const parts = cell.split(only);
  // Several of them part thousands; three digits after one may be either.
  if (parts.length > 2) return only === '.' ? ',' : '.';
  return parts[1]!.replace(/\D/gu, '').length === 3 ? null : only;
}

/** Reads an amount by the separator of decimals of its file: "1 234,56", "(12.00)", "12.00-", "CR 5". Null where it is none. */
export function readBankAmount(cell: string, decimals: '.' | ',', digits: number): Amount | null {
  const text = cell.trim();
  if (!text) return null;
  const negative = /^\(.*\)$/u.test(text) || /^-|^−|-$|−$|\bD(?:R|B)\b/iu.test(text);
  const thousands = decimals === '.' ? /[,\s\u00a0\u202f'’]/gu : /[.\s\u00a0\u202f'’]/gu;
  const plain = text
    .replace(/[()+−-]|\b(?:CR|DR|DB|CAD|USD|EUR|CHF|JPY|GBP)\b|[$€£¥]/giu, '')
    .trim()
    .replace(thousands, '')
    .replace(decimals, '.');
  if (!/^\d{1,15}(?:\.\d*)?$/u.test(plain)) return null;
  const [whole = '0', fraction = ''] = plain.split('.');
  if (fraction.replace(/0+$/u, '').length > digits) return null;
  const amount = Number(whole) * 10 ** digits + Number(fraction.padEnd(digits, '0').slice(0, digits) || '0');
  return negative ? 0 - amount : amount;
}

/** Days of a bank's file are of this century: what stands in two digits is never of the last. */
const notAfter = '2099-12-31';

/**
 * Reads a bank's or a processor's file: which column is what by its headings, how decimals and days are written by all of its cells
 * together. Money that went is below nought, whether it stands with a sign or in a column of its own. `dates` says how days are written
 * where the file cannot tell. Lines alike in one file are several, each with a key of its own; in another file they are the same again.
 */
export function readBankFile(
  table: Pick<Table, 'headings' | 'rows'>,
  digits: number,
  dates: BankFile['dates'] | null = null,
): BankFile | { why: NoBankFile } {
  const column = (of: RegExp) => table.headings.findIndex((h) => of.test(h.trim()));
  const date = column(headings.date);
  if (date < 0) return { why: 'no date column' };
  const [amount, came, went] = [column(headings.amount), column(headings.came), column(headings.went)];
  if (amount < 0 && came < 0 && went < 0) return { why: 'no amount column' };
  const days = table.rows.map((r) => r.cells[date] ?? '');
  const order = dates ?? (days.some(isInNumbers) ? dateOrderOf(days) : 'year first');
  if (!order) return { why: 'dates either way' };
  const amounts = [amount, came, went].filter((at) => at >= 0);
  const told = table.rows.flatMap((r) => amounts.map((at) => separatorOf((r.cells[at] ?? '').trim())));
  const decimals = told.includes(',') && !told.includes('.') ? ',' : '.';
  const others = table.headings.flatMap((h, at) =>
    at !== date && !amounts.includes(at) && !aside.test(h) && !headings.date.test(h.trim()) ? [at] : [],
  );
  const file: BankFile = { lines: [], unread: [], dates: order, decimals };
  const alike = new Map<string, number>();
  for (const { line, cells } of table.rows) {
    if (cells.every((c) => !c.trim())) continue;
    const on = readDate(cells[date] ?? '', order === 'year first' ? 'day first' : order, notAfter);
    const read = (at: number) => (at < 0 ? null : readBankAmount(cells[at] ?? '', decimals, digits));
    const [signed, paidIn, paidOut] = [read(amount), read(came), read(went)];
    const sum =
      signed ?? (paidIn === null && paidOut === null ? null : Math.abs(paidIn ?? 0) - Math.abs(paidOut ?? 0));
    if (!on || sum === null) {
      file.unread.push({ line, why: on ? 'no amount' : 'no date' });
      continue;
    }
    if (sum === 0) continue;
    const words = others
      .map((at) => (cells[at] ?? '').replace(/\s+/gu, ' ').trim())
      .filter(Boolean)
      .join(' · ');
    const same = `${on} ${sum} ${words.toLowerCase()}`;
    const nth = (alike.get(same) ?? 0) + 1;
    alike.set(same, nth);
    file.lines.push({ line, on, amount: sum, words, key: `${same} ${nth}` });
  }
  return file;
}
