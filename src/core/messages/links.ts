/** The personal links and codes a message may carry, each with where it leads and what stands in its place for everybody else. */
export const linkPaths = {
  manage: { path: '/m/', words: 'link to their booking' },
  invited: { path: '/i/', words: 'link to their invitation' },
  seat: { path: '/g/', words: 'link to their seat' },
  crew: { path: '/crew/', words: 'link to their shifts' },
  survey: { path: '/s/', words: 'link to their survey' },
  receipt: { path: '/receipt/', words: 'link to their receipt' },
  gift: { path: '/gift/', words: 'link to their gift' },
  pledge: { path: '/pledge/', words: 'link to their monthly gift' },
  own: { path: '/own/', words: 'link to their own page' },
  invitation: { path: '/invitation/', words: 'link of the invitation' },
  reset: { path: '/reset/', words: 'link to a new password' },
  'sign in': { path: '/mine/in/', words: 'link to sign in' },
  code: { path: '', words: 'code' },
} as const;
export type MailedLink = keyof typeof linkPaths;

/**
 * A personal link is as good as a password, so a stored message only holds a mark where it stands, and it is put in as
 * the message leaves. Marks are set in characters of the private use area, which typed text loses.
 */
const [open, close] = ['\uE000', '\uE001'];
const mark = /\uE000([a-z]+(?: [a-z]+)?) ([\da-f-]{36})(#\w+)?\uE001/gu;

/** Text without the characters that marks are made of. */
export const withoutMarks = (text: string): string => text.replace(/[\uE000\uE001]/gu, '');

/** Where a link of a kind to a subject stands. `anchor` is a part of the page, like `#waivers`. */
export const linkMark = (kind: MailedLink, subjectId: string, anchor = ''): string =>
  `${open}${kind} ${subjectId}${anchor}${close}`;

/** The links a text asks for. */
export const marksIn = (text: string): { kind: MailedLink; subjectId: string }[] =>
  [...text.matchAll(mark)].flatMap(([, kind, subjectId]) =>
    kind! in linkPaths ? [{ kind: kind as MailedLink, subjectId: subjectId! }] : [],
  );

/** The text as it leaves, with the address of every link. */
export const fillMarks = (text: string, addressOf: (kind: MailedLink, subjectId: string) => string): string =>
  text.replace(mark, (_, kind: string, subjectId: string, anchor = '') =>
    kind in linkPaths ? `${addressOf(kind as MailedLink, subjectId)}${anchor}` : '',
  );

const address = new RegExp(
  `(?:https?://[^\\s/]+)?(${Object.values(linkPaths)
    .map((l) => l.path)
    .filter(Boolean)
    .join('|')})[\\w-]{20,}(?:#\\w+)?`,
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
