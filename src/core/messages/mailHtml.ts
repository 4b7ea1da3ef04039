import { docOf } from '#core/text/doc.ts';
import type { Block, Doc, Inline } from '#core/text/types.ts';
import { address } from './addresses.ts';
import { linkPaths, linksIn, type MailedLink } from './links.ts';

type Language = 'en' | 'fr';

/** A mail as it is drawn. */
export interface Drawn {
  subject: string;
  /** What a mailbox shows behind the subject; the beginning of the text where it is empty. */
  preview: string;
  /** The text without its end. */
  body: string;
  /** The formatted text; null where it is plain. */
  formatted: Doc | null;
  /** The small print: who sends it, why one gets it, the way out. */
  closing: string;
  organization: string;
  language: Language;
}

const colours = {
  paper: '#faf7f1',
  sheet: '#ffffff',
  ink: '#23262d',
  soft: '#62666f',
  rule: '#b9ae9b',
  link: '#1c665f',
  onLink: '#ffffff',
} as const;
const dark = {
  paper: '#1b1c1f',
  sheet: '#232529',
  ink: '#ece8df',
  soft: '#a7a9ae',
  rule: '#5b5f67',
  link: '#6fbdb3',
  onLink: '#12211f',
} as const;
const serif = "Literata, Georgia, 'Times New Roman', serif";
const sans = "'Instrument Sans', Helvetica, Arial, sans-serif";

