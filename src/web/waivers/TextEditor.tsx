import { chakra } from '@chakra-ui/react';
import { Plus } from 'lucide-react';
import type { z } from 'zod';
import type { waiverForm } from '#contract/waivers.ts';
import { questionKinds } from '#core/questions/question.ts';
import { clauseKinds } from '#core/waivers/form.ts';
import { Button } from '#web/kit/Button.tsx';
import { Tick } from '#web/kit/Choosing.tsx';
import { ChoiceField, Group } from '#web/kit/Field.tsx';
import type { Form } from '#web/kit/form/useForm.ts';
import { phrase, term } from '#web/words/phrase.ts';
import { AnswerLimits } from '../event/plan/AnswerLimits.tsx';
import { BothLanguages, Entries, FoldedEntry, writeIn } from '../event/plan/entries.tsx';
import { Moves } from '../event/plan/ordering.tsx';

export type Text = z.output<typeof waiverForm>;
type Clause = Text['clauses'][number];
type Question = Text['questions'][number];

/** As much of a form as writing a waiver needs. */
export type Writing = Pick<Form<{ text: Text }>, 'values' | 'set' | 'wrongAt'>;

const kindWords = {
  read: phrase('waivers.kind-read'),
  agree: phrase('waivers.kind-agree'),
  initials: phrase('waivers.kind-initials'),
  choice: phrase('waivers.kind-choice'),
} as const;

export const emptyText: Text = {
  title: { en: '' },
  clauses: [{ id: 'first', kind: 'agree', heading: { en: '' }, text: { en: '' } }],
  questions: [],
};

const plainQuestion = (part: Partial<Question>): Question => ({
  id: crypto.randomUUID(),
  kind: 'text',
  prompt: { en: '' },
  help: { en: '' },
  required: false,
  choices: [],
  least: null,
  most: null,
  health: false,
  ...part,
});

/** What is usually asked of who takes part, above all of children. */
const usual = (): Question[] => [
  plainQuestion({
    prompt: {
      en: 'Whom do we call in an emergency, and on which number?',
      fr: 'Qui appeler en cas d’urgence, et à quel numéro\u00a0?',
    },
    required: true,
  }),
  plainQuestion({
    kind: 'long text',
    prompt: { en: 'Allergies and medicines', fr: 'Allergies et médicaments' },
    health: true,
  }),
  plainQuestion({
    kind: 'one of',
    prompt: { en: 'How well do they swim?', fr: 'Sait-on nager\u00a0?' },
    choices: ['Not at all', 'A little', 'Well'],
  }),
];

const moved = <T,>(rows: readonly T[], at: number, by: number): T[] => {
  const to = [...rows];
  const [one] = to.splice(at, 1);
  to.splice(at + by, 0, one!);
  return to;
};

