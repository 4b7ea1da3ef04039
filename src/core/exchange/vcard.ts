/** One content line of a card: its name, parameters and raw value. */
interface Line {
  name: string;
  parameters: Map<string, string[]>;
  value: string;
}

/** True for text that is an address book. */
export const isVCard = (text: string): boolean => /^\s*BEGIN:VCARD/iu.test(text);

export const vCardHeadings = [
  'Contact id',
  'Given name',
  'Family name',
  'Email',
  'Telephone',
  'Street',
  'Town',
  'Postal code',
  'Birth date',
  'Language',
  'Tags',
  'Note',
  'Organization',
  'Kind',
  'Name in full',
] as const;

/**
 * Reads an address book of vCards 2.1, 3.0 (RFC 2426) and 4.0 (RFC 6350), mixed as telephones export them, as table
 * rows. Photos, sounds and keys are left out. Several values of one kind stand in one cell, parted by semicolons.
 */
export function readVCards(text: string): {
  headings: string[];
  rows: { line: number; cells: string[] }[];
} {
  const rows: { line: number; cells: string[] }[] = [];
  let card: Line[] | null = null;
  let from = 0;
  for (const { at, text: line } of unfold(text)) {
    if (/^BEGIN:VCARD\s*$/iu.test(line)) {
      // A card that never ended is kept as far as it goes.
      if (card) rows.push({ line: from, cells: cellsOf(card) });
      card = [];
      from = at;
    } else if (/^END:VCARD\s*$/iu.test(line)) {
      if (card) rows.push({ line: from, cells: cellsOf(card) });
      card = null;
    } else if (card) {
      const read = readLine(line);
      if (read) card.push(read);
    }
  }
  if (card) rows.push({ line: from, cells: cellsOf(card) });
  return { headings: [...vCardHeadings], rows };
}

/** Joins folded lines: a line that begins with a blank goes on, and so does quoted-printable that ends with “=”. */
function* unfold(text: string): Generator<{ at: number; text: string }> {
  // Parts are joined once, when the line is whole: joining them one by one takes the square of their number.
  let parts: string[] | null = null;
  let from = 0;
  let quoted = false;
  let at = 0;
  for (const raw of text.split(/\r\n|\n|\r/u)) {
    at += 1;
    const last: string | undefined = parts?.at(-1);
    if (parts && quoted && last?.endsWith('=')) {
      parts[parts.length - 1] = last.slice(0, -1);
      parts.push(raw);
      continue;
    }
    if (parts && /^[ \t]/u.test(raw)) {
      parts.push(raw.slice(1));
      continue;
    }
    if (parts) yield { at: from, text: parts.join('') };
    parts = [raw];
    from = at;
    quoted = /^[^:]*ENCODING=QUOTED-PRINTABLE/iu.test(raw) || /^[^:]*;QUOTED-PRINTABLE/iu.test(raw);
  }
  if (parts) yield { at: from, text: parts.join('') };
}

/** The most parameters of a line, and values of one, that are looked at. */
const mostParameters = 100;
const dropped = new Set(['PHOTO', 'LOGO', 'SOUND', 'KEY']);

function readLine(line: string): Line | null {
  const colon = colonOf(line);
  if (colon < 1) return null;
  const [full = '', ...rest] = line.slice(0, colon).split(';');
  const name = full.slice(full.lastIndexOf('.') + 1).toUpperCase();
  if (dropped.has(name)) return null;
  const parameters = new Map<string, string[]>();
  for (const part of rest.slice(0, mostParameters)) {
    const equals = part.indexOf('=');
    const key = equals < 0 ? 'TYPE' : part.slice(0, equals).toUpperCase();
    const values = (equals < 0 ? part : part.slice(equals + 1)).replaceAll('"', '').toLowerCase().split(',');
    const known = parameters.get(key);
    if (known) known.push(...values.slice(0, mostParameters));
    else parameters.set(key, values.slice(0, mostParameters));
  }
  let value = line.slice(colon + 1);
  const isQuoted =
    parameters.get('ENCODING')?.includes('quoted-printable') ||
    parameters.get('TYPE')?.includes('quoted-printable');
  if (isQuoted) value = unquote(value, parameters.get('CHARSET')?.[0] ?? 'utf-8');
  return { name, parameters, value };
}

/** The colon before the value; one inside a quoted parameter is not it. */
function colonOf(line: string): number {
  let inQuotes = false;
  for (let at = 0; at < line.length; at += 1) {
    if (line[at] === '"') inQuotes = !inQuotes;
    else if (line[at] === ':' && !inQuotes) return at;
  }
  return -1;
}