const escaped = (text: string): string =>
  text.replace(/[&<>"]/gu, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[c]!);

/** A piece of a line: words, or a link with where it leads. `words` are those that stand there, where it has its own. */
type Piece = { text: string } | { href: string; kind: MailedLink | null; words: string };

/** Words with the addresses in them as links. */
const withAddresses = (text: string): Piece[] => {
  const pieces: Piece[] = [];
  let at = 0;
  for (const found of text.matchAll(address)) {
    if (found.index > at) pieces.push({ text: text.slice(at, found.index) });
    pieces.push({ href: found[0], kind: null, words: found[0].replace(/^https?:\/\//u, '') });
    at = found.index + found[0].length;
  }
  if (at < text.length) pieces.push({ text: text.slice(at) });
  return pieces;
};

/** A line of text in its pieces. A code is typed: its mark stands as it is. */
const piecesOf = (text: string, language: Language): Piece[] =>
  linksIn(text).flatMap((part): Piece[] =>
    typeof part === 'string'
      ? withAddresses(part)
      : part.kind === 'code'
        ? [{ text: part.mark }]
        : [{ href: part.mark, kind: part.kind, words: linkPaths[part.kind].said[language] }],
  );

/** The longest label of a button, in characters: what is longer is a link. */
const longestLabel = 34;

/**
 * "Your booking: LINK" as the label and its link, where a line says nothing else: what leads somewhere is pressed, and nobody reads
 * an address.
 */
function labelled(
  pieces: readonly Piece[],
): { before: string; label: string; href: string; kind: MailedLink | null } | null {
  const [words, link, end] = pieces;
  if (!words || !link || !('text' in words) || !('href' in link)) return null;
  if (pieces.length > 3 || (end && !('text' in end && /^\s*\.?\s*$/u.test(end.text)))) return null;
  const whole = /^([\s\S]+?)[\s\u00A0\u202F]*:[\s\u00A0]*$/u.exec(words.text)?.[1]?.trim();
  if (!whole) return null;
  // What was said before, in sentences of its own, is no part of it.
  const [, before = '', label = whole] = /^([\s\S]*[.!?])\s+([^.!?]+)$/u.exec(whole) ?? [];
  return { before, label, href: link.href, kind: link.kind };
}

const link = (href: string, words: string): string =>
  `<a class="a-link" href="${escaped(href)}" style="color:${colours.link};text-decoration:underline;">${words}</a>`;

const drawPieces = (pieces: readonly Piece[]): string =>
  pieces.map((p) => ('text' in p ? escaped(p.text) : link(p.href, escaped(p.words)))).join('');

const textStyle = `margin:0 0 14px;font-family:${sans};font-size:16px;line-height:1.5;color:${colours.ink};`;

/** A button that every mail reader draws: a cell with a colour, its words a link. */
const button = (href: string, label: string): string =>
  `<table role="presentation" cellpadding="0" cellspacing="0" border="0" style="margin:4px 0 18px;"><tr><td class="a-button" bgcolor="${colours.link}" style="background:${colours.link};border-radius:3px;"><a href="${escaped(href)}" class="a-on" style="display:inline-block;padding:11px 18px;font-family:${sans};font-size:16px;font-weight:600;line-height:1.2;color:${colours.onLink};text-decoration:none;">${escaped(label)}</a></td></tr></table>`;

/** Whether a link answers something by itself. */
const isAnswer = (href: string): boolean => /\?a=[^\uE001]+\uE001?$/u.test(href);

/** An answer to be tapped: a link with a rule around it, as wide as a thumb. */
const answerButton = (href: string, label: string): string =>
  `<a class="a-link" href="${escaped(href)}" style="display:inline-block;min-width:18px;margin:6px 2px 0 0;padding:9px 11px;border:1px solid ${colours.link};border-radius:3px;font-weight:600;text-align:center;text-decoration:none;color:${colours.link};">${escaped(label)}</a>`;

/** What stands within the frame of a mail: blocks with their styles on them, since mail readers drop what stands elsewhere. */
function drawBlocks(doc: Doc, language: Language): string {
  const inline = (node: Inline): string => {
    if (node.type === 'hardBreak') return '<br>';
    const to = node.marks?.find((m) => m.type === 'link');
    const drawn = to ? link(to.attrs.href, escaped(node.text)) : drawPieces(piecesOf(node.text, language));
    return (node.marks ?? []).reduce(
      (html, mark) =>
        mark.type === 'bold'
          ? `<strong>${html}</strong>`
          : mark.type === 'italic'
            ? `<em>${html}</em>`
            : html,
      drawn,
    );
  };
  /** A line that says where something is and nothing else; null for any other. */
  const leading = (nodes: readonly Inline[]) =>
    nodes.length === 1 && nodes[0]!.type === 'text' && !nodes[0]!.marks
      ? labelled(piecesOf(nodes[0]!.text, language))
      : null;
  const words = (content: readonly Inline[]): string => {
    const lines: Inline[][] = [[]];
    for (const node of content)
      if (node.type === 'hardBreak') lines.push([]);
      else lines.at(-1)!.push(node);
    let before = false;
    return lines
      .map((nodes, at) => {
        const leads = leading(nodes);
        const answer = leads !== null && isAnswer(leads.href);
        // Answers to one question stand beside each other.
        const apart = at === 0 ? '' : answer && before ? ' ' : '<br>';
        before = answer;
        if (leads && answer) return `${apart}${answerButton(leads.href, leads.label)}`;
        return `${apart}${
          leads
            ? `${leads.before && `${escaped(leads.before)} `}${link(leads.href, escaped(leads.label))}`
            : nodes.map(inline).join('')
        }`;
      })
      .join('');
  };
  const block = (node: Block): string => {
    switch (node.type) {
      case 'paragraph': {
        const leads = leading(node.content ?? []);
        if (leads && leads.label.length <= longestLabel)
          return `${leads.before && `<p class="a-ink" style="${textStyle}">${escaped(leads.before)}</p>`}${button(leads.href, leads.label)}`;
        return `<p class="a-ink" style="${textStyle}">${words(node.content ?? [])}</p>`;
      }
      case 'heading': {
        const size = node.attrs.level === 2 ? 21 : 17;
        return `<h${node.attrs.level} class="a-ink" style="margin:22px 0 8px;font-family:${serif};font-size:${size}px;line-height:1.3;font-weight:600;color:${colours.ink};">${words(node.content ?? [])}</h${node.attrs.level}>`;
      }
      case 'bulletList':
      case 'orderedList': {
        const tag = node.type === 'bulletList' ? 'ul' : 'ol';
        return `<${tag} class="a-ink" style="${textStyle}padding:0 0 0 22px;">${node.content
          .map((item) => `<li style="margin:0 0 4px;">${within(item.content)}</li>`)
          .join('')}</${tag}>`;
      }
      case 'blockquote':
        return `<table role="presentation" width="100%" cellpadding="0" cellspacing="0" border="0" style="margin:0 0 14px;"><tr><td class="a-rule" style="border-left:3px solid ${colours.rule};padding:2px 0 0 14px;">${blocks(node.content)}</td></tr></table>`;
      case 'horizontalRule':
        return `<table role="presentation" width="100%" cellpadding="0" cellspacing="0" border="0" style="margin:8px 0 22px;"><tr><td class="a-rule" style="border-top:1px solid ${colours.rule};font-size:1px;line-height:1px;">&nbsp;</td></tr></table>`;
      case 'table':
        return `<table width="100%" cellpadding="0" cellspacing="0" border="0" style="margin:0 0 16px;border-collapse:collapse;">${node.content
          .map(
            (row) =>
              `<tr>${row.content
                .map((cell) => {
                  const tag = cell.type === 'tableHeader' ? 'th' : 'td';
                  return `<${tag} class="a-ink a-rule" align="left" valign="top" style="padding:6px 10px 6px 0;border-bottom:1px solid ${colours.rule};font-family:${sans};font-size:15px;line-height:1.45;color:${colours.ink};">${within(cell.content)}</${tag}>`;
                })
                .join('')}</tr>`,
          )
          .join('')}</table>`;
      // Pictures are asked for from elsewhere, which tells somebody that it was opened: what one shows is said.
      case 'picture':
        return node.attrs.alt
          ? `<p class="a-soft" style="${textStyle}color:${colours.soft};">${escaped(node.attrs.alt)}</p>`
          : '';
      case 'embed':
        return `<p class="a-ink" style="${textStyle}">${link(node.attrs.src, escaped(node.attrs.src))}</p>`;
    }
  };
  /** Within a cell or an entry of a list a paragraph has no room of its own around it. */
  const within = (content: readonly Block[]): string =>
    content.map((b) => (b.type === 'paragraph' ? words(b.content ?? []) : block(b))).join('<br>');
  const blocks = (content: readonly Block[]): string => content.map(block).join('');
  return blocks(doc.content);
}

/** The first words of a text, as a mailbox shows them: without its greeting, where more follows. */
const beginningOf = (body: string): string => {
  const [first = '', second = ''] = body.split(/\n{2,}/u);
  return (second && first.length < 60 ? second : first)
    .replace(/\s+/gu, ' ')
    .replace(/\uE000[^\uE001]*\uE001/gu, '')
    .slice(0, 140);
};

/**
 * A mail as HTML that mail readers draw alike: tables for the layout, styles on every element, colours for the dark in a style sheet
 * that may be dropped, nothing fetched from elsewhere. Links hold their marks (links.ts).
 */
export function mailHtml({
  subject,
  preview,
  body,
  formatted,
  closing,
  organization,
  language,
}: Drawn): string {
  const inner = drawBlocks(formatted ?? docOf(body), language);
  const small = docOf(closing)
    .content.map((b) =>
      b.type === 'paragraph'
        ? `<p class="a-soft" style="margin:0 0 8px;font-family:${sans};font-size:13px;line-height:1.45;color:${colours.soft};">${(
            b.content ?? []
          )
            .map((node) => {
              if (node.type === 'hardBreak') return '<br>';
              const pieces = piecesOf(node.text, language);
              const leads = labelled(pieces);
              if (!leads) return drawPieces(pieces);
              return `${leads.before && `${escaped(leads.before)} `}${link(leads.href, escaped(leads.label))}`;
            })
            .join('')}</p>`
        : '',
    )
    .join('');
  const darkly = `
@media (prefers-color-scheme: dark) {
  .a-paper { background: ${dark.paper} !important; }
  .a-sheet { background: ${dark.sheet} !important; }
  .a-ink { color: ${dark.ink} !important; }
  .a-soft { color: ${dark.soft} !important; }
  .a-rule { border-color: ${dark.rule} !important; }
  .a-link { color: ${dark.link} !important; }
  .a-button { background: ${dark.link} !important; }
  .a-on { color: ${dark.onLink} !important; }
}
@media (max-width: 480px) { .a-in { padding: 20px 16px 10px !important; } }`;
  return `<!doctype html>
<html lang="${language}">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<meta name="color-scheme" content="light dark">
<meta name="supported-color-schemes" content="light dark">
<title>${escaped(subject)}</title>
<style>${darkly}
</style>
</head>
<body class="a-paper" style="margin:0;padding:0;background:${colours.paper};">
<div style="display:none;max-height:0;overflow:hidden;">${escaped(preview || beginningOf(body))}</div>
<table role="presentation" class="a-paper" width="100%" cellpadding="0" cellspacing="0" border="0" bgcolor="${colours.paper}" style="background:${colours.paper};">
<tr><td align="center" style="padding:18px 8px;">
<table role="presentation" width="100%" cellpadding="0" cellspacing="0" border="0" style="max-width:600px;">
<tr><td class="a-ink" style="padding:0 4px 10px;font-family:${serif};font-size:17px;font-weight:600;color:${colours.ink};">${escaped(organization)}</td></tr>
<tr><td class="a-sheet a-in" bgcolor="${colours.sheet}" style="background:${colours.sheet};padding:26px 28px 12px;">
${inner}
</td></tr>
<tr><td style="padding:14px 4px 0;">${small}</td></tr>
</table>
</td></tr>
</table>
</body>
</html>
`;
}

/** The text part of the same mail. */
export const mailText = ({ body, closing }: Pick<Drawn, 'body' | 'closing'>): string =>
  closing ? `${body}\n\n-- \n${closing}` : body;
