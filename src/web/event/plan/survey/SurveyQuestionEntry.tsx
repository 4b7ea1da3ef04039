import { chakra } from '@chakra-ui/react';
import { Plus, Trash2 } from 'lucide-react';
import type { SurveyQuestionPlan } from '#contract/surveyPlan.ts';
import { hasChoices, surveyKinds } from '#core/surveys/survey.ts';
import { Button } from '#web/kit/Button.tsx';
import { Tick } from '#web/kit/Choosing.tsx';
import { ChoiceField, Group, TextField } from '#web/kit/Field.tsx';
import { kindWords } from '#web/surveys/words.ts';
import { phrase, term } from '#web/words/phrase.ts';
import { BothLanguages, FoldedEntry, numberIn, typedAs } from '../entries.tsx';
import { Moves } from '../ordering.tsx';
import { AnsweredSoFields, canBeSo, soToBegin } from './AnsweredSoFields.tsx';

type Put = (part: Partial<SurveyQuestionPlan>) => void;

/** One question of a survey: a line until it is opened. */
export function SurveyQuestionEntry({
  question: q,
  before,
  anonymous,
  errorAt,
  put,
  remove,
  up,
  down,
}: {
  question: SurveyQuestionPlan;
  /** The questions asked before it, on which it can hang. */
  before: readonly SurveyQuestionPlan[];
  anonymous: boolean;
  /** What is wrong with one of its fields; with any of them, where none is named. */
  errorAt: (field?: string) => string | undefined;
  put: Put;
  remove: () => void;
  up: (() => void) | null;
  down: (() => void) | null;
}) {
  const name = q.prompt.en;
  const parent = before.find((x) => x.id === q.shownIf?.questionId);
  return (
    <FoldedEntry
      name={name}
      line={[
        kindWords[q.kind],
        q.required && term('required'),
        parent && phrase('surveys.ifAnswered', { question: parent.prompt.en }),
        q.follows && !anonymous && phrase('surveys.comesBack'),
        q.goesOn && phrase('surveys.goesOnFrom'),
      ]
        .filter(Boolean)
        .join(' · ')}
      remove={remove}
      wrong={errorAt() !== undefined}
      beside={<Moves name={name} up={up} down={down} />}
    >
      <BothLanguages
        id={`name-${q.id}`}
        label={phrase('surveys.question')}
        value={q.prompt}
        set={(prompt) => put({ prompt })}
        error={errorAt('prompt.en')}
      />
      <BothLanguages label={phrase('surveys.help')} value={q.help} set={(help) => put({ help })} />
      <ChoiceField
        label={phrase('surveys.answer')}
        value={q.kind}
        set={(v) => {
          const kind = v as SurveyQuestionPlan['kind'];
          put({
            kind,
            least: null,
            most: null,
            follows: null,
            choices: hasChoices(kind) ? (q.choices.length ? q.choices : [aChoice(), aChoice()]) : [],
          });
        }}
        error={errorAt('kind')}
        choices={surveyKinds.map((kind) => ({ value: kind, label: kindWords[kind] }))}
      />
      {hasChoices(q.kind) && <Choices question={q} put={put} error={errorAt('choices')} />}
      {(q.kind === 'scale' || q.kind === 'number') && <Ends question={q} put={put} error={errorAt('most')} />}
      {(q.kind === 'scale' || q.kind === 'recommend') && (
        <>
          <BothLanguages label={phrase('surveys.lowEnd')} value={q.low} set={(low) => put({ low })} />
          <BothLanguages label={phrase('surveys.highEnd')} value={q.high} set={(high) => put({ high })} />
        </>
      )}
      <Condition question={q} before={before} put={put} error={errorAt('shownIf')} />
      {!anonymous && canBeSo(q) && (
        <>
          <ChoiceField
            label={phrase('surveys.follows')}
            help={phrase('surveys.followsHelp')}
            value={q.follows ? 'yes' : ''}
            set={(v) => put({ follows: v ? soToBegin(q) : null })}
            error={errorAt('follows')}
            empty={phrase('surveys.followsNever')}
            choices={[{ value: 'yes', label: phrase('surveys.followsIf') }]}
          />
          {q.follows && (
            <AnsweredSoFields question={q} value={q.follows} set={(follows) => put({ follows })} />
          )}
        </>
      )}
      <Tick checked={q.required} set={(required) => put({ required })}>
        {phrase('surveys.required')}
      </Tick>
    </FoldedEntry>
  );
}

