import { Fragment, isValidElement, type ReactNode } from 'react';
import type { Param } from '#core/words/filling.ts';
import { type Parts, type PhraseKey, phrase } from './phrase.ts';

/** A phrase with parts of the page in it: a name that can be clicked, a figure in bold. */
export function Phrase<Key extends PhraseKey>({
  of,
  with: parts,
}: {
  of: Key;
  with: Parts<Key, Param | ReactNode>;
}) {
  const nodes: ReactNode[] = [];
  const params: Record<string, Param> = {};
  for (const [name, part] of Object.entries<Param | ReactNode>(parts)) {
    if (isValidElement(part)) params[name] = `\u0001${nodes.push(part) - 1}\u0001`;
    else params[name] = part as Param;
  }
  // Which names a key asks for is known where it is written out, not here.
  return (phrase as (key: PhraseKey, params: Record<string, Param>) => string)(of, params)
    .split('\u0001')
    .map((piece, at) => <Fragment key={at}>{at % 2 ? nodes[Number(piece)] : piece}</Fragment>);
}
