import { hasChoices, type QuestionKind } from '#core/questions/question.ts';
import { TextField } from '#web/kit/Field.tsx';
import { phrase } from '#web/words/phrase.ts';
import { ChoicesField, numberIn, typedAs } from './entries.tsx';

const limitWords = {
  least: phrase('questions.least'),
  most: phrase('questions.most'),
} as const;

/** What of a question says which answers it takes. */
interface Limited {
  kind: QuestionKind;
  choices: string[];
  least: number | null;
  most: number | null;
}

/** Which answers a question takes, as its kind has them: what can be chosen, or how small and large a number is. */
export function AnswerLimits({
  question: q,
  put,
  error,
}: {
  question: Limited;
  put: (part: Partial<Omit<Limited, 'kind'>>) => void;
  error: (field: string) => string | undefined;
}) {
  if (hasChoices(q.kind))
    return (
      <ChoicesField
        label={phrase('event.choices')}
        value={q.choices}
        set={(choices) => put({ choices })}
        error={error('choices')}
      />
    );
  if (q.kind !== 'number') return null;
  return (
    <div className="pair">
      {(['least', 'most'] as const).map((limit) => (
        <TextField
          key={limit}
          label={limitWords[limit]}
          type="number"
          value={typedAs(q[limit])}
          set={(v) => put({ [limit]: numberIn(v) })}
          error={error(limit)}
        />
      ))}
    </div>
  );
}
