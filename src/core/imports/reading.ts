import { noTexts } from '#core/contacts/attributes.ts';
import type { OwnField } from '#core/contacts/fields.ts';
import { fold, fullName, type PersonName, splitName, tidyName } from '#core/contacts/names.ts';
import type { CalendarDate } from '#core/time/clock.ts';
import { because, type Reason } from '#core/words/reasons.ts';
import { saysNothing } from './cells.ts';
import { namesInCell } from './couples.ts';
import { type Cells, cellsBy, readEmergencies, readPerson, readReach, shown } from './details.ts';
import type { ColumnMeaning, Mapping } from './mapping.ts';
import type { PersonRow, ReadRow, RowPart } from './rows.ts';

/** True for a row that sums up the others. */
const isTotal = (cells: readonly string[]): boolean => {
  const filled = cells.filter(Boolean);
  return /^(?:grand |sub)?total\b|^sum\b|^count\b|^totaux?\b/iu.test(filled[0] ?? '') && filled.length <= 3;
};
const ofTheHome: ReadonlySet<ColumnMeaning> = new Set(['street', 'town', 'postal code']);

/** What a column of a child's row means for a guardian: the guardian's own name and reach, and where both live. */
function forGuardian(which: 'guardian' | 'other guardian', column: ColumnMeaning): ColumnMeaning {
  if (column === `${which} name`) return 'whole name';
  if (column === `${which} email`) return 'email';
  if (column === `${which} phone`) return 'phone';
  return ofTheHome.has(column) ? column : 'leave';
}

/** The names that the name cells of a row give, and what stood beside them. */
function namesOf({ all, one }: Cells): { names: PersonName[]; rest: string[]; email: string | null } {
  const given = one('given name');
  const family = one('family name');
  if (given || family) {
    // "Thad & Marie" before "Hollis" are two; what else stands in a given name is part of it: "Patricia (Pat)".
    const several = namesInCell(given).names;
    const givens = several.length > 1 ? several : [given];
    return {
      names: givens.map((name) => ({ given: tidyName(name), family: tidyName(family) })),
      rest: [],
      email: null,
    };
  }
  const whole = all('whole name').join(' ');
  const email = /<\s*(\S+@\S+?)\s*>/u.exec(whole);
  const { names, rest } = namesInCell(whole.replace(email?.[0] ?? '', ''));
  return { names: names.map(splitName), rest, email: email?.[1] ?? null };
}

/** Which people a row names. */
export function partsOf(cells: readonly string[], mapping: Mapping): RowPart[] {
  const by = cellsBy(cells, mapping);
  return ['own', ...(namesOf(by).names.length === 2 ? (['partner'] as const) : []), ...guardiansOf(by)];
}

/** Guardians that the row of a child names: each in columns of their own, or two in one cell. */
function guardiansOf(by: Cells): RowPart[] {
  const named = saidIn(by, 'guardian name');
  const two = saidIn(by, 'other guardian name') !== '' || namesInCell(named).names.length === 2;
  return [...(named ? (['guardian'] as const) : []), ...(two ? (['other guardian'] as const) : [])];
}

/** The cells of a meaning in one, without those that say that there is nothing. */
const saidIn = ({ all }: Cells, meaning: ColumnMeaning): string =>
  all(meaning)
    .filter((cell) => !saysNothing(cell))
    .join(' ');

/**
 * Reads one person of a row by the mapping. Returns the person and remarks about cells that could not be read, or the
 * reason the row is rejected. What is known of an emergency contact never becomes the person's own, and what is known of
 * a guardian only the guardian's. Somebody without a name is known by their email alone.
 */
