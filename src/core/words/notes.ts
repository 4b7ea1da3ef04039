import { fillIn, type Params, type Said } from './filling.ts';
import { duesEn, notesEn } from './notes.en.ts';

export type NoteCode = keyof typeof notesEn;
export type DueCode = keyof typeof duesEn;

/** A remark beside an event in words: what it says, and what its button says where it has one. */
export function sayNote(
  code: NoteCode,
  params: Params = {},
): { headline: string; text: string; action: string } {
  const { headline, text, action } = notesEn[code];
  return { headline: fillIn(headline, params, 'en'), text: fillIn(text, params, 'en'), action };
}

export const sayDue = ({ code, params = {} }: Said<DueCode>): string => fillIn(duesEn[code], params, 'en');
