import type { FoundIn } from '#core/crew/finding.ts';
import type { Importance } from '#core/crew/importance.ts';
import type { LineProblem } from '#core/crew/listed.ts';
import { phrase } from '#web/words/phrase.ts';

/** How much a shift matters. */
export const importanceWords: Readonly<Record<Importance, string>> = {
  extra: phrase('crew.is-extra'),
  usual: phrase('crew.is-usual'),
  vital: phrase('crew.is-vital'),
};

/** Why a line of a list is no shift. */
export const lineWords: Readonly<Record<LineProblem, string>> = {
  'no-role': phrase('crew.line-no-role'),
  'no-day': phrase('crew.line-no-day'),
  'no-start': phrase('crew.line-no-start'),
  'no-end': phrase('crew.line-no-end'),
  'no-number': phrase('crew.line-no-number'),
  'least-above': phrase('crew.line-least-above'),
};

/** Where something stands that was looked for. */
export const foundWords: Readonly<Record<FoundIn, string>> = {
  experience: phrase('crew.foundExperience'),
  company: phrase('crew.foundCompany'),
  answer: phrase('crew.foundAnswer'),
  skill: phrase('crew.canDo'),
  served: phrase('crew.foundServed'),
  shirt: phrase('crew.foundShirt'),
  tag: phrase('crew.foundTag'),
  field: phrase('crew.foundField'),
  registration: phrase('crew.foundAnswer'),
};

/** How much somebody wants a role, as they said when they applied. */
export const wishWords: Readonly<Record<number, string>> = {
  1: phrase('crew.wish1'),
  2: phrase('crew.wish2'),
  3: phrase('crew.wish3'),
};
