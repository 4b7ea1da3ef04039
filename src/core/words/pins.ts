import type { Said } from './filling.ts';
import type { pinsEn } from './pins.en.ts';
import { say, words } from './spoken.ts';

export type PinCode = keyof typeof pinsEn;

/** What stands beside a date of the spine. */
export const sayPin = ({ code, params }: Said<PinCode>): string => say(words().pins[code], params);
