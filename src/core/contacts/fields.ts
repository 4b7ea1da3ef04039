import { writtenNumber } from '#core/questions/answering.ts';
import { isCalendarDate } from '#core/time/dates.ts';
import { because, type Reason } from '#core/words/reasons.ts';

/** A field an organization added to its contacts. */
export interface FieldRule {
  kind: 'text' | 'number' | 'date' | 'yes or no' | 'one of';
  choices: readonly string[];
}

/** The same with what it is known by. */
export interface OwnField extends FieldRule {
  id: string;
  name: string;
}

/**
 * Reads what somebody typed into a field of one's own as it is kept: dates as 2026-07-09, numbers with a point and
 * without blanks, "yes" or "no". Null is empty. Answers what is wrong otherwise.
 */
export function readFieldValue(
  field: FieldRule,
  typed: string,
): { value: string | null } | { wrong: Reason } {
  const text = typed.trim();
  if (!text) return { value: null };
  switch (field.kind) {
    case 'text':
      return text.length > 500 ? { wrong: because('field too long') } : { value: text };
    case 'number': {
      const value = writtenNumber(text);
      return value === null ? { wrong: because('field no number') } : { value };
    }
    case 'date':
      return isCalendarDate(text) ? { value: text } : { wrong: because('field no date') };
    case 'yes or no':
      return text === 'yes' || text === 'no' ? { value: text } : { wrong: because('field no yes or no') };
    case 'one of': {
      const choice = field.choices.find((c) => c.toLowerCase() === text.toLowerCase());
      return choice
        ? { value: choice }
        : { wrong: because('field no choice', { choices: field.choices.join(', ') }) };
    }
  }
}
