import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { cleanDoc } from '#core/text/doc.ts';
import { closingOf } from './closing.ts';
import { fillMarks, linkMark } from './links.ts';
import { type Drawn, mailHtml, mailText } from './mailHtml.ts';

const id = '01900000-0000-7000-8000-000000000001';
const mail: Drawn = {
  subject: 'Tomorrow: Open Water Day',
  preview: '',
  body: `Hello Mai,\n\nOpen Water Day is tomorrow.\n\nYour pass: ${linkMark('manage', id)}\n\nBrackenmere`,
  formatted: null,
  closing: '',
  organization: 'Brackenmere Commons',
  language: 'en',
};
const everything = cleanDoc({
  content: [
    { type: 'heading', attrs: { level: 2 }, content: [{ type: 'text', text: 'What to bring' }] },
    {
      type: 'bulletList',
      content: [
        {
          type: 'listItem',
          content: [
            { type: 'paragraph', content: [{ type: 'text', text: 'Boots', marks: [{ type: 'bold' }] }] },
          ],
        },
      ],
    },
    {
      type: 'orderedList',
      content: [
        {
          type: 'listItem',
          content: [
            { type: 'paragraph', content: [{ type: 'text', text: 'Sign in', marks: [{ type: 'italic' }] }] },
          ],
        },
      ],
    },
    { type: 'blockquote', content: [{ type: 'paragraph', content: [{ type: 'text', text: 'Wear a hat' }] }] },
    { type: 'horizontalRule' },
    {
      type: 'table',
      content: [
        {
          type: 'tableRow',
          content: [
            {
              type: 'tableHeader',
              content: [{ type: 'paragraph', content: [{ type: 'text', text: 'When' }] }],
            },
            {
              type: 'tableCell',
              content: [{ type: 'paragraph', content: [{ type: 'text', text: '09:00' }] }],
            },
          ],
        },
      ],
    },
    { type: 'picture', attrs: { id, alt: 'The landing at dawn' } },
    { type: 'embed', attrs: { src: 'https://www.openstreetmap.org/x' } },
    {
      type: 'paragraph',
      content: [
        {
          type: 'text',
          text: 'More',
          marks: [{ type: 'link', attrs: { href: 'https://brackenmere.example/more' } }],
        },
      ],
    },
  ],
});

/** The elements of a mail, each with its attributes as they stand. */
const elements = (html: string) =>
  [...html.replace(/^[\s\S]*<\/head>/u, '').matchAll(/<([a-z]\w*)([^>]*)>/gu)].map(([, tag, rest]) => ({
    tag: tag!,
    rest: rest!,
  }));

