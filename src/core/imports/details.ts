import { attributes, textsOf } from '#core/contacts/attributes.ts';
import { type OwnField, readFieldValue } from '#core/contacts/fields.ts';
import { tidyName } from '#core/contacts/names.ts';
import { emailKey, type ReachKind } from '#core/contacts/reach.ts';
import type { CalendarDate } from '#core/time/clock.ts';
import { isId } from '#core/words/ids.ts';
import { because, type Reason, type ReasonCode } from '#core/words/reasons.ts';
import { readDate, readReachCell, readYesNo, saysNothing } from './cells.ts';
import { type ColumnMeaning, type DateOrder, fieldIdOf, type Mapping } from './mapping.ts';
import type { EmergencyContact, PersonRow } from './rows.ts';

/** A cell as a remark quotes it. */
export const shown = (text: string, most = 40): string =>
  text.length > most ? `${text.slice(0, most)}…` : text;

/** Cells of a row by what their column means. */
export interface Cells {
  all(meaning: ColumnMeaning): string[];
  one(meaning: ColumnMeaning): string;
}
/** Reads cells by meaning. */
export const cellsBy = (cells: readonly string[], mapping: Mapping): Cells => {
  const all = (meaning: ColumnMeaning): string[] =>
    mapping.columns.flatMap((c, at) => (c === meaning && cells[at]?.trim() ? [cells[at]!.trim()] : []));
  return { all, one: (meaning) => all(meaning)[0] ?? '' };
};
/** The order of dates in a column; null while somebody has to be asked. */
const orderAt = (mapping: Mapping, at: number): DateOrder | null => {
  const order = mapping.dateOrders[at] ?? null;
  return order === 'ask' ? null : order;
};

/** What runs out may do so ahead: there 31/12/27 is in 2027, not a century ago. */
const inTwentyYears = (today: CalendarDate): CalendarDate =>
  `${Number(today.slice(0, 4)) + 20}${today.slice(4)}`;

/** Everything a row tells of a person besides name and reach. */
export function readPerson(
  { all, one }: Cells,
  mapping: Mapping,
  cells: readonly string[],
  today: CalendarDate,
  fields: readonly OwnField[],
  remarks: Reason[],
): Omit<PersonRow, 'kind' | 'given' | 'family' | 'emails' | 'phones' | 'kinds' | 'emergencies' | 'wards'> {
  const dateIn = (meaning: ColumnMeaning, notAfter: CalendarDate = today): CalendarDate | null => {
    const text = one(meaning);
    if (!text) return null;
    const order = orderAt(mapping, mapping.columns.indexOf(meaning));
    const date = readDate(text, order, notAfter);
    if (!date)
      remarks.push(
        because(!order && /^\d{1,2}\D\d{1,2}\D/u.test(text) ? 'two ways' : 'no date', { text: shown(text) }),
      );
    return date;
  };
  const past = (meaning: ColumnMeaning, ahead: ReasonCode): CalendarDate | null => {
    const date = dateIn(meaning);
    if (!date || date <= today) return date;
    remarks.push(because(ahead, { date: { date } }));
    return null;
  };
  const yesNo = (meaning: ColumnMeaning): boolean | null => {
    const text = one(meaning);
    const read = text ? readYesNo(text) : null;
    if (text && read === null) remarks.push(because('no yes or no', { text: shown(text) }));
    return read;
  };
  const birthDate = past('birth date', 'born ahead');
  const deceasedOn = past('died on', 'died ahead');
  const until = dateIn('member until', inTwentyYears(today));
  const address = readAddress(all, one);
  const number = one('member number') || null;
  const since = one('member since') || null;
  const level = tidyLevel(one('member level'));
  const subscribed = yesNo('newsletter');
  const refusedText = one('newsletter refused');
  // The day somebody said no is a no.
  const refused = refusedText
    ? readDate(refusedText, 'day first', today)
      ? true
      : yesNo('newsletter refused')
    : null;
  const granted = refused === true ? false : (subscribed ?? (refused === false ? true : null));
  return {
    statedId: isId(one('contact id')) ? one('contact id').toLowerCase() : null,
    birthDate,
    ...address,
    language: readLanguage(one('language')),
    ...textsOf((key) => one(key).slice(0, attributes[key].text.most) || null),
    tags: tagsOf(all('tags')),
    notes: [all('note').join('\n').slice(0, 2000)].filter(Boolean),
    newsletter: granted === null ? null : { granted, on: dateIn('newsletter date') },
    doNotContact: yesNo('do not contact'),
    memberships: number || since || level || until ? [{ number, since, level, until }] : [],
    fields: readOwnFields(cells, mapping, fields, today, remarks),
    organizations: [one('organization').slice(0, 100)].filter(Boolean),
    deceasedOn,
  };
}

