import type { Table } from '#core/exchange/table.ts';
import { type DateOrder, dateOrderOf, readDate, readReachCell, readYesNo } from './cells.ts';
import { fold } from './names.ts';
import { isEmail } from './reach.ts';

/** What a column can mean. `leave` is not imported. */
export const columnMeanings = [
  'leave',
  'contact id',
  'kind',
  'given name',
  'family name',
  'whole name',
  'email',
  'phone',
  'email or phone',
  'street',
  'town',
  'postal code',
  'birth date',
  'language',
  'dietary',
  'tags',
  'note',
  'newsletter',
  'newsletter date',
  'do not contact',
  'member number',
  'member since',
  'member level',
  'member until',
  'organization',
  'died on',
  'emergency name',
  'emergency phone',
] as const;
/** A field of the organization's own, by its id. */
export type FieldMeaning = `field ${string}`;
export type ColumnMeaning = (typeof columnMeanings)[number] | FieldMeaning;

/** The id of the field of one's own that a column means, or null. */
export const fieldIdOf = (meaning: ColumnMeaning): string | null =>
  meaning.startsWith('field ') ? meaning.slice('field '.length) : null;

/** Meanings that several columns may have. */
export const repeatable: ReadonlySet<ColumnMeaning> = new Set([
  'leave',
  'email',
  'phone',
  'email or phone',
  'tags',
  'note',
]);
/** Meanings whose cells are dates. */
const dated: ReadonlySet<ColumnMeaning> = new Set([
  'birth date',
  'newsletter date',
  'member until',
  'died on',
]);

/** How a file's columns are read. */
export interface Mapping {
  columns: ColumnMeaning[];
  /** The order of day and month by column; `ask` where a column is dated, ambiguous and tells nothing itself. */
  dateOrders: (DateOrder | 'ask' | null)[];
}

/** A mapping with how sure each proposal is, 0 to 1. */
export interface Proposal extends Mapping {
  confidence: number[];
}

// Somebody else's details: they never become the person's own.
const ofOthers =
  /parent|guardian|mother|father|spouse|partner|next of kin|\bkin\b|tuteur|mère|père|conjoint|referr|host/iu;
const emergency = /emergenc|\bice\b|next of kin|in case of|urgence/iu;

