import { withInlines } from '#core/text/doc.ts';
import type { Doc, Inline, Mark } from '#core/text/types.ts';
import type { SaidTexts } from './said.ts';

/** Addresses of the web in a text; a full stop or a bracket behind one is none of it. */
export const address = /https?:\/\/[^\s<>"{}]+[^\s<>"{}.,;:!?)\]]/gu;

/** The addresses a text leads to, each once. */
export const addressesIn = (text: string): string[] => [...new Set(text.match(address) ?? [])];

/** A text whose addresses lead where they are told to. */
export const ledElsewhere = (text: string, to: (url: string) => string): string =>
  text.replace(address, (url) => to(url));

/** The same formatted: an address that stood as it is stays readable, and leads there too; so does what is linked. */
export function docLedElsewhere(doc: Doc, to: (url: string) => string): Doc {
  const parts = (inline: Inline): Inline[] => {
    if (inline.type !== 'text') return [inline];
    if (inline.marks?.some((mark) => mark.type === 'link'))
      return [
        {
          ...inline,
          marks: inline.marks.map((mark) =>
            mark.type === 'link' ? { ...mark, attrs: { href: to(mark.attrs.href) } } : mark,
          ),
        },
      ];
    const piece = (text: string, href?: string): Inline => {
      const marks: Mark[] = [
        ...(inline.marks ?? []),
        ...(href ? [{ type: 'link', attrs: { href } } as const] : []),
      ];
      return { type: 'text', text, ...(marks.length ? { marks } : {}) };
    };
    const pieces: Inline[] = [];
    let at = 0;
    for (const found of inline.text.matchAll(address)) {
      if (found.index > at) pieces.push(piece(inline.text.slice(at, found.index)));
      pieces.push(piece(found[0].replace(/^https?:\/\//u, ''), to(found[0])));
      at = found.index + found[0].length;
    }
    if (at < inline.text.length) pieces.push(piece(inline.text.slice(at)));
    return pieces;
  };
  return withInlines(doc, (inlines) => inlines.flatMap(parts));
}

/** The addresses that a message leads to in either language, each once. */
export function addressesOf({ body, formatted }: SaidTexts): string[] {
  const found = (['en', 'fr'] as const).flatMap((language) => {
    const doc = formatted[language];
    return [...addressesIn(body[language] ?? ''), ...(doc ? addressesInDoc(doc) : [])];
  });
  return [...new Set(found)];
}

function addressesInDoc(doc: Doc): string[] {
  const found: string[] = [];
  docLedElsewhere(doc, (url) => {
    found.push(url);
    return url;
  });
  return found;
}
