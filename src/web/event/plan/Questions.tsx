import { chakra } from '@chakra-ui/react';
import { Plus } from 'lucide-react';
import type { QuestionPlan } from '#contract/plan.ts';
import { asking, type Detail, details, isDetail } from '#core/questions/details.ts';
import { plainQuestion } from '#core/questions/question.ts';
import { Button } from '#web/kit/Button.tsx';
import { Group, TextField } from '#web/kit/Field.tsx';
import { useAsk } from '#web/parts/ask.ts';
import { phrase } from '#web/words/phrase.ts';
import { detailWords } from './detailWords.ts';
import { Entries, writeIn } from './entries.tsx';
import { QuestionEntry } from './QuestionEntry.tsx';
import { QuestionPreview } from './QuestionPreview.tsx';
import { QuestionSets } from './QuestionSets.tsx';
import type { SectionProps } from './section.ts';

/** What a detail is asked for with: its words and its kind; whoever books gives their own address and telephone. */
const askFor = (detail: Detail): QuestionPlan => {
  const { prompt, kind, choices, sensitive } = asking[detail];
  return {
    ...plainQuestion,
    id: crypto.randomUUID(),
    scope: ['phone', 'street', 'postalCode', 'language'].includes(detail) ? 'order' : 'attendee',
    kind,
    choices: [...choices],
    prompt: { ...prompt },
    keeps: detail,
    seenBy: detail === 'dietary' ? 'door' : 'organizers',
    sensitive,
  };
};

/** What is asked of people when they register: details of theirs, and whatever else; with how it looks on a phone. */
export function Questions({ draft: { plan, change, wrong } }: SectionProps) {
  const { questions } = plan;
  const fields = useAsk('GET /api/fields').data ?? [];
  const set = (to: QuestionPlan[]) => change({ questions: to });
  const add = (q: QuestionPlan) => {
    writeIn(q.id);
    set([...questions, q]);
  };
  const move = (at: number, by: number) => {
    const to = [...questions];
    const [one] = to.splice(at, 1);
    to.splice(at + by, 0, one!);
    set(to);
  };
  const missing = details.filter((d) => !questions.some((q) => q.keeps === d));
  return (
    <chakra.div
      display="grid"
      gridTemplateColumns={{ base: 'minmax(0, 1fr)', lg: 'minmax(0, 1fr) 330px' }}
      gap="0 28px"
      alignItems="start"
    >
      <div>
        {questions.length === 0 && <p className="soft">{phrase('questions.empty')}</p>}
        <Entries>
          {questions.map((q, at) => (
            <QuestionEntry
              key={q.id}
              question={q}
              at={at}
              plan={plan}
              fields={fields}
              wrong={wrong}
              put={(part) => set(questions.map((x) => (x.id === q.id ? { ...x, ...part } : x)))}
              remove={() => set(questions.filter((x) => x.id !== q.id))}
              up={at > 0 ? () => move(at, -1) : null}
              down={at < questions.length - 1 ? () => move(at, 1) : null}
            />
          ))}
        </Entries>
        <chakra.div className="acts" marginBottom="10px">
          <Button
            onClick={() =>
              add({ ...plainQuestion, id: crypto.randomUUID(), choices: [], prompt: { en: '' } })
            }
          >
            <Plus size={14} aria-hidden /> {phrase('questions.ask')}
          </Button>
          <QuestionSets questions={questions} add={(more) => set([...questions, ...more])} />
        </chakra.div>
        {missing.length > 0 && (
          <Group label={phrase('questions.details')} help={phrase('questions.detailsHelp')}>
            <div className="acts">
              {missing.map((detail) => (
                <Button key={detail} look="plain" onClick={() => add(askFor(detail))}>
                  <Plus size={14} aria-hidden /> {detailWords[detail]}
                </Button>
              ))}
            </div>
          </Group>
        )}
        <TextField
          label={phrase('questions.namesDays')}
          help={phrase('questions.namesHelp')}
          type="number"
          value={String(plan.namesDays)}
          set={(v) => change({ namesDays: Math.trunc(Number(v)) })}
          error={wrong.namesDays}
        />
        {questions.some((q) => q.sensitive) && (
          <TextField
            label={phrase('questions.forgetDays')}
            help={phrase('questions.forgetHelp')}
            type="number"
            value={String(plan.forgetDays)}
            set={(v) => change({ forgetDays: Math.trunc(Number(v)) })}
            error={wrong.forgetDays}
          />
        )}
      </div>
      <QuestionPreview questions={questions.filter((q) => q.prompt.en.trim() || isDetail(q.keeps))} />
    </chakra.div>
  );
}
