import { fillIn, type Said } from './filling.ts';
import { pinsEn } from './pins.en.ts';

export type PinCode = keyof typeof pinsEn;

/** What stands beside a date of the spine. */
export const sayPin = ({ code, params = {} }: Said<PinCode>): string => fillIn(pinsEn[code], params, 'en');
