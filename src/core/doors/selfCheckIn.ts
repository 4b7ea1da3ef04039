import { fold } from '#core/contacts/names.ts';
import { emailKey } from '#core/contacts/reach.ts';

/** Somebody with a seat, with what they can be known by. */
export interface Findable {
  registrationId: string;
  given: string;
  family: string;
  emails: readonly string[];
  phones: readonly string[];
}

/** What somebody types who says that they are here: their name, and an email address or the last digits of a telephone. */
export interface SaidHere {
  given: string;
  family: string;
  /** An email address, or at least four last digits. */
  known: string;
}

/** The fewest last digits of a telephone that tell somebody apart. */
const fewestDigits = 4;

/** True where what was typed is enough to look for somebody: nobody is looked for by name alone. */
export const canBeLookedFor = ({ given, family, known }: SaidHere): boolean =>
  fold(`${given} ${family}`).trim() !== '' &&
  (known.includes('@') || known.replaceAll(/\D/gu, '').length >= fewestDigits);

/**
 * Whoever says that they are here, among those who have a seat: by the name and by what only they and who knows them can say. Two who fit are
 * nobody: the door tells them apart.
 */
export function findHere<P extends Findable>(people: readonly P[], said: SaidHere): P | null {
  if (!canBeLookedFor(said)) return null;
  const name = fold(`${said.given} ${said.family}`).trim();
  const email = said.known.includes('@') ? emailKey(said.known) : null;
  const digits = said.known.replaceAll(/\D/gu, '');
  const fits = people.filter(
    (p) =>
      fold(`${p.given} ${p.family}`).trim() === name &&
      (email !== null
        ? p.emails.some((e) => emailKey(e) === email)
        : p.phones.some((phone) => phone.replaceAll(/\D/gu, '').endsWith(digits))),
  );
  return fits.length === 1 ? fits[0]! : null;
}
