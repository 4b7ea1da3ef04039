import type { Block, Cell, Doc, Inline, ListItem, Mark, Row } from './types.ts';

/** What is kept of one document at most: characters of text, blocks in all, blocks within one another. */
export const docLimits = { characters: 20_000, blocks: 2_000, depth: 8 } as const;

/** Sites that may be shown in a frame. Videos and maps come with them; their pages for frames set no cookies of their own. */
export const embedHosts = ['www.youtube-nocookie.com', 'player.vimeo.com', 'www.openstreetmap.org'] as const;

/** An address that a link may lead to, as it is kept; null for any other, such as `javascript:`. */
export function safeAddress(value: unknown): string | null {
  if (typeof value !== 'string' || value.length > 2000) return null;
  const address = value.trim();
  if (/^(?:mailto|tel):[^\s]+$/iu.test(address)) return address;
  try {
    const url = new URL(address);
    return url.protocol === 'https:' || url.protocol === 'http:' ? url.href : null;
  } catch {
    return null;
  }
}

/** An address that may be shown in a frame; null for any other. */
export function safeEmbed(value: unknown): string | null {
  const address = safeAddress(value);
  if (!address?.startsWith('https://')) return null;
  return (embedHosts as readonly string[]).includes(new URL(address).hostname) ? address : null;
}

type Node = Record<string, unknown>;
const nodesIn = (value: unknown): Node[] =>
  Array.isArray(value) ? value.filter((x): x is Node => typeof x === 'object' && x !== null) : [];
const attrsOf = (node: Node): Node =>
  typeof node.attrs === 'object' && node.attrs !== null ? (node.attrs as Node) : {};

/**
 * Keeps of a value what a document may hold, in order; text beyond the limits is cut. What is unknown is let go, what stands
 * within it is kept where it fits. Never throws.
 */
export function cleanDoc(value: unknown): Doc {
  let characters: number = docLimits.characters;
  let blocks: number = docLimits.blocks;

  const marksOf = (node: Node): Mark[] => {
    const marks: Mark[] = [];
    for (const mark of nodesIn(node.marks)) {
      if (marks.some((m) => m.type === mark.type)) continue;
      if (mark.type === 'bold' || mark.type === 'italic') marks.push({ type: mark.type });
      const href = mark.type === 'link' ? safeAddress(attrsOf(mark).href) : null;
      if (href) marks.push({ type: 'link', attrs: { href } });
    }
    return marks;
  };

  const inlines = (value: unknown, depth = 0): Inline[] => {
    if (depth > docLimits.depth) return [];
    return nodesIn(value).flatMap((node): Inline[] => {
      if (node.type === 'hardBreak') return [{ type: 'hardBreak' }];
      if (node.type !== 'text' || typeof node.text !== 'string') return inlines(node.content, depth + 1);
      const text = node.text.replace(/(?!\t)[\p{Cc}\u2028\u2029]/gu, ' ').slice(0, characters);
      characters -= text.length;
      const marks = marksOf(node);
      return text ? [{ type: 'text', text, ...(marks.length ? { marks } : {}) }] : [];
    });
  };

  const within = (value: unknown, depth: number): Block[] => {
    const kept = blocksOf(value, depth + 1);
    return kept.length ? kept : [{ type: 'paragraph' }];
  };

  const rowsOf = (value: unknown, depth: number): Row[] =>
    nodesIn(value)
      .filter((row) => row.type === 'tableRow')
      .map(
        (row): Row => ({
          type: 'tableRow',
          content: nodesIn(row.content)
            .filter((cell) => cell.type === 'tableCell' || cell.type === 'tableHeader')
            .map((cell) => ({ type: cell.type as Cell['type'], content: within(cell.content, depth) })),
        }),
      )
      .filter((row) => row.content.length > 0);

  function blocksOf(value: unknown, depth: number): Block[] {
    if (depth > docLimits.depth) return [];
    return nodesIn(value).flatMap((node): Block[] => {
      blocks -= 1;
      if (blocks < 0) return [];
      const attrs = attrsOf(node);
      switch (node.type) {
        case 'paragraph': {
          const content = inlines(node.content);
          return [content.length ? { type: 'paragraph', content } : { type: 'paragraph' }];
        }
        case 'heading': {
          const content = inlines(node.content);
          return content.length
            ? [{ type: 'heading', attrs: { level: Number(attrs.level) >= 3 ? 3 : 2 }, content }]
            : [];
        }
        case 'bulletList':
        case 'orderedList': {
          const content = nodesIn(node.content)
            .filter((item) => item.type === 'listItem')
            .map((item): ListItem => ({ type: 'listItem', content: within(item.content, depth) }));
          return content.length ? [{ type: node.type, content }] : [];
        }
        case 'blockquote':
          return [{ type: 'blockquote', content: within(node.content, depth) }];
        case 'horizontalRule':
          return [{ type: 'horizontalRule' }];
        case 'table': {
          const content = rowsOf(node.content, depth);
          return content.length ? [{ type: 'table', content }] : [];
        }
        case 'picture':
          return typeof attrs.id === 'string' && /^[\da-f-]{36}$/u.test(attrs.id)
            ? [
                {
                  type: 'picture',
                  attrs: { id: attrs.id, alt: typeof attrs.alt === 'string' ? attrs.alt.slice(0, 300) : '' },
                },
              ]
            : [];
        case 'embed': {
          const src = safeEmbed(attrs.src);
          return src ? [{ type: 'embed', attrs: { src } }] : [];
        }
        default: {
          // Unknown: what it says is kept as a paragraph, what stands in it as it is.
          const said = node.type === 'text' ? inlines([node]) : [];
          return said.length ? [{ type: 'paragraph', content: said }] : blocksOf(node.content, depth + 1);
        }
      }
    });
  }

  const root = typeof value === 'object' && value !== null ? (value as Node) : {};
  const content = blocksOf(root.content, 0);
  // Blank lines at the end are nothing.
  while (content.length && isBlank(content.at(-1)!)) content.pop();
  return { type: 'doc', content };
}