export function readRow(
  cells: readonly string[],
  mapping: Mapping,
  country: string,
  today: CalendarDate,
  fields: readonly OwnField[] = [],
  part: RowPart = 'own',
): ReadRow {
  if (isTotal(cells)) return { rejected: because('sums up') };
  const footer = cells.filter((c) => c.trim());
  if (cells.length > 2 && footer.length === 1 && isFooter(footer[0]!.trim()))
    return { rejected: because('no person', { text: shown(footer[0]!.trim()) }) };
  if (part === 'guardian' || part === 'other guardian')
    return readGuardian(cells, mapping, country, today, part);
  const by = cellsBy(cells, mapping);
  const { one } = by;
  const named = namesOf(by);
  const kind =
    /^(?:organi[sz]ation|org)$/iu.test(one('kind')) || legalForm.test(one('whole name'))
      ? 'organization'
      : 'person';
  if (kind === 'person' && named.names.length > 2)
    return { rejected: because('several in a cell', { count: named.names.length }) };
  const second = kind === 'person' ? named.names[1] : undefined;
  if (part === 'partner' && !second) return { rejected: because('nobody else') };
  const name =
    kind === 'organization'
      ? {
          given: '',
          family: (`${one('given name')} ${one('family name')}`.trim() || one('whole name')).slice(0, 100),
        }
      : ((part === 'partner' ? second : named.names[0]) ?? { given: '', family: '' });
  const remarks: Reason[] = [];
  const reach = readReach(mapping, cells, country, remarks);
  if (named.email) reach.emails.unshift(named.email);
  if (!fullName(name) && !reach.emails.length) return { rejected: because('no name') };
  if (fullName(name) && !/\p{L}/u.test(fullName(name)))
    return { rejected: because('not a name', { text: shown(fullName(name)) }) };
  if (fullName(name).length > 200) return { rejected: because('name too long') };
  if (kind === 'person' && named.rest.length)
    remarks.push(because('beside the name', { text: shown(named.rest.join(' ')) }));
  const read = readPerson(by, mapping, cells, today, fields, remarks);
  for (const which of ['guardian', 'other guardian'] as const)
    if (!guardiansOf(by).includes(which) && (one(`${which} email`) || one(`${which} phone`)))
      remarks.push(because(`${which} unnamed`));
  const person: PersonRow = {
    ...read,
    kind,
    ...name,
    ...reach,
    emergencies: readEmergencies(by, country, remarks),
    wards: [],
  };
  const foremost = named.names[0];
  if (!second || !foremost) return { person, remarks };
  const own = part === 'own';
  const other = own ? second : foremost;
  return {
    person: apart(person, own ? foremost : second, other, own),
    remarks: [because('named together', { name: fullName(other) }), ...remarks],
  };
}

const legalForm = /\b(?:ltd|inc|llc|limited|gmbh)\.?$/iu;
const isFooter = (text: string): boolean =>
  /^(?:page\b|printed\b|end( of .*)?$|[*_=–—-]{2,}|\d+ (?:guests|members|people|rows|names|records)\b)/iu.test(
    text,
  );

/** A guardian of a child, as a person with a name and reach of their own. */
function readGuardian(
  cells: readonly string[],
  mapping: Mapping,
  country: string,
  today: CalendarDate,
  which: 'guardian' | 'other guardian',
): ReadRow {
  const by = cellsBy(cells, mapping);
  const child = namesOf(by).names[0];
  // Without columns of their own, the other guardian is the second of two in one cell.
  const apart = which === 'guardian' || saidIn(by, 'other guardian name') !== '';
  const theirs = apart ? which : 'guardian';
  const read = readRow(
    cells,
    { ...mapping, columns: mapping.columns.map((c) => forGuardian(theirs, c)) },
    country,
    today,
    [],
    apart ? 'own' : 'partner',
  );
  if ('rejected' in read || !child) return read;
  const ward = fullName(child);
  return {
    person: { ...read.person, wards: [ward] },
    remarks: [because('guardian of', { name: ward }), ...read.remarks],
  };
}

/**
 * What is one person's of a row that names two: an email or a telephone that carries one of the names is theirs, two
 * are taken one each, and anything else is both's, as is where they live. What can only be one person's is the first's;
 * a no to being written to counts for both.
 */
function apart(person: PersonRow, own: PersonName, other: PersonName, first: boolean): PersonRow {
  const [emails, phones] = [shareOf(person.emails), shareOf(person.phones)];
  const kinds = Object.fromEntries(
    Object.entries(person.kinds).filter(([value]) => emails.includes(value) || phones.includes(value)),
  );
  const both = { ...person, ...own, emails, phones, kinds };
  if (first) return both;
  return {
    ...both,
    statedId: null,
    birthDate: null,
    ...noTexts,
    tags: [],
    notes: [],
    newsletter: person.newsletter?.granted === false ? person.newsletter : null,
    doNotContact: person.doNotContact || null,
    memberships: [],
    fields: [],
    organizations: [],
    deceasedOn: null,
    emergencies: [],
  };

  function shareOf(values: readonly string[]): string[] {
    const carries = (value: string, name: PersonName) =>
      fold(name.given).length > 1 && fold(value.split('@')[0]!).includes(fold(name.given));
    const owners = values.map((v) => {
      const [mine, theirs] = [carries(v, own), carries(v, other)];
      return mine === theirs ? null : mine;
    });
    if (values.length === 2) {
      const [a = null, b = null] = owners;
      const mine = a ?? (b === null ? first : !b);
      return [values[0]!, values[1]!].filter((_, at) => (at === 0 ? mine : (b ?? !mine)));
    }
    return values.filter((_, at) => owners[at] ?? true);
  }
}
