/**
 * The personal links and codes a message may carry, each with where it leads, what stands in its place for everybody else, and what it is
 * called within a sentence of a mail.
 */
export const linkPaths = {
  manage: {
    path: '/m/',
    words: 'link to their booking',
    said: { en: 'your booking', fr: 'votre réservation' },
  },
  invited: {
    path: '/i/',
    words: 'link to their invitation',
    said: { en: 'your invitation', fr: 'votre invitation' },
  },
  signed: {
    path: '/signed/',
    words: 'link to what they signed',
    said: { en: 'your copy', fr: 'votre copie' },
  },
  seat: { path: '/g/', words: 'link to their seat', said: { en: 'your seat', fr: 'votre place' } },
  crew: { path: '/crew/', words: 'link to their shifts', said: { en: 'your shifts', fr: 'vos quarts' } },
  application: {
    path: '/helping/',
    words: 'link to their application',
    said: { en: 'your application', fr: 'votre candidature' },
  },
  survey: { path: '/s/', words: 'link to their survey', said: { en: 'the survey', fr: 'le sondage' } },
  receipt: {
    path: '/receipt/',
    words: 'link to their receipt',
    said: { en: 'your receipt', fr: 'votre reçu' },
  },
  gift: { path: '/gift/', words: 'link to their gift', said: { en: 'your gift', fr: 'votre don' } },
  pledge: {
    path: '/pledge/',
    words: 'link to their monthly gift',
    said: { en: 'your monthly gift', fr: 'votre don mensuel' },
  },
  own: { path: '/own/', words: 'link to their own page', said: { en: 'your page', fr: 'votre page' } },
  invitation: {
    path: '/invitation/',
    words: 'link of the invitation',
    said: { en: 'your invitation', fr: 'votre invitation' },
  },
  reset: {
    path: '/reset/',
    words: 'link to a new password',
    said: { en: 'a new password', fr: 'un nouveau mot de passe' },
  },
  out: { path: '/out/', words: 'way out', said: { en: 'no more of these', fr: 'ne plus en recevoir' } },
  follow: {
    path: '/follow/',
    words: 'link to follow',
    said: { en: 'keep me posted', fr: 'tenez-moi au courant' },
  },
  'sign in': { path: '/mine/in/', words: 'link to sign in', said: { en: 'sign in', fr: 'vous connecter' } },
  code: { path: '', words: 'code', said: { en: '', fr: '' } },
  // Of the address that replies go to.
  reply: { path: '', words: 'their own', said: { en: '', fr: '' } },
} as const;
export type MailedLink = keyof typeof linkPaths;

/**
 * A personal link is as good as a password, so a stored message only holds a mark where it stands, and it is put in as
 * the message leaves. Marks are set in characters of the private use area, which typed text loses.
 */
const [open, close] = ['\uE000', '\uE001'];
const mark = /\uE000([a-z]+(?: [a-z]+)?) ([\da-f-]{36})([#?][\w=.~%-]+)?\uE001/gu;

/** Text without the characters that marks are made of. */
export const withoutMarks = (text: string): string => text.replace(/[\uE000\uE001]/gu, '');

/** Where a link of a kind to a subject stands. `anchor` is a part of the page, like `#waivers`, or an answer it begins with, like `?a=4`. */
export const linkMark = (kind: MailedLink, subjectId: string, anchor = ''): string =>
  `${open}${kind} ${subjectId}${anchor}${close}`;

/** The links a text asks for. */
export const marksIn = (text: string): { kind: MailedLink; subjectId: string }[] =>
  [...text.matchAll(mark)].flatMap(([, kind, subjectId]) =>
    kind! in linkPaths ? [{ kind: kind as MailedLink, subjectId: subjectId! }] : [],
  );

/** A text in its parts: words, and the marks between them. */
export function linksIn(text: string): (string | { kind: MailedLink; mark: string })[] {
  const parts: (string | { kind: MailedLink; mark: string })[] = [];
  let at = 0;
  for (const found of text.matchAll(mark)) {
    if (found.index > at) parts.push(text.slice(at, found.index));
    if (found[1]! in linkPaths) parts.push({ kind: found[1] as MailedLink, mark: found[0] });
    at = found.index + found[0].length;
  }
  if (at < text.length) parts.push(text.slice(at));
  return parts;
}

/** The text as it leaves, with the address of every link. */
export const fillMarks = (text: string, addressOf: (kind: MailedLink, subjectId: string) => string): string =>
  text.replace(mark, (_, kind: string, subjectId: string, anchor = '') =>
    kind in linkPaths ? `${addressOf(kind as MailedLink, subjectId)}${anchor}` : '',
  );

const address = new RegExp(
  `(?:https?://[^\\s/]+)?(${Object.values(linkPaths)
    .map((l) => l.path)
    .filter(Boolean)
    .join('|')})[\\w-]{20,}(?:[#?][\\w=.~%-]+)?`,
  'gu',
);

/** The text as anybody but its recipient may read it: words where a link stands, also where a live one was stored. */
export const hideLinks = (text: string): string =>
  text
    .replace(mark, (_, kind: string) => (kind in linkPaths ? `[${linkPaths[kind as MailedLink].words}]` : ''))
    .replace(
      address,
      (_, path: string) => `[${Object.values(linkPaths).find((l) => l.path === path)!.words}]`,
    );
