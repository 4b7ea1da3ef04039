import { docOf, plainText } from '#core/text/doc.ts';
import { type Doc, isEmptyDoc } from '#core/text/types.ts';
import { type Wrong, wrongAt } from '#core/words/problems.ts';
import { type MergeValues, merge, mergeDoc, problemsInDoc, type Taken, wrongIn } from './merge.ts';
import type { TextProblem } from './template.ts';

/** What a message says, in both languages: the plain text is empty where it is made from the formatted one. */
export interface SaidTexts {
  subject: { en: string; fr?: string | undefined };
  /** What a mailbox shows behind the subject. */
  preview: { en: string; fr?: string | undefined };
  body: { en: string; fr?: string | undefined };
  formatted: { en: Doc | null; fr: Doc | null };
}

/** The same to one recipient. */
export interface Said {
  subject: string;
  preview: string;
  body: string;
  /** The same formatted; null where it is plain. */
  formatted: Doc | null;
}

/** What is said to those who read a language: French where there is some, else English. */
export function saidIn({ subject, preview, body, formatted }: SaidTexts, language: 'en' | 'fr'): Said {
  const french = language === 'fr' && Boolean(body.fr?.trim() || formatted.fr);
  const of = (texts: { en: string; fr?: string | undefined }) =>
    language === 'fr' && texts.fr ? texts.fr : texts.en;
  return {
    subject: of(subject),
    preview: of(preview),
    body: french ? (body.fr ?? '') : body.en,
    formatted: french ? formatted.fr : formatted.en,
  };
}

/** Fills what is said in. Throws as `merge` does. */
export function fillSaid(said: Said, values: MergeValues, taken: Taken): Said {
  const formatted = said.formatted && mergeDoc(said.formatted, values, taken);
  return {
    subject: merge(said.subject, values, taken),
    preview: merge(said.preview, values, taken),
    body: said.body ? merge(said.body, values, taken) : plainText(formatted ?? docOf('')),
    formatted,
  };
}

/** What is wrong with a text by mail or text message: nothing written, or something that cannot be filled in. */
export function wrongInSaid(
  said: SaidTexts,
  at: string,
  mail: boolean,
  problemsOf: (text: string) => TextProblem[],
): Wrong[] {
  const parts = mail ? (['subject', 'preview', 'body'] as const) : (['body'] as const);
  const missing = [
    ...(mail && !said.subject.en.trim() ? ['subject'] : []),
    ...(said.body.en.trim() || (mail && said.formatted.en && !isEmptyDoc(said.formatted.en)) ? [] : ['body']),
  ];
  return [
    ...missing.map((part) => wrongAt(`${at}${part}.en`, 'nothing-written')),
    ...(['en', 'fr'] as const).flatMap((language) => [
      ...parts.flatMap((part) => wrongIn(`${at}${part}.${language}`, problemsOf(said[part][language] ?? ''))),
      ...(mail && said.formatted[language]
        ? wrongIn(`${at}body.${language}`, problemsInDoc(said.formatted[language], problemsOf))
        : []),
    ]),
  ];
}
