import { foldLine } from './calendar.ts';

/** What a card says. */
export interface Card {
  uid: string;
  kind: 'person' | 'organization';
  given: string;
  family: string;
  emails: readonly string[];
  /** E.164. */
  phones: readonly string[];
  /** What emails and telephones are for, by address or number: mobile, home, work or other. */
  kinds: Readonly<Record<string, string>>;
  street: string | null;
  postalCode: string | null;
  birthDate: string | null;
  language: string;
  tags: readonly string[];
  notes: readonly string[];
  /** Where they work. */
  organization: string | null;
}

const escaped = (text: string): string =>
  text
    .replaceAll('\\', '\\\\')
    .replaceAll(';', '\\;')
    .replaceAll(',', '\\,')
    .replace(/\r\n|[\r\n\u0085\u2028\u2029]/gu, '\\n');

/** RFC 6350 sections 5.6 and 6.4.1 know home, work and cell; there is no word for anything else. */
const typeOf = (kind: string | undefined): string =>
  kind === 'mobile' ? ';TYPE=cell' : kind === 'home' || kind === 'work' ? `;TYPE=${kind}` : '';

/** Writes an address book of vCards 4.0 (RFC 6350), folded at 75 octets. */
export function writeVCards(cards: readonly Card[], revised: string): string {
  const lines = cards.flatMap((c) => [
    'BEGIN:VCARD',
    'VERSION:4.0',
    `UID:urn:uuid:${c.uid}`,
    ...(c.kind === 'organization' ? ['KIND:org'] : []),
    `FN:${escaped(`${c.given} ${c.family}`.trim())}`,
    `N:${escaped(c.family)};${escaped(c.given)};;;`,
    ...c.emails.map((e) => `EMAIL${typeOf(c.kinds[e])}:${escaped(e)}`),
    ...c.phones.map((p) => `TEL${typeOf(c.kinds[p])};VALUE=uri:tel:${p}`),
    ...(c.street || c.postalCode
      ? [`ADR:;;${escaped(c.street ?? '')};;;${escaped(c.postalCode ?? '')};`]
      : []),
    ...(c.birthDate ? [`BDAY:${c.birthDate.replaceAll('-', '')}`] : []),
    ...(c.organization ? [`ORG:${escaped(c.organization)}`] : []),
    `LANG:${c.language}`,
    ...(c.tags.length ? [`CATEGORIES:${c.tags.map(escaped).join(',')}`] : []),
    ...(c.notes.length ? [`NOTE:${escaped(c.notes.join('\n'))}`] : []),
    `REV:${revised.replace(/[-:]|\.\d+/gu, '')}`,
    'END:VCARD',
  ]);
  return lines.length ? `${lines.map(foldLine).join('\r\n')}\r\n` : '';
}
