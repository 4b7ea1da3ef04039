import type { AttributeKey, TextKey } from '#core/contacts/attributes.ts';
import { say, words } from './spoken.ts';

/** What a value of a contact is called in a sentence. */
export const sayAttribute = (key: AttributeKey): string => say(words().attributes[key]);
/** What a line of text of a contact is called: beside its field, before its value, and in a sentence about many. */
export const sayText = (key: TextKey, how: 'label' | 'short' | 'many'): string =>
  say(words().texts[key][how]);
