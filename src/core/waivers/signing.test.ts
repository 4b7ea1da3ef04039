import { createHash } from 'node:crypto';
import fc from 'fast-check';
import { expect, test } from 'vitest';
import { type ChainLink, findBreaks, firstBefore, linkText } from './chain.ts';
import type { WaiverShown } from './form.ts';
import { answersKept, problemsWithSigning, type Signing, sayAnswers, signedText } from './signing.ts';

const waiver: WaiverShown & { version: number } = {
  title: 'On the water',
  version: 3,
  clauses: [
    { id: 'about', kind: 'read', heading: 'What we do', text: 'We canoe.' },
    { id: 'swim', kind: 'agree', heading: '', text: 'I can swim.' },
    { id: 'risk', kind: 'initials', heading: 'Risk', text: 'I know the risk.' },
    { id: 'photos', kind: 'choice', heading: '', text: 'I may be photographed.' },
  ],
  questions: [
    {
      id: 'call',
      kind: 'text',
      prompt: 'Whom do we call?',
      help: '',
      required: true,
      choices: [],
      least: null,
      most: null,
      health: false,
    },
    {
      id: 'ill',
      kind: 'long text',
      prompt: 'Allergies?',
      help: '',
      required: false,
      choices: [],
      least: null,
      most: null,
      health: true,
    },
  ],
};
const at = { country: 'CA', today: '2026-07-09' };
const child = { name: 'Théo Wren', relation: 'guardian' as const, answers: { call: 'Mai, 555-0101' } };
const signing: Signing = {
  typedName: 'Mai Anh Wren',
  ticked: ['swim'],
  initials: { risk: 'M.W.' },
  chosen: { photos: false },
  declared: true,
  participants: [child],
};
const found = (part: Partial<Signing>, needs: ('self' | 'guardian')[] = ['guardian']) =>
  problemsWithSigning(waiver, { ...signing, ...part }, needs, at).map((w) => `${w.path} ${w.code}`);

test('a signature needs every clause in its way, and a refusal is as good as a yes', () => {
  expect(found({})).toEqual([]);
  expect(found({ ticked: [] })).toEqual(['clauses.1 clause-not-ticked']);
  expect(found({ chosen: {} })).toEqual(['clauses.3 clause-not-chosen']);
  expect(found({ chosen: { photos: true } })).toEqual([]);
  expect(found({ initials: {} })).toEqual(['clauses.2 initials-needed']);
  expect(found({ initials: { risk: 'XY' } })).toEqual(['clauses.2 initials-other']);
  // All the letters or some of them in their order, the first among them; written as one likes.
  for (const written of ['maw', 'M A W', 'mw', 'm. w.', 'ma'])
    expect(found({ initials: { risk: written } }), written).toEqual([]);
  for (const written of ['m', 'aw', 'wm', 'mww', 'mx'])
    expect(found({ initials: { risk: written } }), written).toEqual(['clauses.2 initials-other']);
  for (const written of ['md', 'mn', 'mdn'])
    expect(found({ typedName: 'Mai Delacroix-Nguyen', initials: { risk: written } }), written).toEqual([]);
  expect(found({ typedName: 'Mai' })).toContain('typedName full-name-needed');
});

test('a child is signed for by somebody else, who says they may; whoever is of age signs alone', () => {
  expect(found({ declared: false })).toEqual(['declared declaration-needed']);
  expect(found({ participants: [{ ...child, relation: 'self' }] })).toEqual([
    'relation guardian-has-to-sign',
  ]);
  expect(found({ typedName: 'Théo Wren', initials: { risk: 'TW' } })).toEqual([
    'typedName guardian-own-name',
  ]);
  expect(found({}, ['self'])).toEqual(['relation signs-alone']);
  expect(found({ participants: [{ ...child, relation: 'self' }], declared: false }, ['self'])).toEqual([]);
});

test('each child has answers of its own, and what is missing is said at whose they are', () => {
  const other = { ...child, name: 'Linh Wren', answers: {} };
  expect(found({ participants: [child, other] }, ['guardian', 'guardian'])).toEqual([
    'seats.1.answers.0 answer-needed',
  ]);
  expect(answersKept(waiver.questions, { call: 'Mai', ill: '  ' })).toEqual([
    { prompt: 'Whom do we call?', value: 'Mai', health: false },
  ]);
  expect(sayAnswers(answersKept(waiver.questions, { ill: 'nuts' }))).toEqual(['Allergies? nuts']);
});

