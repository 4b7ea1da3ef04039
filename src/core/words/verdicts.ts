import type { Said } from './filling.ts';
import { say, words } from './spoken.ts';
import type { verdictsEn } from './verdicts.en.ts';

export type VerdictCode = keyof typeof verdictsEn;

/** A line of what the door is told. */
export const sayVerdict = ({ code, params }: Said<VerdictCode>): string =>
  say(words().verdicts[code], params);