/** Street and postal code; a code at the end of an address written in one cell is taken out of it. */
function readAddress(
  all: Cells['all'],
  one: Cells['one'],
): { street: string | null; postalCode: string | null } {
  const lines = [...all('street'), ...all('town')].map((l) => l.replace(/\s*\n\s*/gu, ', '));
  let street = lines.join(', ').replace(/\s+/gu, ' ');
  let code = one('postal code');
  const written =
    /[,\s]+([a-z]\d[a-z]\s?\d[a-z]\d|(?<=[\s,][A-Z]{2}[\s,]+)\d{5}(?:-\d{4})?)(?:[,\s]+(?:canada|usa))?$/iu.exec(
      street,
    );
  if (!code && written) {
    code = written[1]!;
    street = street.slice(0, written.index);
  }
  return { street: street && street.length <= 200 ? street : null, postalCode: tidyPostal(code) };
}

/** Emergency contacts: name and telephone in columns of their own, or both in one cell. */
export function readEmergencies({ all }: Cells, country: string, remarks: Reason[]): EmergencyContact[] {
  const cells = [...all('emergency name'), ...all('emergency phone')];
  const words: string[] = [];
  let phone: string | null = null;
  for (const cell of cells) {
    if (saysNothing(cell)) continue;
    const found = /[+(]?\d[\d\s().+-]{5,}\d/u.exec(cell)?.[0];
    const number = found ? (readReachCell(found, country).phones[0] ?? null) : null;
    phone ??= number;
    const rest = (number ? cell.replace(found!, ' ') : cell)
      .replace(/[\s:,;–()-]+$/u, '')
      .replace(/^[\s:,;–()-]+/u, '');
    if (/\p{L}/u.test(rest)) words.push(tidyName(rest));
    else if (rest) remarks.push(because('no phone', { text: shown(cell) }));
  }
  const name = words.join(', ').slice(0, 200);
  return name || phone ? [{ name: name || 'Emergency contact', phone }] : [];
}

/** Cells of fields of one's own; dates and yes and no are read in any usual spelling. */
function readOwnFields(
  cells: readonly string[],
  mapping: Mapping,
  fields: readonly OwnField[],
  today: CalendarDate,
  remarks: Reason[],
): PersonRow['fields'] {
  return mapping.columns.flatMap((meaning, at) => {
    const field = fields.find((f) => f.id === fieldIdOf(meaning));
    const text = cells[at]?.trim() ?? '';
    if (!field || !text) return [];
    const yes = field.kind === 'yes or no' ? readYesNo(text) : null;
    const usual =
      field.kind === 'date'
        ? (readDate(text, orderAt(mapping, at), inTwentyYears(today)) ?? text)
        : yes === null
          ? text
          : yes
            ? 'yes'
            : 'no';
    const read = readFieldValue(field, usual);
    if ('wrong' in read) {
      remarks.push(because('not in field', { text: shown(text), field: field.name, why: read.wrong }));
      return [];
    }
    return read.value === null ? [] : [{ id: field.id, name: field.name, value: read.value }];
  });
}

/** The emails and telephones of a row, and what each is for: by the cell itself, else by the heading of its column. */
export function readReach(
  mapping: Mapping,
  cells: readonly string[],
  country: string,
  remarks: Reason[],
): { emails: string[]; phones: string[]; kinds: Record<string, ReachKind> } {
  const emails: string[] = [];
  const phones: string[] = [];
  const kinds: Record<string, ReachKind> = {};
  for (const meaning of ['email', 'phone', 'email or phone'] as const)
    for (const [at, column] of mapping.columns.entries()) {
      if (column !== meaning || !cells[at]?.trim()) continue;
      const read = readReachCell(cells[at], country);
      emails.push(...read.emails);
      phones.push(...read.phones);
      for (const value of [...read.emails, ...read.phones]) {
        const kind = read.kinds[value] ?? mapping.reach?.[at] ?? '';
        const email = value.includes('@');
        if (kind && !(email && kind === 'mobile')) kinds[value] ??= kind;
      }
      for (const rest of read.rest)
        remarks.push(
          meaning === 'phone'
            ? because('no phone', { text: shown(rest) })
            : because(meaning === 'email' ? 'no email' : 'no email or phone', { text: shown(rest, 60) }),
        );
    }
  const seen = new Set<string>();
  return {
    emails: emails.filter((e) => !seen.has(emailKey(e)) && Boolean(seen.add(emailKey(e)))).slice(0, 10),
    phones: [...new Set(phones)].slice(0, 10),
    kinds,
  };
}

/** Canadian codes get their blank, all get capitals: b3c8v2 is B3C 8V2. */
const tidyPostal = (text: string): string | null => {
  const clean = text.toUpperCase().replace(/\s+/gu, ' ').slice(0, 20);
  return clean.replace(/^([A-Z]\d[A-Z])\s?(\d[A-Z]\d)$/u, '$1 $2') || null;
};

const tidyLevel = (text: string): string | null => {
  const clean = text.trim().toLowerCase();
  return clean ? clean[0]!.toUpperCase() + clean.slice(1) : null;
};

const readLanguage = (text: string): 'en' | 'fr' | null =>
  /^(fr|français|french)/iu.test(text) ? 'fr' : /^(en|anglais|english)/iu.test(text) ? 'en' : null;

const tagsOf = (cells: readonly string[]): string[] => [
  ...new Set(
    cells
      .flatMap((c) => c.split(/\s*[,;|/\n]\s*/u))
      .map((t) => t.trim().toLowerCase().slice(0, 60))
      .filter(Boolean),
  ),
];
