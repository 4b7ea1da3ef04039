import { expect, test } from 'vitest';
import { readRule } from './rule.ts';
import { sayRule } from './saying.ts';

// 3 June 2026 is the first Wednesday of its month.
const say = (text: string, language: 'en' | 'fr' = 'en') => {
  const read = readRule(text);
  if ('wrong' in read) throw new Error(text);
  return sayRule(read.rule, '2026-06-03T09:30', language);
};

test.each([
  ['FREQ=MONTHLY;BYDAY=1WE', 'first Wednesday of every month', 'le premier mercredi de chaque mois'],
  [
    'FREQ=MONTHLY;BYDAY=1WE;UNTIL=20270630',
    'first Wednesday of every month until 30 June 2027',
    'le premier mercredi de chaque mois jusqu’au 30 juin 2027',
  ],
  [
    'FREQ=MONTHLY;INTERVAL=2;BYDAY=-1SU',
    'last Sunday of every second month',
    'le dernier dimanche d’un mois sur deux',
  ],
  [
    'FREQ=MONTHLY;BYMONTHDAY=15,-1',
    'day 15 and the last day of every month',
    'le 15 et le dernier jour de chaque mois',
  ],
  ['FREQ=MONTHLY;BYMONTHDAY=1', 'day 1 of every month', 'le 1er de chaque mois'],
  ['FREQ=MONTHLY', 'day 3 of every month', 'le 3 de chaque mois'],
  ['FREQ=WEEKLY', 'every Wednesday', 'chaque mercredi'],
  [
    'FREQ=WEEKLY;BYDAY=MO,TH;COUNT=10',
    'every Monday and Thursday, 10 times',
    'chaque lundi et jeudi, 10 fois',
  ],
  ['FREQ=WEEKLY;COUNT=1', 'every Wednesday, 1 time', 'chaque mercredi, 1 fois'],
  [
    'FREQ=WEEKLY;INTERVAL=2;BYDAY=FR;BYMONTH=3,4,5',
    'every second week on Friday, only in March, April and May',
    'une semaine sur deux, le vendredi, seulement en mars, avril et mai',
  ],
  ['FREQ=DAILY;INTERVAL=3', 'every 3 days', 'tous les 3 jours'],
  ['FREQ=YEARLY', '3 June every year', '3 juin, chaque année'],
  [
    'FREQ=YEARLY;BYMONTH=8;BYDAY=2SA',
    'second Saturday of August every year',
    'le deuxième samedi d’août, chaque année',
  ],
  [
    'FREQ=MONTHLY;BYDAY=MO,TU;BYSETPOS=-1',
    'by the rule FREQ=MONTHLY;BYDAY=MO,TU;BYSETPOS=-1',
    'selon la règle FREQ=MONTHLY;BYDAY=MO,TU;BYSETPOS=-1',
  ],
  ['FREQ=YEARLY;BYDAY=20MO', 'by the rule FREQ=YEARLY;BYDAY=20MO', 'selon la règle FREQ=YEARLY;BYDAY=20MO'],
])('%s', (text, english, french) => {
  expect(say(text)).toBe(english);
  expect(say(text, 'fr')).toBe(french);
});

test('without a rule there are dates chosen one by one', () => {
  expect(sayRule(null, '2026-06-03T09:30', 'en')).toBe('on dates chosen one by one');
});