const isBlank = (block: Block): boolean => block.type === 'paragraph' && !block.content?.length;

/** Plain text as a document: blank lines part paragraphs, single ones break lines. */
export const docOf = (text: string): Doc =>
  cleanDoc({
    content: text.split(/\n{2,}/u).map((paragraph) => ({
      type: 'paragraph',
      content: paragraph
        .split('\n')
        .flatMap((line, at) => [...(at ? [{ type: 'hardBreak' }] : []), { type: 'text', text: line }]),
    })),
  });

const wordsOf = (inlines: readonly Inline[] | undefined): string =>
  (inlines ?? []).map((i) => (i.type === 'text' ? i.text : '\n')).join('');

/** A document in which what stands in each line of text is made anew. */
export function withInlines(doc: Doc, anew: (inlines: readonly Inline[]) => Inline[]): Doc {
  const blocks = (content: readonly Block[]): Block[] => content.map(of);
  const of = (block: Block): Block => {
    switch (block.type) {
      case 'paragraph':
      case 'heading':
        return block.content ? { ...block, content: anew(block.content) } : block;
      case 'bulletList':
      case 'orderedList':
        return {
          ...block,
          content: block.content.map((item) => ({ ...item, content: blocks(item.content) })),
        };
      case 'blockquote':
        return { ...block, content: blocks(block.content) };
      case 'table':
        return {
          ...block,
          content: block.content.map((row) => ({
            ...row,
            content: row.content.map((cell) => ({ ...cell, content: blocks(cell.content) })),
          })),
        };
      default:
        return block;
    }
  };
  return { ...doc, content: blocks(doc.content) };
}

/** A document as plain text, a line or more a block: for calendars, search, and what cannot show more. */
export function plainText(doc: Doc): string {
  const lines = (content: readonly Block[]): string[] => content.flatMap(linesOf);
  const linesOf = (block: Block): string[] => {
    switch (block.type) {
      case 'paragraph':
      case 'heading':
        return [wordsOf(block.content)];
      case 'bulletList':
      case 'orderedList':
        return block.content.map(
          (item, at) =>
            `${block.type === 'bulletList' ? '–' : `${at + 1}.`} ${lines(item.content).join(' ')}`,
        );
      case 'blockquote':
        return lines(block.content);
      case 'table':
        return block.content.map((row) =>
          row.content.map((cell) => lines(cell.content).join(' ')).join(', '),
        );
      case 'picture':
        return block.attrs.alt ? [block.attrs.alt] : [];
      case 'embed':
        return [block.attrs.src];
      case 'horizontalRule':
        return [];
    }
  };
  return lines(doc.content).filter(Boolean).join('\n\n');
}

/** The ids of the pictures a document shows. */
export function picturesIn(doc: Doc): string[] {
  const found = (blocks: readonly Block[]): string[] =>
    blocks.flatMap((block): string[] => {
      if (block.type === 'picture') return [block.attrs.id];
      if (block.type === 'blockquote') return found(block.content);
      if (block.type === 'bulletList' || block.type === 'orderedList')
        return block.content.flatMap((item) => found(item.content));
      if (block.type === 'table')
        return block.content.flatMap((row) => row.content.flatMap((cell) => found(cell.content)));
      return [];
    });
  return [...new Set(found(doc.content))];
}
