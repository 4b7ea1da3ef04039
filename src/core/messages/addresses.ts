import { docOf } from '#core/text/doc.ts';
import type { Block, Doc, Inline } from '#core/text/types.ts';

/** Addresses of the web in a text; a full stop or a bracket behind one is none of it. */
export const address = /https?:\/\/[^\s<>"{}]+[^\s<>"{}.,;:!?)\]]/gu;

/** The addresses a text leads to, each once. */
export const addressesIn = (text: string): string[] => [...new Set(text.match(address) ?? [])];

/** A text whose addresses lead where they are told to. */
export const ledElsewhere = (text: string, to: (url: string) => string): string =>
  text.replace(address, (url) => to(url));

/** The same formatted: an address that stood as it is stays readable, and leads there too. */
export function docLedElsewhere(text: string, to: (url: string) => string): Doc {
  const parts = (inline: Inline): Inline[] => {
    if (inline.type !== 'text') return [inline];
    const pieces: Inline[] = [];
    let at = 0;
    for (const found of inline.text.matchAll(address)) {
      if (found.index > at) pieces.push({ type: 'text', text: inline.text.slice(at, found.index) });
      pieces.push({
        type: 'text',
        text: found[0].replace(/^https?:\/\//u, ''),
        marks: [{ type: 'link', attrs: { href: to(found[0]) } }],
      });
      at = found.index + found[0].length;
    }
    if (at < inline.text.length) pieces.push({ type: 'text', text: inline.text.slice(at) });
    return pieces;
  };
  const doc = docOf(text);
  return {
    ...doc,
    content: doc.content.map(
      (block): Block =>
        block.type === 'paragraph' ? { ...block, content: (block.content ?? []).flatMap(parts) } : block,
    ),
  };
}
