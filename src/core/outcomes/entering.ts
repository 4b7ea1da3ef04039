import { type Wrong, wrongAt } from '#core/words/problems.ts';
import { readAmount } from './amount.ts';
import type { Measure } from './measure.ts';

/** What is entered of one measure, as it was typed. */
export interface Typed {
  measureId: string;
  said?: string | undefined;
  thing?: string | undefined;
}

/** The same, read. */
export interface Entered<M> {
  measure: M;
  value: number | null;
  thing: string;
  said: string;
}

/** Reads what was entered of several measures at once; everything wrong with it, each beside its field. */
export function readEntries<M extends Pick<Measure, 'id' | 'kind' | 'unit' | 'decimals'>>(
  measures: readonly M[],
  entries: readonly Typed[],
): { read: Entered<M>[]; wrong: Wrong[] } {
  const read: Entered<M>[] = [];
  const wrong: Wrong[] = [];
  for (const [at, { measureId, said = '', thing = '' }] of entries.entries()) {
    const measure = measures.find((m) => m.id === measureId);
    if (!measure) wrong.push(wrongAt(`entries.${at}.measureId`, 'measure-not-counted'));
    else if (measure.kind === 'distinct') {
      if (thing) read.push({ measure, value: null, thing, said: '' });
      else wrong.push(wrongAt(`entries.${at}.thing`, 'about-needed'));
    } else {
      const amount = readAmount(said, measure);
      if (amount.wrong) wrong.push(wrongAt(`entries.${at}.said`, amount.wrong.code, amount.wrong.params));
      else read.push({ measure, value: amount.value, thing: '', said });
    }
  }
  return { read, wrong };
}
