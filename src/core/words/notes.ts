import type { Params, Said } from './filling.ts';
import type { duesEn, notesEn } from './notes.en.ts';
import { say, words } from './spoken.ts';

export type NoteCode = keyof typeof notesEn;
export type DueCode = keyof typeof duesEn;

/** A remark beside an event in words: what it says, and what its button says where it has one. */
export function sayNote(code: NoteCode, params?: Params): { headline: string; text: string; action: string } {
  const { headline, text, action } = words().notes[code];
  return { headline: say(headline, params), text: say(text, params), action: say(action, params) };
}

export const sayDue = ({ code, params }: Said<DueCode>): string => say(words().dues[code], params);
