import type { CustomField } from '#contract/fields.ts';
import type { EventPlan, QuestionPlan } from '#contract/plan.ts';
import { isDetail } from '#core/questions/details.ts';
import { questionKinds, readers } from '#core/questions/question.ts';
import { namedAnswers } from '#core/questions/showing.ts';
import { SeveralOf, Tick } from '#web/kit/Choosing.tsx';
import { ChoiceField } from '#web/kit/Field.tsx';
import { phrase, term } from '#web/words/phrase.ts';
import { AnswerLimits } from './AnswerLimits.tsx';
import { detailWords } from './detailWords.ts';
import { BothLanguages, FoldedEntry } from './entries.tsx';
import { Moves } from './ordering.tsx';

type Put = (part: Partial<QuestionPlan>) => void;

const seenByWords = {
  organizers: phrase('questions.organizers'),
  door: phrase('questions.door'),
  'name tag': phrase('questions.nameTag'),
} as const;

/** A condition in one line, as what it hangs on is called. */
function sayShown(question: QuestionPlan, all: readonly QuestionPlan[]): string {
  const parent = all.find((q) => q.id === question.shownIf?.questionId);
  return parent
    ? phrase('questions.shownFor', {
        question: parent.prompt.en,
        answers: question.shownIf!.is.map(sayNamed).join(', '),
      })
    : '';
}

const sayNamed = (name: string): string => (name === 'yes' || name === 'no' ? term(name) : name);

/** One question of a plan: a line until it is opened. */
export function QuestionEntry({
  question: q,
  at,
  plan,
  fields,
  wrong,
  put,
  remove,
  up,
  down,
}: {
  question: QuestionPlan;
  at: number;
  plan: EventPlan;
  fields: readonly CustomField[];
  wrong: Record<string, string>;
  put: Put;
  remove: () => void;
  up: (() => void) | null;
  down: (() => void) | null;
}) {
  const error = (field: string) => wrong[`questions.${at}.${field}`];
  const name = q.prompt.en;
  const offer = plan.offers.find((o) => o.id === q.offerId);
  return (
    <FoldedEntry
      name={name}
      line={[
        phrase(q.scope === 'order' ? 'questions.once' : 'questions.each'),
        term(q.kind),
        q.required && term('required'),
        offer?.name,
        sayShown(q, plan.questions),
      ]
        .filter(Boolean)
        .join(' · ')}
      remove={remove}
      wrong={Object.keys(wrong).some((path) => path.startsWith(`questions.${at}.`))}
      beside={<Moves name={name} up={up} down={down} />}
    >
      <BothLanguages
        id={`name-${q.id}`}
        label={phrase('questions.question')}
        value={q.prompt}
        set={(prompt) => put({ prompt })}
        error={error('prompt.en')}
      />
      <BothLanguages label={phrase('questions.help')} value={q.help} set={(help) => put({ help })} />
      <div className="pair">
        <ChoiceField
          label={phrase('questions.ofWhom')}
          value={q.scope}
          set={(scope) => put({ scope: scope as QuestionPlan['scope'] })}
          error={error('scope')}
          choices={[
            { value: 'order', label: phrase('questions.ofBooker') },
            { value: 'attendee', label: phrase('questions.ofEverybody') },
          ]}
        />
        {q.keeps === null && (
          <ChoiceField
            label={phrase('questions.answer')}
            value={q.kind}
            set={(kind) => put({ kind: kind as QuestionPlan['kind'] })}
            error={error('kind')}
            choices={questionKinds.map((kind) => ({ value: kind, label: term(kind) }))}
          />
        )}
        {plan.offers.length > 1 && (
          <ChoiceField
            label={phrase('questions.forOffer')}
            value={q.offerId ?? ''}
            set={(offerId) => put({ offerId: offerId || null })}
            empty={phrase('questions.everyOffer')}
            choices={plan.offers.map((o) => ({ value: o.id, label: o.name }))}
          />
        )}
        <KeptWhere question={q} put={put} fields={fields} error={error('keeps')} />
      </div>
      {!isDetail(q.keeps) && <AnswerLimits question={q} put={put} error={error} />}
      <Condition question={q} all={plan.questions} put={put} error={error('shownIf')} />
      <ChoiceField
        label={phrase('questions.seenBy')}
        value={q.seenBy}
        set={(seenBy) => put({ seenBy: seenBy as QuestionPlan['seenBy'] })}
        choices={readers.map((reader) => ({ value: reader, label: seenByWords[reader] }))}
      />
      <Tick checked={q.required} set={(required) => put({ required })}>
        {phrase('questions.required')}
      </Tick>
      <Tick checked={q.sensitive} set={(sensitive) => put({ sensitive })}>
        {phrase('questions.sensitive')}
      </Tick>
    </FoldedEntry>
  );
}

/** Whether the answer stays with the event, or is kept in a field of the record; the field decides what answers it takes. */
function KeptWhere({
  question: q,
  put,
  fields,
  error,
}: {
  question: QuestionPlan;
  put: Put;
  fields: readonly CustomField[];
  error: string | undefined;
}) {
  // A detail is what it is: it was added as one.
  if (isDetail(q.keeps))
    return (
      <ChoiceField
        label={phrase('questions.keeps')}
        value={q.keeps}
        set={() => undefined}
        error={error}
        choices={[
          {
            value: q.keeps,
            label: phrase('questions.onRecord', { field: detailWords[q.keeps] }),
          },
        ]}
      />
    );
  if (!fields.length && q.keeps === null) return null;
  return (
    <ChoiceField
      label={phrase('questions.keeps')}
      value={q.keeps ?? ''}
      error={error}
      set={(id) => {
        const field = fields.find((f) => f.id === id);
        put(field ? { keeps: field.id, kind: field.kind, choices: [...field.choices] } : { keeps: null });
      }}
      empty={phrase('questions.withEvent')}
      choices={fields.map((f) => ({ value: f.id, label: phrase('questions.onRecord', { field: f.name }) }))}
    />
  );
}

/** By which earlier answer a question is shown. */
function Condition({
  question: q,
  all,
  put,
  error,
}: {
  question: QuestionPlan;
  all: readonly QuestionPlan[];
  put: Put;
  error: string | undefined;
}) {
  const at = all.findIndex((x) => x.id === q.id);
  const parent = all.find((x) => x.id === q.shownIf?.questionId);
  // What can be named and comes before; and what it hangs on already, so that it can be seen and taken away.
  const possible = all.filter(
    (x, n) =>
      x.id === parent?.id ||
      (n < at && namedAnswers(x).length > 0 && (q.scope === 'attendee' || x.scope === 'order')),
  );
  if (!possible.length && !q.shownIf) return null;
  return (
    <>
      <ChoiceField
        label={phrase('questions.shown')}
        value={q.shownIf?.questionId ?? ''}
        error={error}
        set={(questionId) => {
          const on = all.find((x) => x.id === questionId);
          put({ shownIf: on ? { questionId, is: [...namedAnswers(on)].slice(0, 1) } : null });
        }}
        empty={phrase('questions.always')}
        choices={possible.map((x) => ({
          value: x.id,
          label: phrase('questions.whenAnswered', { question: x.prompt.en }),
        }))}
      />
      {parent && (
        <SeveralOf
          label={phrase('questions.isOneOf')}
          value={q.shownIf!.is}
          set={(is) => put({ shownIf: { questionId: parent.id, is } })}
          choices={namedAnswers(parent).map((name) => ({ value: name, label: sayNamed(name) }))}
        />
      )}
    </>
  );
}
