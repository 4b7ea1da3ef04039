import type { SurveyQuestionPlan } from '#contract/surveyPlan.ts';
import { isFigure, rangeOf } from '#core/surveys/survey.ts';
import { SeveralOf } from '#web/kit/Choosing.tsx';
import { TextField } from '#web/kit/Field.tsx';
import { phrase } from '#web/words/phrase.ts';
import { numberIn, typedAs } from '../entries.tsx';

type So = NonNullable<SurveyQuestionPlan['follows']>;

/** What a condition on a question begins with: its first choice, or the lower end of its figures. */
export const soToBegin = (q: SurveyQuestionPlan): So =>
  isFigure(q.kind)
    ? { is: [], least: null, most: q.kind === 'number' ? 0 : rangeOf(q).least + 1 }
    : { is: q.choices.slice(0, 1).map((c) => c.id), least: null, most: null };

/** True where answers can be named, or lie between figures. */
export const canBeSo = (q: SurveyQuestionPlan): boolean => isFigure(q.kind) || q.choices.length > 0;

/** Which answers to a question are meant. */
export function AnsweredSoFields({
  question: q,
  value,
  set,
}: {
  question: SurveyQuestionPlan;
  value: So;
  set: (value: So) => void;
}) {
  if (!isFigure(q.kind))
    return (
      <SeveralOf
        label={phrase('surveys.isOneOf')}
        value={value.is}
        set={(is) => set({ ...value, is })}
        choices={q.choices.map((c) => ({ value: c.id, label: c.text.en }))}
      />
    );
  return (
    <div className="pair">
      <TextField
        label={phrase('surveys.atLeast')}
        type="number"
        value={typedAs(value.least)}
        set={(v) => set({ ...value, least: numberIn(v) })}
      />
      <TextField
        label={phrase('surveys.atMost')}
        type="number"
        value={typedAs(value.most)}
        set={(v) => set({ ...value, most: numberIn(v) })}
      />
    </div>
  );
}
