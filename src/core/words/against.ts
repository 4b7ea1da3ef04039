import type { QuietReason } from '#core/contacts/quiet.ts';
import type { Against } from '#core/crew/against.ts';
import { because, sayReason } from './reasons.ts';
import { say, words } from './spoken.ts';

/** What speaks against putting somebody on a shift. */
export const sayAgainst = ({ kind, params }: Pick<Against, 'kind' | 'params'>): string =>
  kind === 'gone' || kind === 'quiet'
    ? sayReason(because(params.why as QuietReason))
    : say(words().against[kind], params);
