import { expect, test } from 'vitest';
import { canBeLookedFor, findHere } from './selfCheckIn.ts';

const person = (registrationId: string, given: string, email: string, phone: string) => ({
  registrationId,
  given,
  family: 'Baptiste',
  emails: [email],
  phones: [phone],
});
const people = [
  person('jun', 'Jun', 'twins@post.example', '+19025550111'),
  person('juno', 'Juno', 'twins@post.example', '+19025550112'),
  person('other jun', 'Jun', 'jun@elsewhere.example', '+19025550113'),
];
const find = (given: string, known: string) =>
  findHere(people, { given, family: 'Baptiste', known })?.registrationId ?? null;

test('somebody is found by their name with what they are known by, however it is written', () => {
  expect(find('Jun', 'twins@post.example')).toBe('jun');
  expect(find(' JUNO ', 'Twins@Post.example ')).toBe('juno');
  expect(find('Jun', '(902) 555-0113')).toBe('other jun');
  expect(find('Jun', '0111')).toBe('jun');
});

test('a name alone finds nobody, nor does what is somebody else’s', () => {
  expect(find('Jun', '')).toBeNull();
  expect(find('Jun', '111')).toBeNull();
  expect(find('Jun', '0112')).toBeNull();
  expect(find('', '0111')).toBeNull();
  expect(canBeLookedFor({ given: '', family: '', known: 'a@b.example' })).toBe(false);
});

test('two who fit are told apart at the door', () => {
  const twice = [...people, person('namesake', 'Jun', 'twins@post.example', '')];
  expect(findHere(twice, { given: 'Jun', family: 'Baptiste', known: 'twins@post.example' })).toBeNull();
});
