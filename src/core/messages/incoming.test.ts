import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { isAutomatic, mostOfReply, ownWords, replyAddress, replyTokenIn } from './incoming.ts';

describe('an address for replies', () => {
  const token = `${'0a'.repeat(16)}.${'b1'.repeat(8)}`;
  test('is found again, however it is written', () => {
    const address = replyAddress(token, 'brackenmere.example');
    expect(replyTokenIn(address)).toBe(token);
    expect(replyTokenIn(` <${address.toUpperCase()}>`)).toBe(token);
    // The part before the @ has 64 octets at most (RFC 5321 section 4.5.3.1.1).
    expect(address.split('@')[0]!.length).toBeLessThanOrEqual(64);
  });
  test('nothing else is one', () => {
    for (const other of [
      'events@brackenmere.example',
      `reply+${token.slice(1)}@x.example`,
      `noreply+${token}@x.example`,
      '',
    ])
      expect(replyTokenIn(other)).toBeNull();
  });
});

describe('what a machine wrote', () => {
  test.each([
    [{ 'auto-submitted': 'auto-replied' }, true],
    [{ 'auto-submitted': 'Auto-Generated (away)' }, true],
    [{ 'auto-submitted': 'no' }, false],
    [{ precedence: 'auto_reply' }, true],
    [{ precedence: 'first-class' }, false],
    [{ 'return-path': '<>' }, true],
    [{ 'x-autoreply': 'yes' }, true],
    [{ 'x-autorespond': '' }, true],
    [{}, false],
    [{ subject: 'Out of office' }, false],
  ])('%j: %s', (headers, automatic) => {
    expect(isAutomatic(headers as Record<string, string>)).toBe(automatic);
  });
});

describe('what somebody wrote themselves', () => {
  test.each([
    [
      'Thank you!\n\nOn Thu, 9 Jul 2026 at 09:20, Brackenmere <a@b.example> wrote:\n> Hello Jun',
      'Thank you!',
    ],
    ['Merci !\r\n\r\nLe jeu. 9 juil. 2026 à 09:20, Brackenmere a écrit :\r\n> Bonjour', 'Merci !'],
    ['Yes.\n\n-----Original Message-----\nFrom: us', 'Yes.'],
    ['Below.\n\n> Hello\n> there\n', 'Below.'],
    ['> You asked\nYes, we do.', '> You asked\nYes, we do.'],
    ['> only a quote', '> only a quote'],
    ['On Friday we wrote: nothing', 'On Friday we wrote: nothing'],
    ['', ''],
  ])('%j', (text, own) => {
    expect(ownWords(text)).toBe(own);
  });
  test('is never more than came, and never more than is kept', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 400 }), (text) => {
        expect(text.replace(/\r\n?/gu, '\n')).toContain(ownWords(text));
      }),
    );
    expect(ownWords('a'.repeat(mostOfReply * 3))).toHaveLength(mostOfReply);
  });
});