describe('a mail as HTML', () => {
  test.each([
    ['plain', mail],
    [
      'formatted',
      { ...mail, formatted: everything, closing: `You get this.\nNo more of these: ${linkMark('out', id)}` },
    ],
  ])('%s: is laid out by tables, has its styles on its elements, and fetches nothing', (_, of) => {
    const html = mailHtml(of);
    for (const { tag, rest } of elements(html)) {
      expect([
        'body',
        'div',
        'table',
        'tr',
        'td',
        'th',
        'p',
        'h2',
        'h3',
        'ul',
        'ol',
        'li',
        'a',
        'strong',
        'em',
        'br',
      ]).toContain(tag);
      // What carries text says how it is set; readers drop what stands in a style sheet.
      if (['p', 'h2', 'h3', 'ul', 'ol', 'li', 'td', 'th', 'a', 'body'].includes(tag))
        expect([tag, rest]).toEqual([tag, expect.stringContaining('style="')]);
      // A table that lays out is none to a screen reader; one that the writer made is.
      if (tag === 'table')
        expect(rest.includes('role="presentation"')).toBe(!rest.includes('border-collapse'));
      expect(rest).not.toMatch(/\b(?:on\w+|src|srcset|background)=/u);
      expect(rest).not.toMatch(/(?:flex|grid|float|position|var\(|calc\()/u);
    }
    expect(html).not.toMatch(/<(?:script|link|img|iframe|form)|url\(|@import/u);
    expect(html).toContain('<html lang="en">');
    expect(html).toContain('content="light dark"');
    expect(html).toContain('prefers-color-scheme: dark');
    // Mailboxes cut off what is longer than 102 kB.
    expect(html.length).toBeLessThan(60_000);
  });

  test('every colour that is light has its dark one', () => {
    const html = mailHtml({ ...mail, formatted: everything });
    const dark = /@media \(prefers-color-scheme: dark\) \{([\s\S]*?)\n\}/u.exec(html)![1]!;
    for (const name of new Set([...html.matchAll(/class="([^"]+)"/gu)].flatMap((m) => m[1]!.split(' '))))
      if (name !== 'a-in') expect(dark).toContain(`.${name} {`);
    for (const { tag, rest } of elements(html)) {
      const coloured = /(?:^|[;"])\s*(?:color|background|border-\w+):[^;]*#/u.test(rest);
      if (coloured && !rest.includes('display:none'))
        expect([tag, rest]).toEqual([tag, expect.stringContaining('class="')]);
    }
  });

  test('a line that leads somewhere is a button of its words; within a sentence the link has words of its own', () => {
    const filled = (body: string, language: 'en' | 'fr' = 'en') =>
      fillMarks(mailHtml({ ...mail, body, language }), () => 'https://brackenmere.example/m/token');
    const button = filled(mail.body);
    expect(button).toContain('>Your pass</a>');
    expect(button).toContain('class="a-button"');
    expect(button).not.toContain('Your pass:');
    const mark = linkMark('manage', id);
    expect(filled(`See ${mark} for more`)).toMatch(/See <a [^>]*>your booking<\/a> for more/u);
    expect(filled(`Voir ${mark} ici`, 'fr')).toMatch(/Voir <a [^>]*>votre réservation<\/a> ici/u);
    expect(filled(`Votre billet\u00A0: ${mark}`, 'fr')).toContain('>Votre billet</a>');
    const long = filled(`Pay by card today, or give the seats of your whole party up: ${mark}`);
    expect(long).not.toContain('class="a-button"');
    expect(long).toContain('>Pay by card today, or give the seats of your whole party up</a>');
    const survey = filled(`Thank you for coming. Three questions: ${mark}`);
    expect(survey).toMatch(/>Thank you for coming\.<\/p>/u);
    expect(survey).toContain('>Three questions</a>');
    expect(filled('Read https://brackenmere.example/a, then come.')).toContain(
      '>brackenmere.example/a</a>, then come.',
    );
    // A code is typed.
    expect(filled(`Your code: ${linkMark('code', id)}`)).not.toContain('class="a-button"');
  });

  test('the preview line is what was written, or the first words behind the greeting', () => {
    expect(mailHtml({ ...mail, preview: 'Bring boots' })).toContain('overflow:hidden;">Bring boots</div>');
    expect(mailHtml(mail)).toContain('overflow:hidden;">Open Water Day is tomorrow.</div>');
  });

  test('the text part ends with the same small print', () => {
    expect(mailText({ body: 'Hello', closing: 'You get this.' })).toBe('Hello\n\n-- \nYou get this.');
    expect(mailText({ body: 'Hello', closing: '' })).toBe('Hello');
  });

  test('nothing that anybody types becomes markup', () => {
    const nasty = fc.oneof(
      fc.string(),
      fc.constantFrom(
        '<script>alert(1)</script>',
        '"><img src=x onerror=alert(1)>',
        'javascript:alert(1)',
        '</style><b>',
        '&lt;',
        '\r\nBcc: x',
      ),
    );
    fc.assert(
      fc.property(nasty, nasty, nasty, nasty, (subject, preview, body, organization) => {
        const html = mailHtml({ ...mail, subject, preview, body, organization });
        expect(html).not.toMatch(/<script|<img|href="(?!https?:)/iu);
        const text = { type: 'text', text: body };
        const made = mailHtml({
          ...mail,
          formatted: cleanDoc({ content: [{ type: 'paragraph', content: [text] }] }),
        });
        expect(made).not.toMatch(/<script|<img|href="(?!https?:)/iu);
      }),
    );
  });
});

test('the small print says why, who, and the way out', () => {
  const sender = { organization: 'Brackenmere Commons', address: '4 Mill Lane, Brackenmere' };
  expect(closingOf({ of: 'line', audience: 'attendees', event: 'Open Water Day' }, sender, null, 'en')).toBe(
    'You get this because you have a seat for Open Water Day, or booked it for somebody.\nBrackenmere Commons, 4 Mill Lane, Brackenmere',
  );
  expect(closingOf({ of: 'mailing', topic: 'newsletter' }, { ...sender, address: '' }, id, 'fr')).toBe(
    `Vous recevez ce courriel parce que vous avez accepté de recevoir nos nouvelles.\nBrackenmere Commons\nNe plus recevoir ces messages\u00A0: ${linkMark('out', id)}`,
  );
});
