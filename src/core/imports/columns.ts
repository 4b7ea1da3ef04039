import type { OwnField } from '#core/contacts/fields.ts';
import { fold } from '#core/contacts/names.ts';
import { isKnownGiven } from '#core/contacts/nicknames.ts';
import { isEmail, type ReachKind } from '#core/contacts/reach.ts';
import { type Table, unnamed } from '#core/exchange/table.ts';
import { isId } from '#core/words/ids.ts';
import type { Wrong } from '#core/words/problems.ts';
import { dateOrderOf, readDate, readReachCell, readYesNo } from './cells.ts';
import { readHeading } from './headings.ts';
import { type ColumnMeaning, dated, fieldIdOf, type Mapping, repeatable } from './mapping.ts';

/** A mapping with how sure each proposal is, 0 to 1. */
export interface Proposal extends Mapping {
  confidence: number[];
}

const postal = /^(?:[a-z]\d[a-z]\s?\d[a-z]\d|\d{5}(?:-\d{4})?|[a-z]{1,2}\d[a-z\d]?\s?\d[a-z]{2})$/iu;

/** A cell that may be a person's name: letters, few words, nothing of an address. */
const looksLikeName = (cell: string): boolean =>
  cell.length <= 60 && /^[\p{L}][\p{L}\p{M}'’.,&()“”" -]*$/u.test(cell) && cell.split(' ').length <= 6;

/** What newsletters are said of in words, which stand under any heading. */
const subscription =
  /^(?:un-?subscribed?|subscribed?|opted[ -]?(?:in|out)|opt[ -]?(?:in|out)|cleaned|bounced|pending)$/iu;

const shareOf = (cells: readonly string[], test: (c: string) => boolean): number =>
  cells.filter(test).length / Math.max(1, cells.length);

/** How well cells fit a meaning, 0 to 1; null where contents cannot tell. */
function fitOf(meaning: ColumnMeaning, cells: readonly string[], country: string): number | null {
  const share = (test: (c: string) => boolean) => shareOf(cells, test);
  switch (meaning) {
    case 'email':
    case 'guardian email':
    case 'other guardian email':
      return share((c) => readReachCell(c, country).emails.length > 0 || isEmail(c));
    case 'phone':
    case 'guardian phone':
    case 'other guardian phone':
      return share((c) => readReachCell(c, country).phones.length > 0);
    case 'email or phone': {
      return share((c) => {
        const read = readReachCell(c, country);
        return read.emails.length + read.phones.length > 0;
      });
    }
    case 'kind':
      return share((c) => /^(person|individual|organi[sz]ation|org|group)$/iu.test(c));
    case 'contact id':
      return share((c) => isId(c));
    case 'birth date':
    case 'newsletter date':
    case 'member until':
    case 'died on':
      return share((c) => readDate(c, 'day first') !== null || readDate(c, 'month first') !== null);
    case 'newsletter':
    case 'do not contact':
      return share((c) => readYesNo(c) !== null || subscription.test(c));
    case 'newsletter refused':
      return share((c) => readYesNo(c) !== null || readDate(c, 'day first') !== null);
    case 'postal code':
      return share((c) => postal.test(c.trim()));
    case 'street':
      return share((c) => /\d/u.test(c) && /\p{L}{2}/u.test(c) && !c.includes('@'));
    case 'given name':
    case 'family name':
    case 'emergency name':
      return share((c) => /\p{L}/u.test(c) && !/@|\d{3}/u.test(c));
    case 'whole name':
    case 'guardian name':
    case 'other guardian name':
      return share(
        (c) => /\p{L}/u.test(c) && !/@|\d{3}/u.test(c.replace(/<\S+@\S+>/u, '')) && readYesNo(c) === null,
      );
    default:
      return null;
  }
}

interface Candidate {
  meaning: ColumnMeaning;
  confidence: number;
}
const nothing: Candidate = { meaning: 'leave', confidence: 0 };

/**
 * Proposes what each column means from its heading and its contents together, with how sure that is. A meaning is
 * given out once, to the column that fits best, except those that may repeat. An emergency contact's details are never
 * taken for the person's own.
 */
export function proposeMapping(
  table: Pick<Table, 'headings' | 'rows'>,
  country = 'CA',
  fields: readonly Pick<OwnField, 'id' | 'name' | 'kind'>[] = [],
): Proposal {
  const contents = table.headings.map((_, at) =>
    table.rows
      .slice(0, 200)
      .map((r) => r.cells[at]?.trim() ?? '')
      .filter(Boolean),
  );
  const found = table.headings.map((heading, at): Candidate => {
    // A field of one's own is known by its name, as our own files write it.
    const own = fields.find((f) => fold(f.name) === fold(heading));
    if (own) return { meaning: `field ${own.id}` as const, confidence: 0.95 };
    return propose(heading, contents[at]!, country);
  });
  // Each meaning to the column that fits best; the others are left.
  for (const meaning of new Set(found.map((c) => c.meaning))) {
    if (repeatable.has(meaning)) continue;
    const claimants = found.flatMap((c, at) => (c.meaning === meaning ? [at] : []));
    const best = claimants.reduce((a, b) => (found[b]!.confidence > found[a]!.confidence ? b : a));
    for (const at of claimants) if (at !== best) found[at] = nothing;
  }
  tellGuardiansApart(table.headings, found);
  nameByContents(table.headings, contents, found);
  familyBesideGiven(contents, found);
  dateOfConsent(table.headings, contents, found, country);
  const columns = found.map((c) => c.meaning);
  return {
    columns,
    confidence: found.map((c) => c.confidence),
    dateOrders: dateOrdersOf(table, columns, fields),
  };
}

/** Of mother and father, or of parents 1 and 2, one is the guardian and the other the other; a third is left. */
function tellGuardiansApart(headings: readonly string[], found: Candidate[]): void {
  const groups: string[] = [];
  headings.forEach((heading, at) => {
    const { meaning, confidence } = found[at]!;
    if (!meaning.startsWith('guardian ')) return;
    const { guardian } = readHeading(heading);
    if (!groups.includes(guardian)) groups.push(guardian);
    const place = groups.indexOf(guardian);
    if (place === 1) found[at] = { meaning: `other ${meaning}` as ColumnMeaning, confidence };
    else if (place > 1) found[at] = nothing;
  });
}

/** Where no heading names a column of names, the one whose cells look most like names is proposed. */
function nameByContents(
  headings: readonly string[],
  contents: readonly (readonly string[])[],
  found: Candidate[],
): void {
  const names: ReadonlySet<ColumnMeaning> = new Set(['whole name', 'given name', 'family name']);
  if (found.some((c) => names.has(c.meaning))) return;
  const open = headings.flatMap((heading, at) => {
    const cells = contents[at]!;
    const free = found[at]!.meaning === 'leave' && !readHeading(heading).ofOthers;
    const fits = shareOf(cells, looksLikeName);
    // Words that come again and again are no names: meals, states, groups.
    const distinct = new Set(cells).size / Math.max(1, cells.length);
    if (!free || fits < 0.8 || distinct < 0.6 || !cells.length) return [];
    const known = shareOf(cells, (c) => c.split(/[\s,]+/u).some((w) => isKnownGiven(fold(w))));
    const whole = shareOf(cells, (c) => /^\p{Lu}\S*(?: \S+)* \p{Lu}\S*$/u.test(c)) > 0.8;
    return [{ at, known, whole, sure: known > 0.2 || (whole && distinct > 0.8 && cells.length > 2) }];
  });
  const best = open
    .filter((o) => o.sure)
    .reduce<(typeof open)[number] | null>((a, b) => (!a || b.known > a.known ? b : a), null);
  if (!best) return;
  if (best.whole) {
    found[best.at] = { meaning: 'whole name', confidence: 0.4 + 0.3 * best.known };
    return;
  }
  const beside = open.find((o) => !o.whole && Math.abs(o.at - best.at) === 1);
  found[best.at] = { meaning: beside ? 'given name' : 'whole name', confidence: 0.3 + 0.3 * best.known };
  if (beside) found[beside.at] = { meaning: 'family name', confidence: 0.5 };
}

/** "Name" beside "First name" is the family name, as "Nom" is beside "Prénom". */
function familyBesideGiven(contents: readonly (readonly string[])[], found: Candidate[]): void {
  const whole = found.findIndex((c) => c.meaning === 'whole name');
  const has = (meaning: ColumnMeaning) => found.some((c) => c.meaning === meaning);
  if (whole < 0 || !has('given name') || has('family name')) return;
  if (shareOf(contents[whole]!, (c) => !/\s/u.test(c)) > 0.5)
    found[whole] = { ...found[whole]!, meaning: 'family name' };
}

/** A date beside a newsletter column says when they subscribed. */
function dateOfConsent(
  headings: readonly string[],
  contents: readonly (readonly string[])[],
  found: Candidate[],
  country: string,
): void {
  if (!found.some((c) => c.meaning === 'newsletter' || c.meaning === 'newsletter refused')) return;
  const date = headings.findIndex(
    (h, at) =>
      found[at]!.meaning === 'leave' &&
      /^date$|subscri|opt.?in|sign(?:ed)?.?up|joined|since|added|confirm/iu.test(h) &&
      (fitOf('newsletter date', contents[at]!, country) ?? 0) > 0.6,
  );
  if (date >= 0) found[date] = { meaning: 'newsletter date', confidence: 0.6 };
}

function propose(heading: string, cells: readonly string[], country: string): Candidate {
  const read = readHeading(heading);
  const said = read.meaning;
  const fitTo = (meaning: ColumnMeaning) => (cells.length ? fitOf(meaning, cells, country) : null);
  if (said === 'emergency phone' || said === 'emergency name') {
    const phones = fitTo('phone') ?? 0;
    if (said === 'emergency phone') return { meaning: said, confidence: 0.5 + 0.5 * phones };
    // A bare telephone under "emergency contact" is a telephone.
    const bare = shareOf(cells, (c) => readReachCell(c, country).phones.length > 0 && !/\p{L}{2}/u.test(c));
    return bare > 0.5
      ? { meaning: 'emergency phone', confidence: 0.5 + 0.5 * bare }
      : { meaning: said, confidence: 0.9 };
  }
  if (said) {
    const sure = read.whose ? 0.9 : 1;
    const fits = fitTo(said);
    if (fits === null) return { meaning: said, confidence: 0.8 * sure };
    // Both in one column under a heading that names only one.
    if (said === 'email' || said === 'phone') {
      const either = fitTo('email or phone') ?? 0;
      if (either > fits + 0.15) return { meaning: 'email or phone', confidence: 0.4 + 0.6 * either };
    }
    if (fits >= 0.4) return { meaning: said, confidence: (0.5 + 0.5 * fits) * sure };
    // The contents contradict the heading: look at what they are.
  }
  if (read.ofOthers || !cells.length) return nothing;
  return byContents(cells, country, said !== null);
}

/** What a column means by its contents alone, under a heading that says nothing, or something they contradict. */
function byContents(cells: readonly string[], country: string, contradicted: boolean): Candidate {
  // Of a cell or two only an email tells enough.
  const enough = cells.length >= 3;
  const emails = fitOf('email', cells, country) ?? 0;
  const either = fitOf('email or phone', cells, country) ?? 0;
  if (either > 0.7 && emails > 0.2 && (fitOf('phone', cells, country) ?? 0) > 0.2)
    return { meaning: 'email or phone', confidence: 0.7 * either };
  if (emails > 0.7) return { meaning: 'email', confidence: 0.7 * emails };
  if (!enough) return nothing;
  const codes = fitOf('postal code', cells, country) ?? 0;
  if (codes > 0.7) return { meaning: 'postal code', confidence: 0.7 * codes };
  const words = shareOf(cells, (c) => subscription.test(c));
  if (words > 0.7) return { meaning: 'newsletter', confidence: 0.6 };
  // A number of nine digits and more under a heading that says nothing of whose it is.
  const phones = shareOf(
    cells,
    (c) => c.replace(/\D/gu, '').length >= 10 && readReachCell(c, country).phones.length > 0,
  );
  return !contradicted && phones > 0.8 ? { meaning: 'phone', confidence: 0.5 } : nothing;
}

/**
 * The order of each dated column by its own evidence, else by its heading; `ask` where neither tells. Fields of one's own
 * that hold dates are dated too.
 */
export function dateOrdersOf(
  table: Pick<Table, 'headings' | 'rows'>,
  columns: readonly ColumnMeaning[],
  fields: readonly Pick<OwnField, 'id' | 'kind'>[] = [],
): Mapping['dateOrders'] {
  const isDated = (meaning: ColumnMeaning) =>
    dated.has(meaning) || fields.some((f) => f.kind === 'date' && f.id === fieldIdOf(meaning));
  return columns.map((meaning, at) =>
    isDated(meaning)
      ? (dateOrderOf(table.rows.map((r) => r.cells[at] ?? '')) ??
        readHeading(table.headings[at] ?? '').order ??
        'ask')
      : null,
  );
}

/** What the emails and telephones of each column are for, as the headings say. */
export const reachOf = (headings: readonly string[]): ReachKind[] =>
  headings.map((h) => readHeading(h).reach);

/** Says what is wrong with a mapping, by column where it can be said. */
export function problemsWithMapping(mapping: Mapping, columns: number): Wrong[] {
  const problems: Wrong[] = [];
  if (mapping.columns.length !== columns)
    return [
      {
        path: 'columns',
        code: 'columns-and-meanings',
        params: { columns, meanings: mapping.columns.length },
      },
    ];
  mapping.columns.forEach((c, at) => {
    if (!repeatable.has(c) && mapping.columns.indexOf(c) !== at)
      problems.push({ path: `columns.${at}`, code: 'column-twice', params: { meaning: c } });
  });
  const named: ColumnMeaning[] = ['whole name', 'given name', 'family name', 'email', 'email or phone'];
  if (!mapping.columns.some((c) => named.includes(c)))
    problems.push({
      path: 'columns',
      code: 'no-name-column',
    });
  return problems;
}

/** What files that look alike have in common: their headings, folded. Null where none names its columns. */
export const likenessOf = (headings: readonly string[]): string | null =>
  headings.every((h, at) => h === unnamed(at)) ? null : headings.map(fold).join('|');
