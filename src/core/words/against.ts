import type { againstEn } from './against.en.ts';
import type { Params } from './filling.ts';
import { say, words } from './spoken.ts';

/** What speaks against putting somebody on a shift. */
export const sayAgainst = (code: keyof typeof againstEn, params: Params): string =>
  say(words().against[code], params);
