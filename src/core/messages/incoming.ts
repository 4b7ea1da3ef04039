/** The address at which a reply to a message is known again: the part behind the plus is its own (RFC 5233). */
export const replyAddress = (token: string, host: string): string => `reply+${token}@${host}`;

/** The token in such an address; null in any other. Some mail services write addresses in small letters. */
export const replyTokenIn = (address: string): string | null =>
  /^<?reply\+([\da-f]{32}\.[\da-f]{16})@/u.exec(address.trim().toLowerCase())?.[1] ?? null;

/** Headers by their names in small letters. */
export type MailHeaders = Readonly<Record<string, string>>;

/**
 * Whether a machine wrote it: somebody is away, or it could not be delivered (RFC 3834 sections 2 and 5, RFC 2076 for what came
 * before it). Nothing answers those by itself, and nobody is asked to.
 */
export function isAutomatic(headers: MailHeaders): boolean {
  const of = (name: string) => (headers[name] ?? '').trim().toLowerCase();
  const submitted = of('auto-submitted');
  return (
    (submitted !== '' && submitted !== 'no') ||
    /^(?:bulk|junk|list|auto_reply)$/u.test(of('precedence')) ||
    of('return-path') === '<>' ||
    'x-autoreply' in headers ||
    'x-autorespond' in headers
  );
}

/** The most of a reply that is kept, in characters. */
export const mostOfReply = 20_000;

/** Where mail programs begin to quote what is replied to. */
const quoteBegins =
  /^\s*(?:On\b.{4,200}\bwrote:|Le\b.{4,200}\ba écrit\s?:|-{2,}\s*(?:Original Message|Message d’origine|Message d'origine)\s*-{2,}|_{10,})\s*$/iu;

/** What somebody wrote themselves: without what they quoted of the message below it. All of it where nothing else is left. */
export function ownWords(text: string): string {
  const lines = text.slice(0, mostOfReply).replace(/\r\n?/gu, '\n').split('\n');
  const begins = lines.findIndex((line) => quoteBegins.test(line));
  let own = begins < 0 ? lines : lines.slice(0, begins);
  // Quoted without a word before it: everything below the last line of their own.
  while (own.length && (own.at(-1)!.trim() === '' || own.at(-1)!.startsWith('>'))) own = own.slice(0, -1);
  return own.join('\n').trim() || lines.join('\n').trim();
}
