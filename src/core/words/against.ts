import { againstEn } from './against.en.ts';
import { fillIn, type Params } from './filling.ts';

/** What speaks against putting somebody on a shift. */
export const sayAgainst = (code: keyof typeof againstEn, params: Params): string =>
  fillIn(againstEn[code], params, 'en');
