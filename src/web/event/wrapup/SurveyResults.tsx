import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import type { EventPage } from '#contract/events.ts';
import type { Grouping } from '#core/surveys/grouping.ts';
import { type Answer, addressOf } from '#web/api.ts';
import { Button, ButtonAnchor, ButtonLink } from '#web/kit/Button.tsx';
import { ChoiceField } from '#web/kit/Field.tsx';
import { ListViews } from '#web/kit/ListViews.tsx';
import { Empty } from '#web/kit/Note.tsx';
import { Loaded } from '#web/kit/notices.tsx';
import { useAction, useAsk } from '#web/parts/ask.ts';
import { useSaying } from '#web/parts/saying.ts';
import { sayWhose } from '#web/surveys/words.ts';
import { phrase } from '#web/words/phrase.ts';
import { QuestionResult } from './QuestionResult.tsx';

type Survey = Answer<'GET /api/events/:id/surveys'>[number];
type Results = Answer<'GET /api/events/:id/surveys/:survey'>;

/** What people said of an event: its surveys, one at a time. */
export function SurveyResults({ page }: { page: EventPage }) {
  const surveys = useAsk('GET /api/events/:id/surveys', { params: { id: page.id } });
  const [chosen, setChosen] = useState<string | null>(null);
  return (
    <Loaded of={surveys}>
      {(all) => {
        const survey = all.find((s) => s.id === chosen) ?? all[0];
        if (!survey)
          return (
            <Empty>
              {phrase('surveys.none')}{' '}
              <ButtonLink look="plain" to={`/events/${page.id}/plan`}>
                {phrase('surveys.plan')}
              </ButtonLink>
            </Empty>
          );
        return (
          <>
            {all.length > 1 && (
              <chakra.div marginBottom="10px">
                <ListViews
                  label={phrase('surveys.forWhom')}
                  value={survey.id}
                  set={setChosen}
                  views={all.map((s) => ({ value: s.id, label: sayWhose(s), count: s.answered }))}
                />
              </chakra.div>
            )}
            <OneSurvey key={survey.id} page={page} survey={survey} />
          </>
        );
      }}
    </Loaded>
  );
}

const byWords: Readonly<Record<Grouping, string>> = {
  nothing: phrase('surveys.byNothing'),
  'first time': phrase('surveys.byFirstTime'),
  member: phrase('surveys.byMember'),
  age: phrase('surveys.byAge'),
  ticket: phrase('surveys.byTicket'),
  question: phrase('surveys.byQuestion'),
};

/** One survey: how many answered, and every question with what was said to it. */
function OneSurvey({ page, survey }: { page: EventPage; survey: Survey }) {
  const [by, setBy] = useState<Grouping>('nothing');
  const [weigh, setWeigh] = useState<Grouping>('nothing');
  const [beside, setBeside] = useState<string | null>(null);
  const params = { id: page.id, survey: survey.id };
  const results = useAsk('GET /api/events/:id/surveys/:survey', {
    params,
    query: { by, weigh, ...(beside && { beside }) },
  });
  const { day } = useSaying();
  return (
    <Loaded of={results}>
      {(r) => (
        <>
          <div className="spread">
            <h2>{survey.title}</h2>
            <ButtonAnchor href={addressOf('GET /api/events/:id/surveys/:survey/answers.csv', params)}>
              {phrase('surveys.asCsv')}
            </ButtonAnchor>
          </div>
          <chakra.p className="num" fontSize="16px">
            {r.sentence}
          </chakra.p>
          <p className="soft">
            {[
              r.anonymous && phrase('surveys.withoutNames'),
              r.closed
                ? phrase('surveys.closed')
                : r.closesAt && phrase('surveys.closes', { date: day(r.closesAt) }),
              r.tasks.open + r.tasks.done > 0 && phrase('surveys.tasks', r.tasks),
            ]
              .filter(Boolean)
              .join(' ')}
          </p>
          <chakra.div display="flex" flexWrap="wrap" gap="0 18px" margin="8px 0 4px">
            {r.groupings.length > 0 && (
              <ChoiceField
                label={phrase('surveys.by')}
                value={by}
                set={(v) => setBy(v as Grouping)}
                choices={['nothing' as const, ...r.groupings].map((g) => ({ value: g, label: byWords[g] }))}
              />
            )}
            {!r.anonymous && (
              <ChoiceField
                label={phrase('surveys.weigh')}
                value={weigh}
                set={(v) => setWeigh(v as Grouping)}
                choices={['nothing' as const, ...r.groupings].map((g) => ({ value: g, label: byWords[g] }))}
              />
            )}
            {r.earlier.length > 0 && (
              <ChoiceField
                label={phrase('surveys.beside')}
                value={r.beside ?? ''}
                set={(v) => setBeside(v || null)}
                choices={r.earlier.map((e) => ({
                  value: e.eventId,
                  label: [e.title, e.startsAt && `${day(e.startsAt)} ${e.startsAt.slice(0, 4)}`]
                    .filter(Boolean)
                    .join(', '),
                }))}
              />
            )}
          </chakra.div>
          {[r.ungrouped, r.weighted].filter(Boolean).map((words) => (
            <p key={words}>{words}</p>
          ))}
          {r.results.map((q) => (
            <QuestionResult key={q.key} result={q} />
          ))}
          <Earlier page={page} survey={survey} results={r} />
        </>
      )}
    </Loaded>
  );
}

/** What was asked then and is not now, and questions that may be the same. */
function Earlier({ page, survey, results }: { page: EventPage; survey: Survey; results: Results }) {
  const [left, setLeft] = useState<readonly string[]>([]);
  const save = useAction('PATCH /api/events/:id');
  const perhaps = results.perhaps.filter((p) => !left.includes(p.now));
  if (!results.gone.length && !perhaps.length) return null;
  const may = page.may.change.includes('plan');
  const goesOn = (now: string, was: string) =>
    save.mutate({
      params: { id: page.id },
      body: {
        version: page.version,
        change: {
          surveys: page.plan.surveys.map((s) =>
            s.id === survey.id
              ? {
                  ...s,
                  pages: s.pages.map((p) => ({
                    ...p,
                    questions: p.questions.map((q) => (q.id === now ? { ...q, goesOn: was } : q)),
                  })),
                }
              : s,
          ),
        },
      },
    });
  return (
    <chakra.section marginTop="18px">
      {results.gone.length > 0 && (
        <p className="soft">
          {phrase('surveys.goneThen', { questions: results.gone.map((q) => `“${q}”`).join(', ') })}
        </p>
      )}
      {may &&
        perhaps.map((p) => (
          <p key={p.now}>
            {phrase('surveys.perhaps', { now: p.prompt, was: p.wasPrompt })}{' '}
            <Button look="plain" disabled={save.isPending} onClick={() => goesOn(p.now, p.was)}>
              {phrase('surveys.itIs')}
            </Button>{' '}
            <Button look="plain" onClick={() => setLeft([...left, p.now])}>
              {phrase('surveys.itIsNot')}
            </Button>
          </p>
        ))}
    </chakra.section>
  );
}
