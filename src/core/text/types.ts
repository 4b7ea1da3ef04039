/**
 * Formatted text as it is kept: a tree of a few kinds of blocks, never markup. What comes from outside goes through
 * `cleanDoc` (doc.ts), which keeps what is known here and nothing else, so that whatever reads a document may trust it.
 */
export interface Doc {
  type: 'doc';
  content: Block[];
}

export type Mark = { type: 'bold' } | { type: 'italic' } | { type: 'link'; attrs: { href: string } };
export type Inline = { type: 'text'; text: string; marks?: Mark[] } | { type: 'hardBreak' };
export interface ListItem {
  type: 'listItem';
  content: Block[];
}
export interface Cell {
  type: 'tableCell' | 'tableHeader';
  content: Block[];
}
export interface Row {
  type: 'tableRow';
  content: Cell[];
}
export type Block =
  | { type: 'paragraph'; content?: Inline[] }
  | { type: 'heading'; attrs: { level: 2 | 3 }; content?: Inline[] }
  | { type: 'bulletList' | 'orderedList'; content: ListItem[] }
  | { type: 'blockquote'; content: Block[] }
  | { type: 'horizontalRule' }
  | { type: 'table'; content: Row[] }
  /** A picture of ours, by its id. */
  | { type: 'picture'; attrs: { id: string; alt: string } }
  /** Something of another site, shown in a frame. */
  | { type: 'embed'; attrs: { src: string } };

export const emptyDoc: Doc = { type: 'doc', content: [] };
export const isEmptyDoc = (doc: Doc): boolean => doc.content.length === 0;