const aChoice = () => ({ id: crypto.randomUUID().slice(0, 8), text: { en: '' } });

/** From where to where a scale or a number goes. */
function Ends({
  question: q,
  put,
  error,
}: {
  question: SurveyQuestionPlan;
  put: Put;
  error: string | undefined;
}) {
  const scale = q.kind === 'scale';
  return (
    <div className="pair">
      <TextField
        label={phrase(scale ? 'surveys.from' : 'surveys.least')}
        type="number"
        value={typedAs(q.least ?? (scale ? 1 : null))}
        set={(v) => put({ least: numberIn(v) })}
      />
      <TextField
        label={phrase(scale ? 'surveys.to' : 'surveys.most')}
        type="number"
        value={typedAs(q.most ?? (scale ? 5 : null))}
        set={(v) => put({ most: numberIn(v) })}
        error={error}
      />
    </div>
  );
}

/** The choices of a question in both languages; each keeps what it is known by, however it is called. */
function Choices({
  question: q,
  put,
  error,
}: {
  question: SurveyQuestionPlan;
  put: Put;
  error: string | undefined;
}) {
  const set = (choices: SurveyQuestionPlan['choices']) => put({ choices });
  return (
    <Group label={phrase('surveys.choices')} error={error}>
      {q.choices.map((choice, at) => (
        <chakra.div
          key={choice.id}
          display="grid"
          gridTemplateColumns="minmax(0, 1fr) minmax(0, 1fr) auto"
          gap="0 8px"
          alignItems="center"
        >
          <TextField
            headed
            label={phrase('surveys.choiceN', { n: at + 1 })}
            value={choice.text.en}
            set={(en) =>
              set(q.choices.map((c) => (c.id === choice.id ? { ...c, text: { ...c.text, en } } : c)))
            }
          />
          <TextField
            headed
            label={phrase('event.labelInFrench', { label: phrase('surveys.choiceN', { n: at + 1 }) })}
            value={choice.text.fr ?? ''}
            set={(fr) =>
              set(
                q.choices.map((c) =>
                  c.id === choice.id ? { ...c, text: { en: c.text.en, ...(fr && { fr }) } } : c,
                ),
              )
            }
          />
          <Button
            look="plain"
            aria-label={phrase('surveys.removeChoice', {
              choice: choice.text.en || phrase('surveys.choiceN', { n: at + 1 }),
            })}
            onClick={() => set(q.choices.filter((c) => c.id !== choice.id))}
          >
            <Trash2 size={15} aria-hidden />
          </Button>
        </chakra.div>
      ))}
      <Button look="plain" onClick={() => set([...q.choices, aChoice()])}>
        <Plus size={14} aria-hidden /> {phrase('surveys.addChoice')}
      </Button>
    </Group>
  );
}

/** By which earlier answer a question is asked. */
function Condition({
  question: q,
  before,
  put,
  error,
}: {
  question: SurveyQuestionPlan;
  before: readonly SurveyQuestionPlan[];
  put: Put;
  error: string | undefined;
}) {
  const possible = before.filter((x) => canBeSo(x) || x.id === q.shownIf?.questionId);
  const parent = before.find((x) => x.id === q.shownIf?.questionId);
  if (!possible.length && !q.shownIf) return null;
  return (
    <>
      <ChoiceField
        label={phrase('surveys.shown')}
        value={q.shownIf?.questionId ?? ''}
        error={error}
        set={(questionId) => {
          const on = before.find((x) => x.id === questionId);
          put({ shownIf: on ? { questionId, ...soToBegin(on) } : null });
        }}
        empty={phrase('surveys.always')}
        choices={possible.map((x) => ({
          value: x.id,
          label: phrase('surveys.whenAnswered', { question: x.prompt.en }),
        }))}
      />
      {parent && q.shownIf && (
        <AnsweredSoFields
          question={parent}
          value={q.shownIf}
          set={(so) => put({ shownIf: { ...so, questionId: parent.id } })}
        />
      )}
    </>
  );
}