/** What a waiver says: title, clauses, what is asked beside them; each in English and, where it is wanted, in French. */
export function TextEditor({ form }: { form: Writing }) {
  const { text } = form.values;
  const put = (part: Partial<Text>) => form.set({ text: { ...text, ...part } });
  const { clauses, questions } = text;
  const addClause = () => {
    const id = crypto.randomUUID();
    writeIn(id);
    put({ clauses: [...clauses, { id, kind: 'agree', heading: { en: '' }, text: { en: '' } }] });
  };
  const addQuestions = (more: Question[]) => {
    writeIn(more[0]!.id);
    put({ questions: [...questions, ...more] });
  };
  return (
    <>
      <BothLanguages
        label={phrase('waivers.name')}
        value={text.title}
        set={(title) => put({ title })}
        error={form.wrongAt('text.title.en')}
      />
      <Group
        label={phrase('waivers.clauses')}
        help={phrase('waivers.clausesHelp')}
        error={form.wrongAt('text.clauses')}
      >
        <Entries>
          {clauses.map((clause, at) => (
            <ClauseEntry
              key={clause.id}
              clause={clause}
              error={(field) => form.wrongAt(`text.clauses.${at}.${field}`)}
              put={(part) =>
                put({ clauses: clauses.map((c) => (c.id === clause.id ? { ...c, ...part } : c)) })
              }
              remove={() => put({ clauses: clauses.filter((c) => c.id !== clause.id) })}
              up={at > 0 ? () => put({ clauses: moved(clauses, at, -1) }) : null}
              down={at < clauses.length - 1 ? () => put({ clauses: moved(clauses, at, 1) }) : null}
            />
          ))}
        </Entries>
        <Button onClick={addClause}>
          <Plus size={14} aria-hidden /> {phrase('waivers.addClause')}
        </Button>
      </Group>
      <Group label={phrase('waivers.asked')} help={phrase('waivers.askedHelp')}>
        <Entries>
          {questions.map((question, at) => (
            <AskedEntry
              key={question.id}
              question={question}
              error={(field) => form.wrongAt(`text.questions.${at}.${field}`)}
              put={(part) =>
                put({ questions: questions.map((q) => (q.id === question.id ? { ...q, ...part } : q)) })
              }
              remove={() => put({ questions: questions.filter((q) => q.id !== question.id) })}
              up={at > 0 ? () => put({ questions: moved(questions, at, -1) }) : null}
              down={at < questions.length - 1 ? () => put({ questions: moved(questions, at, 1) }) : null}
            />
          ))}
        </Entries>
        <div className="acts">
          <Button onClick={() => addQuestions([plainQuestion({})])}>
            <Plus size={14} aria-hidden /> {phrase('waivers.addQuestion')}
          </Button>
          {questions.length === 0 && (
            <Button look="plain" onClick={() => addQuestions(usual())}>
              {phrase('waivers.addUsual')}
            </Button>
          )}
        </div>
      </Group>
    </>
  );
}

interface EntryProps<T> {
  error: (field: string) => string | undefined;
  put: (part: Partial<T>) => void;
  remove: () => void;
  up: (() => void) | null;
  down: (() => void) | null;
}

function ClauseEntry({ clause, error, put, remove, up, down }: { clause: Clause } & EntryProps<Clause>) {
  const name = clause.heading.en || clause.text.en.slice(0, 60);
  return (
    <FoldedEntry
      name={name}
      line={kindWords[clause.kind]}
      remove={remove}
      wrong={Boolean(error('text.en'))}
      beside={<Moves name={name} up={up} down={down} />}
    >
      <BothLanguages
        id={`name-${clause.id}`}
        label={phrase('waivers.heading')}
        value={clause.heading}
        set={(heading) => put({ heading })}
      />
      <BothLanguages
        long
        label={phrase('waivers.clauseText')}
        value={clause.text}
        set={(text) => put({ text })}
        error={error('text.en')}
      />
      <chakra.div maxWidth="320px">
        <ChoiceField
          label={phrase('waivers.clauseKind')}
          value={clause.kind}
          set={(kind) => put({ kind: kind as Clause['kind'] })}
          choices={clauseKinds.map((kind) => ({ value: kind, label: kindWords[kind] }))}
        />
      </chakra.div>
    </FoldedEntry>
  );
}

function AskedEntry({
  question: q,
  error,
  put,
  remove,
  up,
  down,
}: { question: Question } & EntryProps<Question>) {
  const name = q.prompt.en;
  return (
    <FoldedEntry
      name={name}
      line={[term(q.kind), q.required && term('required')].filter(Boolean).join(' · ')}
      remove={remove}
      wrong={Boolean(error('prompt.en') ?? error('choices') ?? error('kind'))}
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
      <chakra.div maxWidth="320px">
        <ChoiceField
          label={phrase('questions.answer')}
          value={q.kind}
          set={(kind) => put({ kind: kind as Question['kind'] })}
          choices={questionKinds
            .filter((kind) => kind !== 'file')
            .map((kind) => ({ value: kind, label: term(kind) }))}
        />
      </chakra.div>
      <AnswerLimits question={q} put={put} error={error} />
      <Tick checked={q.required} set={(required) => put({ required })}>
        {phrase('questions.required')}
      </Tick>
      <Tick checked={q.health} set={(health) => put({ health })}>
        {phrase('waivers.health')}
      </Tick>
    </FoldedEntry>
  );
}
