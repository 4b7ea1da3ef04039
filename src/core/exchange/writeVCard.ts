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
  text.replaceAll('\\', '\\\\').replaceAll(';', '\\;').replaceAll(',', '\\,').replace(/\r?\n/gu, '\\n');

/** Writes an address book of vCards 4.0 (RFC 6350), folded at 75 octets. */
export function writeVCards(cards: readonly Card[], revised: string): string {
  const lines = cards.flatMap((c) => [
    'BEGIN:VCARD',
    'VERSION:4.0',
    `UID:urn:uuid:${c.uid}`,
    ...(c.kind === 'organization' ? ['KIND:org'] : []),
    `FN:${escaped(`${c.given} ${c.family}`.trim())}`,
    `N:${escaped(c.family)};${escaped(c.given)};;;`,
    ...c.emails.map((e) => `EMAIL:${escaped(e)}`),
    ...c.phones.map((p) => `TEL;VALUE=uri:tel:${p}`),
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