const byHeading: [RegExp, ColumnMeaning][] = [
  [/^contact id$/iu, 'contact id'],
  [/^kind( of contact)?$/iu, 'kind'],
  [/e-?mail.*(phone|tel)|phone.*e-?mail|^contact( details| info)?$|^reach$/iu, 'email or phone'],
  [
    /(e-?mail|newsletter|mailing).*(opt|subscri|consent|ok\b)|^subscri|^newsletter$|^opt.?(in|out)|^abonn/iu,
    'newsletter',
  ],
  [/do not (contact|mail|email|call)|^dnc$|no contact/iu, 'do not contact'],
  [/e-?mail|courriel|^mail$/iu, 'email'],
  [/mobile|phone|^tel|\btel\b|^cell|téléphone|portable/iu, 'phone'],
  [/^(first|given|fore|christian)|prénom|^first$/iu, 'given name'],
  [/^(last|family|sur)|nom de famille|^last$/iu, 'family name'],
  [/member(ship)?\s*(no|number|#|id)|^no\.?$|^card (no|number)/iu, 'member number'],
  [
    /member(ship)? (until|to|ends?|expir)|paid (until|to)|expir|valid (until|to)|renew(al)? (due|date)/iu,
    'member until',
  ],
  [/^died|^deceased|date of death|décéd/iu, 'died on'],
  [/^organi[sz]ation$|^company$|^employer$|^works? (for|at)$|^business$|^employeur$/iu, 'organization'],
  [/member since|joined|since|membre depuis/iu, 'member since'],
  [/level|tier|category of member|member(ship)? type|^membership$/iu, 'member level'],
  [
    /^(full |whole |contact |guest |volunteer |member )?names?( in full)?$|^guests?$|^nom( complet)?$|^who$|^person$|^volunteers?$|^attendees?$/iu,
    'whole name',
  ],
  [/street|^address( line)?( ?1)?$|^adresse|^home address$/iu, 'street'],
  [/postal|zip|post ?code|code postal/iu, 'postal code'],
  [/^(town|city|ville|place)$/iu, 'town'],
  [/birth|born|\bdob\b|naissance|^bday$/iu, 'birth date'],
  [/^lang(uage)?$|^langue$/iu, 'language'],
  [/diet|allerg|régime/iu, 'dietary'],
  [/^skills?$|^tags?$|^interests?$|^categories$|^groups?$|compétences/iu, 'tags'],
  [/^notes?$|^comments?$|^remarks?$|^remarques?$/iu, 'note'],
];

const postal = /^(?:[a-z]\d[a-z]\s?\d[a-z]\d|\d{5}(?:-\d{4})?|[a-z]{1,2}\d[a-z\d]?\s?\d[a-z]{2})$/iu;

/** True for an id of a contact, as our own exports write it. */
export const isId = (text: string): boolean => /^[\da-f]{8}(?:-[\da-f]{4}){3}-[\da-f]{12}$/iu.test(text);

/** How well cells fit a meaning, 0 to 1; null where contents cannot tell. */
function fitOf(meaning: ColumnMeaning, cells: readonly string[], country: string): number | null {
  const share = (test: (c: string) => boolean) => cells.filter(test).length / Math.max(1, cells.length);
  switch (meaning) {
    case 'email':
      return share((c) => readReachCell(c, country).emails.length > 0 || isEmail(c));
    case 'phone':
    case 'emergency phone':
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
      return share((c) => readYesNo(c) !== null);
    case 'postal code':
      return share((c) => postal.test(c.trim()));
    case 'street':
      return share((c) => /^\d+\w?\s+\p{L}|^\p{L}.*\s\d+\w?$/u.test(c));
    case 'given name':
    case 'family name':
    case 'whole name':
    case 'emergency name':
      return share((c) => /\p{L}/u.test(c) && !/@|\d{3}/u.test(c));
    default:
      return null;
  }
}

/**
 * Proposes what each column means from its heading and its contents together, with how sure that is. A meaning is
 * given out once, to the column that fits best, except those that may repeat. An emergency contact's details are never
 * taken for the person's own.
 */
export function proposeMapping(
  table: Pick<Table, 'headings' | 'rows'>,
  country = 'CA',
  fields: readonly { id: string; name: string }[] = [],
): Proposal {
  const candidates = table.headings.map((heading, at) => {
    const cells = table.rows
      .slice(0, 200)
      .map((r) => r.cells[at]?.trim() ?? '')
      .filter(Boolean);
    // A field of one's own is known by its name, as our own files write it.
    const own = fields.find((f) => fold(f.name) === fold(heading));
    if (own) return { meaning: `field ${own.id}` as const, confidence: 0.95 };
    return propose(heading.trim(), cells, country);
  });
  const columns: ColumnMeaning[] = candidates.map((c) => c.meaning);
  const confidence = candidates.map((c) => c.confidence);
  // Each meaning to the column that fits best; the others are left.
  for (const meaning of new Set(columns)) {
    if (repeatable.has(meaning)) continue;
    const claimants = columns.flatMap((c, at) => (c === meaning ? [at] : []));
    const best = claimants.reduce((a, b) => (confidence[b]! > confidence[a]! ? b : a), claimants[0] ?? 0);
    for (const at of claimants) if (at !== best) columns[at] = 'leave';
  }
  if (columns.includes('given name') && columns.includes('family name')) {
    const whole = columns.indexOf('whole name');
    if (whole >= 0) columns[whole] = 'leave';
  }
  // A date beside a newsletter column says when they subscribed.
  const consent = columns.indexOf('newsletter');
  const date = table.headings.findIndex(
    (h, at) => columns[at] === 'leave' && /^date$|subscribed on|since/iu.test(h),
  );
  if (consent >= 0 && date >= 0) {
    columns[date] = 'newsletter date';
    confidence[date] = 0.6;
  }
  columns.forEach((c, at) => {
    if (c === 'leave') confidence[at] = 0;
  });
  return { columns, confidence, dateOrders: dateOrdersOf(table, columns) };
}

function propose(
  heading: string,
  cells: readonly string[],
  country: string,
): { meaning: ColumnMeaning; confidence: number } {
  const none = { meaning: 'leave' as const, confidence: 0 };
  if (emergency.test(heading)) {
    const phones = fitOf('phone', cells, country) ?? 0;
    return phones > 0.5 || /phone|mobile|tel|number|cell/iu.test(heading)
      ? { meaning: 'emergency phone', confidence: 0.5 + 0.5 * phones }
      : { meaning: 'emergency name', confidence: 0.9 };
  }
  if (ofOthers.test(heading)) return none;
  const said = byHeading.find(([words]) => words.test(heading))?.[1];
  if (said) {
    const fits = cells.length ? fitOf(said, cells, country) : null;
    if (fits === null) return { meaning: said, confidence: 0.8 };
    // Both in one column under a heading that names only one.
    if (said === 'email' || said === 'phone') {
      const either = fitOf('email or phone', cells, country) ?? 0;
      if (either > fits + 0.15) return { meaning: 'email or phone', confidence: 0.4 + 0.6 * either };
    }
    if (fits >= 0.4) return { meaning: said, confidence: 0.5 + 0.5 * fits };
    // The contents contradict the heading: look at what they are.
  }
  if (cells.length < 3) return none;
  for (const meaning of ['email', 'postal code'] as const) {
    const fits = fitOf(meaning, cells, country) ?? 0;
    if (fits > 0.7) return { meaning, confidence: 0.7 * fits };
  }
  // A number of nine digits and more under a heading that says nothing of whose it is.
  const phones = cells.filter(
    (c) => c.replace(/\D/gu, '').length >= 10 && readReachCell(c, country).phones.length,
  ).length;
  if (!said && phones > cells.length * 0.8) return { meaning: 'phone', confidence: 0.5 };
  return none;
}

/** The order of each dated column by its own evidence; `ask` where there is none. */
export function dateOrdersOf(
  table: Pick<Table, 'rows'>,
  columns: readonly ColumnMeaning[],
): Mapping['dateOrders'] {
  return columns.map((meaning, at) =>
    dated.has(meaning) ? (dateOrderOf(table.rows.map((r) => r.cells[at] ?? '')) ?? 'ask') : null,
  );
}

/** Says what is wrong with a mapping, by column where it can be said. */
export function problemsWithMapping(mapping: Mapping, columns: number): { path: string; message: string }[] {
  const problems: { path: string; message: string }[] = [];
  if (mapping.columns.length !== columns)
    return [
      {
        path: 'columns',
        message: `The file has ${columns} columns, ${mapping.columns.length} meanings were given.`,
      },
    ];
  mapping.columns.forEach((c, at) => {
    if (!repeatable.has(c) && mapping.columns.indexOf(c) !== at)
      problems.push({ path: `columns.${at}`, message: `Two columns are set to “${c}”.` });
  });
  if (!mapping.columns.some((c) => c === 'whole name' || c === 'given name' || c === 'family name'))
    problems.push({ path: 'columns', message: 'No column is set to a name. People need at least a name.' });
  return problems;
}

/** What files that look alike have in common: their headings, folded. */
export const likenessOf = (headings: readonly string[]): string => headings.map(fold).join('|');
