import { chakra } from '@chakra-ui/react';
import { Plus, Trash2 } from 'lucide-react';
import type { EventPlan, QuestionPlan } from '#contract/events.ts';
import { Button } from '#web/kit/Button.tsx';
import { phrase, term } from '#web/words/phrase.ts';
import { Tick } from '../../kit/Choosing.tsx';
import { ChoiceField, TextField } from '../../kit/Field.tsx';
import { ChoicesField, writeIn } from './entries.tsx';

type Wrong = Record<string, string>;

const kinds = ['text', 'long text', 'yes or no', 'one of', 'several of'] as const;

/** What is asked, once per order or of every attendee. */
export function QuestionsEditor({
  questions,
  set,
  wrong,
}: {
  questions: QuestionPlan[];
  set: (questions: QuestionPlan[]) => void;
  wrong: Wrong;
}) {
  const change = (id: string, part: Partial<QuestionPlan>) =>
    set(questions.map((q) => (q.id === id ? { ...q, ...part } : q)));
  const add = () => {
    const id = crypto.randomUUID();
    writeIn(id);
    set([
      ...questions,
      {
        id,
        offerId: null,
        scope: 'attendee',
        kind: 'text',
        prompt: { en: phrase('event.question') },
        required: false,
        choices: [],
        atDoor: false,
      },
    ]);
  };
  return (
    <>
      {questions.length === 0 && (
        <chakra.p className="soft" fontSize="14px">
          {phrase('event.nothingIsAskedBeyond')}
        </chakra.p>
      )}
      <ul className="lines">
        {questions.map((q, at) => (
          <li key={q.id}>
            <chakra.div
              display="grid"
              gridTemplateColumns={{ base: '1fr 1fr', lg: '2fr 1fr 1fr auto' }}
              gap="0 10px"
              alignItems="start"
            >
              <TextField
                label={phrase('event.question')}
                id={`name-${q.id}`}
                value={q.prompt.en}
                set={(en) => change(q.id, { prompt: { ...q.prompt, en } })}
                error={wrong[`questions.${at}.prompt.en`]}
              />
              <ChoiceField
                label={phrase('event.asked')}
                value={q.scope}
                set={(v) => change(q.id, { scope: v as QuestionPlan['scope'] })}
                choices={[
                  { value: 'order', label: phrase('event.oncePerOrder') },
                  { value: 'attendee', label: phrase('event.ofEverybody') },
                ]}
              />
              <ChoiceField
                label={phrase('event.answer')}
                value={q.kind}
                set={(v) => change(q.id, { kind: v as QuestionPlan['kind'] })}
                choices={kinds.map((k) => ({ value: k, label: term(k) }))}
              />
              <Button
                look="plain"
                marginTop={{ lg: '22px' }}
                onClick={() => set(questions.filter((x) => x.id !== q.id))}
                aria-label={phrase('event.removeQuestion', { en: q.prompt.en })}
              >
                <Trash2 size={15} aria-hidden /> {phrase('common.remove')}
              </Button>
            </chakra.div>
            <div className="pair">
              <TextField
                label={phrase('event.inFrench')}
                value={q.prompt.fr ?? ''}
                set={(fr) => change(q.id, { prompt: { en: q.prompt.en, ...(fr ? { fr } : {}) } })}
              />
              {(q.kind === 'one of' || q.kind === 'several of') && (
                <ChoicesField
                  label={phrase('event.choices')}
                  value={q.choices}
                  set={(choices) => change(q.id, { choices })}
                  error={wrong[`questions.${at}.choices`]}
                />
              )}
            </div>
            <chakra.span display="flex" gap="18px" fontSize="14px">
              <Tick checked={q.required} set={(on) => change(q.id, { required: on })}>
                {phrase('event.required')}
              </Tick>
              <Tick checked={q.atDoor} set={(on) => change(q.id, { atDoor: on })}>
                {phrase('event.shownAtTheDoor')}
              </Tick>
            </chakra.span>
          </li>
        ))}
      </ul>
      <Button look="plain" alignSelf="start" onClick={add}>
        <Plus size={14} aria-hidden /> {phrase('event.askSomething')}
      </Button>
    </>
  );
}

/** What a survey begins with. */
export const surveyToBegin: NonNullable<EventPlan['survey']> = {
  title: { en: 'How was it?', fr: 'Comment était-ce ?' },
  anonymous: false,
  questions: [
    { id: 'liked', kind: 'scale', prompt: 'How did you like it?', choices: [], required: true },
    { id: 'words', kind: 'text', prompt: 'What should we do differently?', choices: [], required: false },
  ],
};

/** The survey after the event. */
export function SurveyEditor({
  survey,
  set,
  wrong,
}: {
  survey: NonNullable<EventPlan['survey']>;
  set: (survey: EventPlan['survey']) => void;
  wrong: Wrong;
}) {
  return (
    <>
      <Tick checked={survey.anonymous} set={(on) => set({ ...survey, anonymous: on })}>
        {phrase('event.anonymousAnswersCannotBe')}
      </Tick>
      <ul className="lines">
        {survey.questions.map((q, at) => {
          const change = (part: Partial<typeof q>) =>
            set({
              ...survey,
              questions: survey.questions.map((x) => (x.id === q.id ? { ...x, ...part } : x)),
            });
          return (
            <chakra.li
              key={q.id}
              display="grid"
              gridTemplateColumns={{ base: '1fr 1fr', lg: '2fr 1fr auto' }}
              gap="0 10px"
            >
              <TextField
                label={phrase('event.question')}
                value={q.prompt}
                set={(prompt) => change({ prompt })}
              />
              <ChoiceField
                label={phrase('event.answer')}
                value={q.kind}
                set={(v) =>
                  change({
                    kind: v as 'text',
                    choices: v === 'one of' ? (q.choices.length ? q.choices : ['yes', 'perhaps', 'no']) : [],
                  })
                }
                choices={[
                  { value: 'scale', label: phrase('event.oneToFive') },
                  { value: 'one of', label: term('one of') },
                  { value: 'text', label: phrase('event.inWords') },
                ]}
              />
              <Button
                look="plain"
                marginTop={{ lg: '22px' }}
                alignSelf="start"
                onClick={() => set({ ...survey, questions: survey.questions.filter((x) => x.id !== q.id) })}
                aria-label={phrase('event.removePrompt', { prompt: q.prompt })}
              >
                <Trash2 size={15} aria-hidden /> {phrase('common.remove')}
              </Button>
              {q.kind === 'one of' && (
                <chakra.div gridColumn="1 / -1" maxWidth="420px">
                  <ChoicesField
                    label={phrase('event.choices')}
                    value={q.choices}
                    set={(choices) => change({ choices })}
                    error={wrong[`survey.questions.${at}.choices`]}
                  />
                </chakra.div>
              )}
            </chakra.li>
          );
        })}
      </ul>
      <Button
        look="plain"
        onClick={() =>
          set({
            ...survey,
            questions: [
              ...survey.questions,
              {
                id: crypto.randomUUID().slice(0, 8),
                kind: 'scale',
                prompt: phrase('event.question'),
                choices: [],
                required: false,
              },
            ],
          })
        }
      >
        <Plus size={14} aria-hidden /> {phrase('event.anotherQuestion')}
      </Button>
    </>
  );
}
