/** What a certificate of attendance says, in English and French. */
export const certificateWords = {
  en: {
    title: 'Certificate of attendance',
    says: 'This is to certify that',
    attended: 'attended',
    minutes: 'Present for {{hours}} of {{of}}.',
    given: 'Given on {{date}} by {{organization}}.',
    number: 'Number {{number}}',
    signed: 'For {{organization}}',
  },
  fr: {
    title: 'Attestation de présence',
    says: 'Nous attestons que',
    attended: 'a assisté à',
    minutes: 'Temps de présence : {{hours}} sur {{of}}.',
    given: 'Fait le {{date}} par {{organization}}.',
    number: 'Numéro {{number}}',
    signed: 'Pour {{organization}}',
  },
} as const;

/** Minutes as hours and minutes, "1 h 05 min". */
export const sayHours = (minutes: number): string => {
  const [hours, rest] = [Math.floor(minutes / 60), minutes % 60];
  return [hours && `${hours} h`, (rest || !hours) && `${hours ? String(rest).padStart(2, '0') : rest} min`]
    .filter(Boolean)
    .join(' ');
};
