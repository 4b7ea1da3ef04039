import { phrase, term } from '#web/words/phrase.ts';
import type { SigningWords } from './hand.ts';

/** What a form to sign says on the screens of the team. */
export const signingWords: SigningWords = {
  choose: phrase('questions.choose'),
  yes: term('yes'),
  no: term('no'),
  chooseFile: phrase('questions.chooseFile'),
  remove: phrase('common.remove'),
  initials: phrase('door.initials'),
  about: (name) => phrase('door.aboutNamed', { name }),
  declared: phrase('door.guardianDeclares'),
  draw: phrase('door.draw'),
  drawAgain: phrase('door.drawAgain'),
};
