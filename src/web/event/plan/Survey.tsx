import { chakra } from '@chakra-ui/react';
import { Plus, Trash2 } from 'lucide-react';
import type { EventPlan } from '#contract/plan.ts';
import { Button } from '#web/kit/Button.tsx';
import { phrase, term } from '#web/words/phrase.ts';
import { Tick } from '../../kit/Choosing.tsx';
import { ChoiceField, TextField } from '../../kit/Field.tsx';
import { ChoicesField } from './entries.tsx';

type Wrong = Record<string, string>;

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
