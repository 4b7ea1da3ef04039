import { fillIn, type Said } from './filling.ts';
import { verdictsEn } from './verdicts.en.ts';

export type VerdictCode = keyof typeof verdictsEn;

/** A line of what the door is told. */
export const sayVerdict = ({ code, params = {} }: Said<VerdictCode>): string =>
  fillIn(verdictsEn[code], params, 'en');