/** Reads quoted-printable (RFC 2045 section 6.7) in its character set. */
function unquote(text: string, charset: string): string {
  const bytes: number[] = [];
  const encoder = new TextEncoder();
  for (let at = 0; at < text.length; at += 1) {
    const hex = text[at] === '=' ? /^[0-9a-f]{2}/iu.exec(text.slice(at + 1, at + 3))?.[0] : undefined;
    if (hex) {
      bytes.push(Number.parseInt(hex, 16));
      at += 2;
    } else bytes.push(...encoder.encode(text[at]));
  }
  try {
    return new TextDecoder(charset).decode(new Uint8Array(bytes));
  } catch {
    return new TextDecoder().decode(new Uint8Array(bytes));
  }
}

/** Parts a structured value at semicolons that are not escaped, and reads the escapes. */
const partsOf = (value: string): string[] =>
  // A semicolon after an escaped backslash still parts.
  [...value.matchAll(/((?:\\.|[^\\;])*)(?:;|$)/gsu)].map(([, part = '']) =>
    plainText(part).replace(/\s+/gu, ' ').trim(),
  );

const plainText = (value: string): string =>
  value.replace(/\\([nN,;\\:])/gu, (_, c: string) => (c === 'n' || c === 'N' ? '\n' : c));

/** What a telephone or an email is for, as its types say: " (work)". Empty where they say nothing. */
function purposeOf(line: Line): string {
  const types = line.parameters.get('TYPE') ?? [];
  const purpose = types.some((t) => /^(cell|mobile)/u.test(t))
    ? 'mobile'
    : types.includes('work')
      ? 'work'
      : types.includes('home')
        ? 'home'
        : '';
  return purpose && ` (${purpose})`;
}

/** Nobody is called on a fax or a pager. */
const isSpoken = (line: Line): boolean =>
  !line.parameters.get('TYPE')?.some((t) => t === 'fax' || t === 'pager' || t === 'modem');

/** The name by its parts where there are both; else as it is written in full, to be split. */
function nameOf(parts: readonly string[], written: string, organization: boolean) {
  const [family = '', given = '', additional = ''] = parts;
  const whole = written || [given, family].filter(Boolean).join(' ');
  if (organization) return { given: '', family: whole, whole: '' };
  // Telephones put a whole name in the place of the family name, or give no parts at all.
  if (!given && whole.includes(' ')) return { given: '', family: '', whole };
  return family || given
    ? { given: [given, additional].filter(Boolean).join(' '), family, whole: '' }
    : { given: whole, family: '', whole: '' };
}

function cellsOf(lines: readonly Line[]): string[] {
  const all = (name: string) => lines.filter((l) => l.name === name && l.value.trim());
  const one = (name: string) => plainText(all(name)[0]?.value ?? '').trim();
  const parts = partsOf(all('N')[0]?.value ?? '');
  const employer = partsOf(all('ORG')[0]?.value ?? '')[0] ?? '';
  const written = one('FN') || one('NICKNAME');
  // A card of a company often has its name twice, and no person's.
  const organization =
    /^org$/iu.test(one('KIND')) ||
    (employer !== '' && !parts.some(Boolean) && (!written || written === employer));
  const { given, family, whole } = nameOf(parts, written || (organization ? employer : ''), organization);
  const address = partsOf(
    (all('ADR').find((l) => l.parameters.get('TYPE')?.includes('home')) ?? all('ADR')[0])?.value ?? '',
  );
  return [
    one('UID').replace(/^urn:uuid:/iu, ''),
    given,
    family,
    all('EMAIL')
      .map((l) => plainText(l.value).replace(/^mailto:/iu, '') + purposeOf(l))
      .join('; '),
    all('TEL')
      .filter(isSpoken)
      .map((l) => plainText(l.value).replace(/^tel:/iu, '').replace(/;.*$/u, '') + purposeOf(l))
      .join('; '),
    address[2] ?? '',
    [address[3], address[4]].filter(Boolean).join(', '),
    address[5] ?? '',
    birthDay(one('BDAY')),
    one('LANG'),
    all('CATEGORIES')
      .map((l) => plainText(l.value))
      .join(','),
    all('NOTE')
      .map((l) => plainText(l.value).trim())
      .join('\n'),
    organization ? '' : employer,
    organization ? 'organization' : '',
    whole,
  ];
}

/** A birth date as year-month-day where it is whole: 4.0 writes 19940226, and --0226 without the year. */
function birthDay(value: string): string {
  const whole = /^(\d{4})-?(\d{2})-?(\d{2})/u.exec(value);
  return whole ? `${whole[1]}-${whole[2]}-${whole[3]}` : value.startsWith('--') ? '' : value;
}
