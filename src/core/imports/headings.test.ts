import { describe, expect, test } from 'vitest';
import { readHeading } from './headings.ts';

describe('headings', () => {
  test.each([
    ['Opted out?', 'newsletter refused'],
    ['Unsubscribed', 'newsletter refused'],
    ['No emails', 'newsletter refused'],
    ['Opt-in', 'newsletter'],
    ['Infolettre', 'newsletter'],
    ['Email opt in', 'newsletter'],
    ['Mailing address', 'street'],
    ['Apt.', 'street'],
    ['Address line 2', 'street'],
    ['Province', 'town'],
    ['Code postal', 'postal code'],
    ['Date of birth (dd/mm/yyyy)', 'birth date'],
    ['Last name, first name', 'whole name'],
    ['Participant name', 'whole name'],
    ['Child’s first name', 'given name'],
    ['Courriel', 'email'],
    ['Member since', 'member since'],
    ['Volunteer since', null],
    ['Skill level', null],
    ['First aid expires', null],
    ['Certificate until', null],
    ['Expires', 'member until'],
    ['Event name', null],
    ['Emergency contact (name + phone)', 'emergency phone'],
    ['ICE', 'emergency name'],
    ['Parent / guardian', 'guardian name'],
    ['Mother’s mobile', 'guardian phone'],
    ['Parent email', 'guardian email'],
    ['Spouse email', null],
    ['Teacher', null],
  ] as const)('%s', (heading, meaning) => expect(readHeading(heading).meaning).toBe(meaning));
  test('say what a telephone is for, and how dates are written', () => {
    expect(['Home phone', 'Cell', 'Work tel', 'Phone'].map((h) => readHeading(h).reach)).toEqual([
      'home',
      'mobile',
      'work',
      '',
    ]);
    expect(readHeading('DOB (mm/dd/yyyy)').order).toBe('month first');
    expect(readHeading('Naissance jj/mm/aaaa').order).toBe('day first');
    expect(readHeading('Birthday').order).toBeNull();
  });
  test('what is somebody else’s is known as such', () => {
    for (const heading of ['Emergency phone', 'Parent email', 'Spouse', 'Doctor’s phone'])
      expect(readHeading(heading).ofOthers, heading).toBe(true);
  });
});
