import type { Hand, WaiverToSign } from '#contract/waivers.ts';
import type { AnswerValue } from '#core/questions/answering.ts';
import type { QuestionWords } from '../questions/QuestionControl.tsx';

/** What is typed and marked to sign something. Answers are by participant, in their order, then by question. */
export interface HandTyped {
  ticked: string[];
  initials: Record<string, string>;
  chosen: Record<string, boolean>;
  declared: boolean;
  typedName: string;
  drawn: string;
  answers: Record<string, AnswerValue>[];
}

export const nothingTyped = (people: number): HandTyped => ({
  ticked: [],
  initials: {},
  chosen: {},
  declared: false,
  typedName: '',
  drawn: '',
  answers: Array.from({ length: people }, () => ({})),
});

/** The same as it is sent, without whom it is for. */
export const handSent = (
  waiver: Pick<WaiverToSign, 'id' | 'version'>,
  { ticked, initials, chosen, declared, typedName, drawn }: HandTyped,
): Hand => ({
  waiverId: waiver.id,
  version: waiver.version,
  ticked,
  initials,
  chosen,
  declared,
  typedName,
  drawn: drawn || null,
});

/** Answers of a participant as they are sent: what was not answered is not there. */
export const answersSent = (typed: HandTyped, at: number): Record<string, AnswerValue> =>
  Object.fromEntries(Object.entries(typed.answers[at] ?? {}).filter(([, value]) => value !== undefined));

/** What a form to sign says around a waiver, in the language of its reader. */
export interface SigningWords extends QuestionWords {
  initials: string;
  /** Over what is asked about somebody. */
  about: (name: string) => string;
  declared: string;
  draw: string;
  drawAgain: string;
}
