import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { cleanDoc, docLimits, docOf, picturesIn, plainText, safeAddress, safeEmbed } from './doc.ts';
import { docToHtml } from './html.ts';
import { emptyDoc, isEmptyDoc } from './types.ts';

const text = (words: string, ...marks: object[]) => ({
  type: 'text',
  text: words,
  ...(marks.length ? { marks } : {}),
});
const paragraph = (...content: object[]) => ({ type: 'paragraph', content });
const doc = (...content: unknown[]) => ({ type: 'doc', content });

describe('what a document keeps', () => {
  test('blocks, lists, tables and marks that are known stay as they are', () => {
    const kept = doc(
      { type: 'heading', attrs: { level: 2 }, content: [text('Bring')] },
      {
        type: 'bulletList',
        content: [{ type: 'listItem', content: [paragraph(text('boots', { type: 'bold' }))] }],
      },
      {
        type: 'table',
        content: [
          { type: 'tableRow', content: [{ type: 'tableHeader', content: [paragraph(text('When'))] }] },
          { type: 'tableRow', content: [{ type: 'tableCell', content: [paragraph(text('09:00'))] }] },
        ],
      },
      paragraph(text('write', { type: 'link', attrs: { href: 'mailto:hello@brackenmere.example' } })),
    );
    expect(cleanDoc(kept)).toEqual(kept);
  });

  test('what is unknown goes, and what it says stays', () => {
    const pasted = doc(
      { type: 'script', content: [text('alert(1)')] },
      {
        type: 'section',
        attrs: { style: 'color:red' },
        content: [paragraph(text('Hello', { type: 'fontSize' }))],
      },
      { type: 'iframe', attrs: { src: 'https://evil.example' } },
      { type: 'heading', attrs: { level: 1 }, content: [text('Big')] },
    );
    expect(cleanDoc(pasted)).toEqual(
      doc(paragraph(text('alert(1)')), paragraph(text('Hello')), {
        type: 'heading',
        attrs: { level: 2 },
        content: [text('Big')],
      }),
    );
  });

  test.each([
    ['javascript:alert(1)', null],
    [' JAVASCRIPT:alert(1)', null],
    ['data:text/html,x', null],
    ['//evil.example', null],
    ['https://brackenmere.example/a b', 'https://brackenmere.example/a%20b'],
    ['tel:+19025550100', 'tel:+19025550100'],
    [`https://brackenmere.example/${'x'.repeat(2000)}`, null],
  ])('a link to %s', (href, kept) => {
    expect(safeAddress(href)).toBe(kept);
  });

  test('only sites of the list are shown in frames', () => {
    expect(safeEmbed('https://player.vimeo.com/video/1')).toBe('https://player.vimeo.com/video/1');
    for (const other of [
      'http://player.vimeo.com/video/1',
      'https://player.vimeo.com.evil.example/1',
      'https://evil.example/?https://player.vimeo.com',
      'https://player.vimeo.com@evil.example/',
    ])
      expect(safeEmbed(other)).toBeNull();
    expect(cleanDoc(doc({ type: 'embed', attrs: { src: 'https://evil.example/' } }))).toEqual(emptyDoc);
  });

  test('text beyond the limit is cut, nesting beyond it is flat', () => {
    const long = cleanDoc(
      doc(paragraph(text('x'.repeat(docLimits.characters + 5))), paragraph(text('more'))),
    );
    expect(plainText(long)).toHaveLength(docLimits.characters);
    for (const type of ['blockquote', 'odd', 'paragraph']) {
      let deep: unknown = paragraph(text('deep'));
      for (let n = 0; n < 20_000; n += 1) deep = { type, content: [deep] };
      expect(JSON.stringify(cleanDoc(doc(deep))).length).toBeLessThan(2000);
    }
  });

  test('anything at all comes out clean, and what is clean stays the same', () => {
    fc.assert(
      fc.property(fc.anything(), (value) => {
        const once = cleanDoc(value);
        expect(cleanDoc(once)).toEqual(once);
      }),
    );
    const node = fc.letrec((tie) => ({
      node: fc.record({
        type: fc.constantFrom(
          'paragraph',
          'heading',
          'bulletList',
          'listItem',
          'table',
          'tableRow',
          'tableCell',
          'text',
          'blockquote',
          'odd',
        ),
        text: fc.string(),
        attrs: fc.constantFrom({}, { level: 3 }, { href: 'javascript:1' }),
        content: fc.oneof({ maxDepth: 5 }, fc.constant([]), fc.array(tie('node'), { maxLength: 3 })),
      }),
    })).node;
    fc.assert(
      fc.property(fc.array(node, { maxLength: 4 }), (content) => {
        const once = cleanDoc({ content });
        expect(cleanDoc(once)).toEqual(once);
      }),
    );
  });
});

describe('a document elsewhere', () => {
  test('plain text comes in and goes out by its paragraphs', () => {
    expect(plainText(docOf('Meet at the hut.\nBring boots.\n\nQuestions? Write.'))).toBe(
      'Meet at the hut.\nBring boots.\n\nQuestions? Write.',
    );
    expect(isEmptyDoc(docOf('\n\n'))).toBe(true);
  });

  test('as HTML nothing of it is markup', () => {
    const said = cleanDoc(
      doc(paragraph(text('<b>&"', { type: 'link', attrs: { href: 'https://a.example/?q="><script>' } })), {
        type: 'picture',
        attrs: { id: '019ecb27-2200-7000-a11d-933c256cd4e5', alt: 'a "heron"' },
      }),
    );
    expect(docToHtml(said, (id) => `/p/${id}`)).toBe(
      '<p><a href="https://a.example/?q=%22%3E%3Cscript%3E" rel="noopener nofollow">&lt;b&gt;&amp;&quot;</a></p>' +
        '<img src="/p/019ecb27-2200-7000-a11d-933c256cd4e5" alt="a &quot;heron&quot;">',
    );
    expect(picturesIn(said)).toEqual(['019ecb27-2200-7000-a11d-933c256cd4e5']);
  });
});
