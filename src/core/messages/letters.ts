import { say, words } from '#core/words/spoken.ts';
import { isMergeField } from './merge.ts';
import { fieldsIn, problemsWith, type TextProblem } from './template.ts';
import { type DirectKind, directTexts, notRepliedTo, ownFields } from './texts.ts';

/** The letters that go out by themselves when something happened, and that an organization can write its own way. */
export const letterKinds: readonly DirectKind[] = (Object.keys(directTexts) as DirectKind[]).filter(
  (kind) => !notRepliedTo.includes(kind),
);

/** When a letter goes out. */
export const sayLetter = (kind: DirectKind): string =>
  say((words().letters as Partial<Record<DirectKind, string>>)[kind] ?? kind);

/** What a letter can say: what its first text says, so that it is surely known when it goes out. */
export function fieldsOfLetter(kind: DirectKind): readonly string[] {
  const { subject, body } = directTexts[kind];
  return [...new Set([subject.en, body.en, subject.fr, body.fr].flatMap(fieldsIn))];
}

/** What is wrong with a text of a letter. */
export function problemsInLetter(text: string, kind: DirectKind): TextProblem[] {
  const fields = fieldsOfLetter(kind);
  return problemsWith(
    text,
    (field) => isMergeField(field) || Object.values(ownFields).some((own) => own.includes(field)),
    (field) => fields.includes(field),
  );
}

/** Its link, without which whoever gets it cannot do what it is about; none where it has none. */
export const neededIn = (kind: DirectKind): readonly string[] =>
  fieldsOfLetter(kind).filter(
    (field) => field === 'manage_link' || field === 'invitation_link' || field === 'follow_link',
  );