test('the text is what was shown and done, and no answer is in it', () => {
  const { participants: _, ...marks } = signing;
  expect(
    signedText(
      waiver,
      { ...marks, participant: child },
      { event: { title: 'Open Water Day', when: '8 August' }, until: '31 October 2026' },
      '2026-07-09T12:00:00.000Z',
      { address: '198.51.100.7', device: 'Firefox' },
    ),
  ).toBe(
    [
      'On the water, version 3',
      'Event: Open Water Day, 8 August',
      'Holds until: 31 October 2026',
      'Participant: Théo Wren',
      '',
      '1. What we do',
      '   We canoe.',
      '2. [x] I can swim.',
      '3. Risk',
      '   [M.W.] I know the risk.',
      '4. [no] I may be photographed.',
      '',
      'Signed by typing “Mai Anh Wren”, as guardian of Théo Wren',
      'who declared to be of age and allowed to sign for the participant',
      'at 2026-07-09T12:00:00.000Z',
      'from 198.51.100.7, on Firefox',
      '',
    ].join('\n'),
  );
  // What was not ticked is kept as not ticked; nothing is said of an event where there is none.
  const alone = signedText(
    waiver,
    { ...marks, ticked: [], chosen: {}, participant: { name: 'Mai Wren', relation: 'self' } },
    { event: null, until: null },
    '2026-07-09T12:00:00.000Z',
    { address: null, device: '' },
    'fr',
  );
  expect(alone).toContain('2. [ ] I can swim.');
  expect(alone).toContain('4. [ ] I may');
  expect(alone).toContain('Valable pour cet événement');
  expect(alone).not.toContain('Événement');
});

const sha = (of: string) => createHash('sha256').update(of).digest('hex');
/** A chain of some texts, as signing makes it. */
function chained(texts: readonly string[]): { links: ChainLink[]; kept: Map<string, string> } {
  let before = firstBefore;
  const links = texts.map((text, n) => {
    const link = { number: n + 1, signatureId: `s${n + 1}`, sha256: sha(text), answersSha256: '', before };
    before = sha(linkText(link));
    return { ...link, hash: before };
  });
  return { links, kept: new Map(texts.map((text, n) => [`s${n + 1}`, text])) };
}

test('the first link of a chain, reckoned by hand', () => {
  const link = { number: 1, signatureId: 's1', sha256: 'aa', answersSha256: '', before: firstBefore };
  expect(linkText(link)).toBe(`${'0'.repeat(64)}\n1\ns1\naa\n`);
});

test('a chain says where it was tampered with, and only there', () => {
  const { links, kept } = chained(['one', 'two', 'three', 'four']);
  const breaks = (l = links, t: ReadonlyMap<string, string | null> = kept) => findBreaks(l, t, sha);
  expect(breaks()).toEqual([]);
  expect(breaks(links, new Map([...kept, ['s2', 'TWO']]))).toEqual([
    { what: 'text changed', number: 2, signatureId: 's2' },
  ]);
  // A text that was changed with its hash no longer fits its link.
  const forged = links.map((l) => (l.number === 2 ? { ...l, sha256: sha('TWO') } : l));
  expect(breaks(forged, new Map([...kept, ['s2', 'TWO']]))).toEqual([{ what: 'link changed', number: 2 }]);
  // One whose hash was reckoned anew no longer fits the next.
  const reckoned = forged.map((l) => (l.number === 2 ? { ...l, hash: sha(linkText(l)) } : l));
  expect(breaks(reckoned, new Map([...kept, ['s2', 'TWO']]))).toEqual([{ what: 'link changed', number: 3 }]);
  expect(breaks(links.filter((l) => l.number !== 2))).toEqual([
    { what: 'link gone', number: 2 },
    { what: 'not linked', number: 5, signatureId: 's2' },
  ]);
  const gone = new Map(kept);
  gone.delete('s3');
  expect(breaks(links, gone)).toEqual([{ what: 'signature gone', number: 3, signatureId: 's3' }]);
  // The end cut off leaves a signature outside.
  expect(breaks(links.slice(0, 3))).toEqual([{ what: 'not linked', number: 4, signatureId: 's4' }]);
});

test('whatever one letter of one text is changed to, it shows', () => {
  fc.assert(
    fc.property(
      fc.array(fc.string({ minLength: 1 }), { minLength: 1, maxLength: 8 }),
      fc.nat(),
      fc.string(),
      (texts, which, other) => {
        const { links, kept } = chained(texts);
        const id = `s${(which % texts.length) + 1}`;
        fc.pre(kept.get(id) !== other);
        expect(findBreaks(links, new Map([...kept, [id, other]]), sha)).toHaveLength(1);
      },
    ),
  );
});
