import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { fillMarks, hideLinks, linkMark, marksIn, withoutMarks } from './links.ts';
import { merge } from './merge.ts';

const id = '0190a1b2-0000-7000-8000-000000000001';

describe('links in stored messages', () => {
  test('stand as marks, leave as addresses and are words for everybody else', () => {
    const text = `Sign here: ${linkMark('manage', id, '#waivers')}\nShifts: ${linkMark('crew', id)}`;
    expect(marksIn(text)).toEqual([
      { kind: 'manage', subjectId: id },
      { kind: 'crew', subjectId: id },
    ]);
    expect(fillMarks(text, (kind) => `https://t.example/${kind}/tok`)).toBe(
      'Sign here: https://t.example/manage/tok#waivers\nShifts: https://t.example/crew/tok',
    );
    expect(hideLinks(text)).toBe('Sign here: [link to their booking]\nShifts: [link to their shifts]');
  });

  test('a code to sign in stands as a mark too, and nobody else reads it', () => {
    const text = `Your code is ${linkMark('code', id)}, or ${linkMark('sign in', id)}`;
    expect(marksIn(text).map((m) => m.kind)).toEqual(['code', 'sign in']);
    expect(hideLinks(text)).toBe('Your code is [code], or [link to sign in]');
    expect(fillMarks(text, (kind) => (kind === 'code' ? '042 917' : 'https://t.example/in'))).toBe(
      'Your code is 042 917, or https://t.example/in',
    );
  });

  test('a live link that was stored is hidden too, whatever kind', () => {
    const token = 'AbCdEfGhIjKlMnOpQrStUvWxYz0';
    for (const path of ['m', 'crew', 's', 'own', 'invitation', 'reset', 'mine/in'])
      expect(hideLinks(`see http://localhost:4400/${path}/${token} now`)).not.toContain(token);
    expect(hideLinks('http://localhost:4400/e/open-water-day-2026-08-08')).toContain('/e/open-water');
  });

  test('nobody types a mark: templates and values lose what marks are made of', () => {
    const typed = linkMark('invitation', id);
    expect(marksIn(merge(`x ${typed}`, {}))).toEqual([]);
    expect(marksIn(merge('{{name}}', { name: typed }))).toEqual([]);
    expect(marksIn(merge('{{manage_link}}', { manage_link: typed }))).toHaveLength(1);
    fc.assert(fc.property(fc.string(), (text) => marksIn(withoutMarks(text)).length === 0));
  });
});
