import type { Block, Doc, Inline } from './types.ts';

const escaped = (text: string): string =>
  text.replace(/[&<>"]/gu, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[c]!);

const inline = (node: Inline): string => {
  if (node.type === 'hardBreak') return '<br>';
  return (node.marks ?? []).reduce(
    (said, mark) =>
      mark.type === 'bold'
        ? `<strong>${said}</strong>`
        : mark.type === 'italic'
          ? `<em>${said}</em>`
          : `<a href="${escaped(mark.attrs.href)}" rel="noopener nofollow">${said}</a>`,
    escaped(node.text),
  );
};

/**
 * A document as HTML, for where no component can show it: the page before any script, mail, archives. Everything from outside is
 * escaped. `picture` gives the address of a picture; without it, its description stands there.
 */
export function docToHtml(doc: Doc, picture?: (id: string) => string): string {
  const block = (node: Block): string => {
    switch (node.type) {
      case 'paragraph':
        return `<p>${(node.content ?? []).map(inline).join('')}</p>`;
      case 'heading':
        return `<h${node.attrs.level}>${(node.content ?? []).map(inline).join('')}</h${node.attrs.level}>`;
      case 'bulletList':
      case 'orderedList': {
        const tag = node.type === 'bulletList' ? 'ul' : 'ol';
        return `<${tag}>${node.content.map((item) => `<li>${blocks(item.content)}</li>`).join('')}</${tag}>`;
      }
      case 'blockquote':
        return `<blockquote>${blocks(node.content)}</blockquote>`;
      case 'horizontalRule':
        return '<hr>';
      case 'table':
        return `<table>${node.content
          .map(
            (row) =>
              `<tr>${row.content
                .map((cell) => {
                  const tag = cell.type === 'tableHeader' ? 'th' : 'td';
                  return `<${tag}>${blocks(cell.content)}</${tag}>`;
                })
                .join('')}</tr>`,
          )
          .join('')}</table>`;
      case 'picture':
        return picture
          ? `<img src="${escaped(picture(node.attrs.id))}" alt="${escaped(node.attrs.alt)}">`
          : `<p>${escaped(node.attrs.alt)}</p>`;
      case 'embed':
        return `<p><a href="${escaped(node.attrs.src)}" rel="noopener nofollow">${escaped(node.attrs.src)}</a></p>`;
    }
  };
  const blocks = (content: readonly Block[]): string => content.map(block).join('');
  return blocks(doc.content);
}
