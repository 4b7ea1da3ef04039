import type { Language } from '#core/words/language.ts';

interface SignedWords {
  version(title: string, version: number): string;
  event(title: string, when: string): string;
  until(day: string): string;
  eventAlone: string;
  participant(name: string): string;
  signed(typedName: string, of: string | null): string;
  declared: string;
  at(instant: string): string;
  from(address: string | null, device: string): string;
  yes: string;
  no: string;
}

/** The words around a text that was signed. They are hashed with it: what is changed here is said so from then on. */
export const signedWords: Readonly<Record<Language, SignedWords>> = {
  en: {
    version: (title, version) => `${title}, version ${version}`,
    event: (title, when) => `Event: ${title}, ${when}`,
    until: (day) => `Holds until: ${day}`,
    eventAlone: 'Holds for this event',
    participant: (name) => `Participant: ${name}`,
    signed: (typedName, of) => `Signed by typing “${typedName}”${of ? `, as guardian of ${of}` : ''}`,
    declared: 'who declared to be of age and allowed to sign for the participant',
    at: (instant) => `at ${instant}`,
    from: (address, device) =>
      `from ${address ?? 'an address not known'}, on ${device || 'a device not known'}`,
    yes: 'yes',
    no: 'no',
  },
  fr: {
    version: (title, version) => `${title}, version ${version}`,
    event: (title, when) => `Événement\u00a0: ${title}, ${when}`,
    until: (day) => `Valable jusqu’au\u00a0: ${day}`,
    eventAlone: 'Valable pour cet événement',
    participant: (name) => `Participant\u00a0: ${name}`,
    signed: (typedName, of) =>
      `Signé en tapant «\u00a0${typedName}\u00a0»${of ? `, à titre de tuteur ou tutrice de ${of}` : ''}`,
    declared: 'qui a déclaré être majeur et pouvoir signer pour le participant',
    at: (instant) => `le ${instant}`,
    from: (address, device) =>
      `depuis ${address ?? 'une adresse inconnue'}, sur ${device || 'un appareil inconnu'}`,
    yes: 'oui',
    no: 'non',
  },
};
