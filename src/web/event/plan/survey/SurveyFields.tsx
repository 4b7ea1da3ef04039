import { chakra } from '@chakra-ui/react';
import { Plus } from 'lucide-react';
import type { SurveyPlan, SurveyQuestionPlan } from '#contract/surveyPlan.ts';
import { plainQuestion } from '#core/surveys/survey.ts';
import { Button } from '#web/kit/Button.tsx';
import { Tick } from '#web/kit/Choosing.tsx';
import { ChoiceField, TextField } from '#web/kit/Field.tsx';
import { phrase } from '#web/words/phrase.ts';
import { BothLanguages, Entries, writeIn } from '../entries.tsx';
import { SurveyQuestionEntry } from './SurveyQuestionEntry.tsx';

type Page = SurveyPlan['pages'][number];
type ErrorAt = (path: string) => string | undefined;

const newQuestion = (): SurveyQuestionPlan => ({
  ...plainQuestion,
  id: crypto.randomUUID().slice(0, 8),
  prompt: { en: '' },
  choices: [],
});

/** What a survey says and asks, page by page. */
export function SurveyFields({
  survey,
  sessions,
  put,
  errorAt,
}: {
  survey: SurveyPlan;
  /** Whether the event has any. */
  sessions: boolean;
  put: (part: Partial<SurveyPlan>) => void;
  errorAt: ErrorAt;
}) {
  const { pages } = survey;
  const grouping = pages
    .filter((p) => p.per === 'survey')
    .flatMap((p) => p.questions.filter((q) => q.kind === 'one of'));
  const setPage = (id: string, part: Partial<Page>) =>
    put({ pages: pages.map((p) => (p.id === id ? { ...p, ...part } : p)) });
  return (
    <>
      <BothLanguages
        label={phrase('surveys.title')}
        value={survey.title}
        set={(title) => put({ title })}
        error={errorAt('title.en')}
      />
      <BothLanguages
        long
        label={phrase('surveys.intro')}
        value={survey.intro}
        set={(intro) => put({ intro })}
      />
      <Tick
        checked={survey.anonymous}
        set={(anonymous) => put({ anonymous, groupBy: null })}
        error={errorAt('anonymous')}
      >
        {phrase('surveys.anonymous')}
      </Tick>
      {survey.anonymous && <p className="soft">{phrase('surveys.anonymousHelp')}</p>}
      {survey.anonymous && grouping.length > 0 && (
        <ChoiceField
          label={phrase('surveys.groupBy')}
          help={phrase('surveys.groupByHelp')}
          value={survey.groupBy ?? ''}
          set={(v) => put({ groupBy: v || null })}
          error={errorAt('groupBy')}
          empty={phrase('surveys.groupByNothing')}
          choices={grouping.map((q) => ({ value: q.id, label: q.prompt.en }))}
        />
      )}
      <TextField
        label={phrase('surveys.closesDays')}
        type="number"
        value={String(survey.closesDays)}
        set={(v) => put({ closesDays: Math.trunc(Number(v)) })}
        error={errorAt('closesDays')}
      />
      {errorAt('pages') && <chakra.p color="madder">{errorAt('pages')}</chakra.p>}
      {pages.map((page, n) => (
        <PageFields
          key={page.id}
          page={page}
          n={n}
          alone={pages.length === 1}
          sessions={sessions}
          before={pages
            .slice(0, n)
            .flatMap((p) => (p.per === 'survey' || page.per === 'session' ? p.questions : []))}
          anonymous={survey.anonymous}
          errorAt={(path) => errorAt(`pages.${n}.${path}`)}
          put={(part) => setPage(page.id, part)}
          remove={() => put({ pages: pages.filter((p) => p.id !== page.id) })}
        />
      ))}
      <Button
        look="plain"
        onClick={() =>
          put({
            pages: [
              ...pages,
              {
                id: crypto.randomUUID().slice(0, 8),
                title: { en: '' },
                per: 'survey',
                questions: [newQuestion()],
              },
            ],
          })
        }
      >
        <Plus size={14} aria-hidden /> {phrase('surveys.addPage')}
      </Button>
    </>
  );
}

/** One page of a survey with its questions. */
function PageFields({
  page,
  n,
  alone,
  sessions,
  before,
  anonymous,
  errorAt,
  put,
  remove,
}: {
  page: Page;
  n: number;
  /** It is the only page, so there is nothing to call it by. */
  alone: boolean;
  sessions: boolean;
  before: readonly SurveyQuestionPlan[];
  anonymous: boolean;
  errorAt: ErrorAt;
  put: (part: Partial<Page>) => void;
  remove: () => void;
}) {
  const { questions } = page;
  const move = (at: number, by: number) => {
    const to = [...questions];
    const [one] = to.splice(at, 1);
    to.splice(at + by, 0, one!);
    put({ questions: to });
  };
  return (
    <chakra.section borderTop="1px solid" borderColor="line" paddingTop="8px" marginTop="8px">
      {!alone && (
        <>
          <div className="spread">
            <h3>{phrase('surveys.page', { n: n + 1 })}</h3>
            <Button look="plain" onClick={remove} aria-label={phrase('surveys.removePage', { n: n + 1 })}>
              {phrase('common.remove')}
            </Button>
          </div>
          <BothLanguages
            label={phrase('surveys.pageTitle')}
            value={page.title}
            set={(title) => put({ title })}
          />
        </>
      )}
      {(sessions || page.per === 'session') && (
        <Tick checked={page.per === 'session'} set={(each) => put({ per: each ? 'session' : 'survey' })}>
          {phrase('surveys.perSession')}
        </Tick>
      )}
      <Entries>
        {questions.map((q, at) => (
          <SurveyQuestionEntry
            key={q.id}
            question={q}
            before={[...before, ...questions.slice(0, at)]}
            anonymous={anonymous}
            errorAt={(field) => errorAt(field ? `questions.${at}.${field}` : `questions.${at}.`)}
            put={(part) => put({ questions: questions.map((x) => (x.id === q.id ? { ...x, ...part } : x)) })}
            remove={() => put({ questions: questions.filter((x) => x.id !== q.id) })}
            up={at > 0 ? () => move(at, -1) : null}
            down={at < questions.length - 1 ? () => move(at, 1) : null}
          />
        ))}
      </Entries>
      <Button
        onClick={() => {
          const q = newQuestion();
          writeIn(q.id);
          put({ questions: [...questions, q] });
        }}
      >
        <Plus size={14} aria-hidden /> {phrase('surveys.ask')}
      </Button>
    </chakra.section>
  );
}
