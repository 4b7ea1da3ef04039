import { chakra } from '@chakra-ui/react';
import { Fragment, type ReactNode } from 'react';
import type { Block, Doc, Inline, Mark } from '#core/text/types.ts';

const Text = chakra('div', {
  base: {
    margin: '14px 0',
    overflowWrap: 'anywhere',
    '& p': { margin: '0 0 12px' },
    '& h2, & h3': { margin: '20px 0 6px' },
    '& ul, & ol': { margin: '0 0 12px', paddingLeft: '22px' },
    '& ul': { listStyleType: 'disc' },
    '& li p': { margin: 0 },
    '& blockquote': { margin: '0 0 12px', paddingLeft: '12px', borderLeft: '2px solid', borderColor: 'rule' },
    '& hr': { border: 0, borderTop: '1px solid', borderColor: 'line', margin: '18px 0' },
    '& table': { borderCollapse: 'collapse', margin: '0 0 12px', display: 'block', overflowX: 'auto' },
    '& th, & td': {
      textAlign: 'left',
      verticalAlign: 'top',
      padding: '5px 14px 5px 0',
      borderBottom: '1px solid',
      borderColor: 'line',
    },
    '& td p, & th p': { margin: 0 },
    '& a': { textDecoration: 'underline', textUnderlineOffset: '2px' },
  },
});
const Framed = chakra('iframe', {
  base: {
    width: '100%',
    aspectRatio: '16 / 9',
    border: '1px solid',
    borderColor: 'line',
    margin: '0 0 12px',
  },
});

/** How a picture of a document is shown, where pictures can be. */
type ShowPicture = (picture: { id: string; alt: string }) => ReactNode;

/** A document as it is read. */
export function DocView({ doc, picture }: { doc: Doc; picture?: ShowPicture }) {
  return <Text>{blocks(doc.content, picture)}</Text>;
}

const blocks = (content: readonly Block[], picture: ShowPicture | undefined): ReactNode =>
  content.map((block, at) => <Fragment key={at}>{show(block, picture)}</Fragment>);

function show(block: Block, picture: ShowPicture | undefined): ReactNode {
  switch (block.type) {
    case 'paragraph':
      return <p>{inlines(block.content)}</p>;
    case 'heading':
      return block.attrs.level === 2 ? <h2>{inlines(block.content)}</h2> : <h3>{inlines(block.content)}</h3>;
    case 'bulletList':
    case 'orderedList': {
      const List = block.type === 'bulletList' ? 'ul' : 'ol';
      return (
        <List>
          {block.content.map((item, at) => (
            <li key={at}>{blocks(item.content, picture)}</li>
          ))}
        </List>
      );
    }
    case 'blockquote':
      return <blockquote>{blocks(block.content, picture)}</blockquote>;
    case 'horizontalRule':
      return <hr />;
    case 'table':
      return (
        <table>
          <tbody>
            {block.content.map((row, at) => (
              <tr key={at}>
                {row.content.map((cell, n) =>
                  cell.type === 'tableHeader' ? (
                    <th key={n}>{blocks(cell.content, picture)}</th>
                  ) : (
                    <td key={n}>{blocks(cell.content, picture)}</td>
                  ),
                )}
              </tr>
            ))}
          </tbody>
        </table>
      );
    case 'picture':
      return picture ? picture(block.attrs) : <p>{block.attrs.alt}</p>;
    case 'embed':
      return (
        <Framed
          src={block.attrs.src}
          title={new URL(block.attrs.src).hostname}
          loading="lazy"
          sandbox="allow-scripts allow-same-origin allow-presentation"
          referrerPolicy="strict-origin-when-cross-origin"
          allowFullScreen
        />
      );
  }
}

const inlines = (content: readonly Inline[] | undefined): ReactNode =>
  (content ?? []).map((node, at) => {
    if (node.type === 'hardBreak') return <br key={at} />;
    return <Fragment key={at}>{marked(node.text, node.marks ?? [])}</Fragment>;
  });

/** Text within its marks, the first of them innermost. */
function marked(inner: ReactNode, [mark, ...others]: readonly Mark[]): ReactNode {
  if (!mark) return inner;
  if (mark.type === 'bold') return marked(<strong>{inner}</strong>, others);
  if (mark.type === 'italic') return marked(<em>{inner}</em>, others);
  return marked(
    <a href={mark.attrs.href} rel="noopener nofollow">
      {inner}
    </a>,
    others,
  );
}
