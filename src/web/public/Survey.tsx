import './holdingWords.ts';
import { chakra } from '@chakra-ui/react';
import { useEffect, useRef, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useParams, useSearchParams } from 'react-router';
import { surveysContract } from '#contract/surveys.ts';
import { sayField } from '#contract/wrong.ts';
import {
  askedNow,
  followedUp,
  problemsWithAnswers,
  problemWith,
  type SurveyAnswer,
  type SurveyAnswers,
} from '#core/surveys/answering.ts';
import { tapped } from '#core/surveys/inMail.ts';
import type { Asked, AskedPage } from '#core/surveys/survey.ts';
import { readTexts } from '#core/words/texts.ts';
import { type Answer, call } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { Form } from '#web/kit/form/Form.tsx';
import { Tick, useBound } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { type Form as FormState, useForm } from '#web/kit/form/useForm.ts';
import { SurveyControl, type SurveyWords } from '#web/surveys/SurveyControl.tsx';
import { useAsk } from './asking.ts';
import { language } from './language.ts';
import { Loaded } from './notices.tsx';
import { Head, Say, Soft, Title } from './parts.tsx';

type Page = Answer<'GET /api/public/surveys/:token'>;
interface Filled {
  answers: Record<string, SurveyAnswer | undefined>;
  mayFollow: boolean;
}

export default function Survey() {
  const { token = '' } = useParams();
  return (
    <Loaded of={useAsk('GET /api/public/surveys/:token', { token })}>
      {(page) => <Shown page={page} token={token} />}
    </Loaded>
  );
}

const given = (answers: Filled['answers']): SurveyAnswers =>
  Object.fromEntries(
    Object.entries(answers).filter((entry): entry is [string, SurveyAnswer] => entry[1] !== undefined),
  );

function Shown({ page, token }: { page: Page; token: string }) {
  const { t } = useTranslation();
  const [sent, setSent] = useState(false);
  if (page.state === 'answered' || sent)
    return (
      <>
        <Title>{t('thankYou')}</Title>
        <Soft>{t('surveyDone')}</Soft>
      </>
    );
  if (page.state === 'closed')
    return (
      <>
        <Title>{t('surveyOver')}</Title>
        <Soft>{t('surveyOverText', { organization: page.organization })}</Soft>
      </>
    );
  return <Answering page={page} token={token} done={() => setSent(true)} />;
}

function Answering({ page, token, done }: { page: Page; token: string; done: () => void }) {
  const { t } = useTranslation();
  const pages = page.pages as AskedPage[];
  const [at, setAt] = useState(0);
  const top = useRef<HTMLHeadingElement>(null);
  const first = useTapped(page, token);
  const form = useForm({
    values: { answers: first, mayFollow: false } as Filled,
    request: ({ answers, mayFollow }) =>
      prepare(surveysContract, 'POST /api/public/surveys/:token', {
        params: { token },
        body: { answers: given(answers), mayFollow },
      }),
    check: ({ answers }) => problemsWithAnswers(pages, given(answers)),
    draft: { name: `survey ${token.slice(0, 12)}`, keeping: 'tab' },
    after: done,
  });
  const answers = given(form.values.answers);
  const shown = askedNow(pages, answers);
  const now = Math.min(at, shown.length - 1);
  const current = shown[now];
  const last = now === shown.length - 1;
  const go = (to: number) => {
    setAt(to);
    top.current?.focus();
    top.current?.scrollIntoView({ block: 'start' });
  };
  const next = () => {
    const wrong = current!.asked.flatMap(({ key, question }) => {
      const problem = problemWith(question, answers[key]);
      return problem ? [{ key, problem }] : [];
    });
    for (const { key, problem } of wrong)
      form.hook.setError(`answers.${key}`, {
        type: 'validate',
        message: sayField({ path: `answers.${key}`, message: '', ...problem }, language()),
      });
    if (wrong.length) document.getElementById(form.idOf(`answers.${wrong[0]!.key}`))?.focus();
    else go(now + 1);
  };
  // What is found wrong as it is sent may stand on an earlier page.
  const wrongOn = shown.findIndex((p) => p.asked.some((a) => form.wrongAt(`answers.${a.key}`)));
  const { problems } = form;
  useEffect(() => {
    if (problems.length && wrongOn >= 0) setAt(wrongOn);
  }, [problems, wrongOn]);
  const mayAsk = page.anonymous || followedUp(pages, answers).length > 0;
  return (
    <>
      <Soft marginTop="12px">{page.event}</Soft>
      <Title marginTop="2px" ref={top} tabIndex={-1} outline="none">
        {readTexts(page.title, language())}
      </Title>
      {now === 0 && readTexts(page.intro, language()) && <p>{readTexts(page.intro, language())}</p>}
      {now === 0 && (
        <Soft marginBottom="18px">{page.anonymous ? t('surveyAnonymous') : t('surveyNamed')}</Soft>
      )}
      {now === 0 && Object.keys(first).length > 0 && (
        <Say tone="good">{page.anonymous ? t('surveyTapped') : t('surveyNoted')}</Say>
      )}
      {shown.length > 1 && (
        <Soft className="num" marginBottom="8px">
          {t('surveyPage', { page: now + 1, pages: shown.length })}
        </Soft>
      )}
      <Form
        form={form}
        {...(last && { submit: t('send') })}
        size="go"
        beside={
          now > 0 && (
            <Button size="touch" onClick={() => go(now - 1)}>
              {t('surveyBack')}
            </Button>
          )
        }
      >
        {current && <PageOf page={current} form={form} />}
        {last && mayAsk && (
          <Tick
            form={form}
            name="mayFollow"
            label={t(page.anonymous ? 'surveyMayWrite' : 'surveyMayFollow', {
              organization: page.organization,
            })}
          />
        )}
        {!last && (
          <chakra.div display="flex" gap="8px" marginTop="4px">
            <Button look="main" size="go" onClick={next}>
              {t('surveyNext')}
            </Button>
            {now > 0 && (
              <Button size="touch" onClick={() => go(now - 1)}>
                {t('surveyBack')}
              </Button>
            )}
          </chakra.div>
        )}
      </Form>
    </>
  );
}

/** The answer that was tapped in the mail. Under a name it is kept at once, for whoever closes the page again. */
function useTapped(page: Page, token: string): Record<string, SurveyAnswer> {
  const [search] = useSearchParams();
  const value = search.get('a');
  const survey = {
    pages: page.pages
      .slice(0, 1)
      .map((p) => ({ ...p, per: 'survey' as const, questions: p.asked.map((a) => a.question) })),
  };
  const answer = tapped(survey, value);
  const keeps = answer !== null && !page.anonymous && !page.begun;
  const kept = useRef(false);
  useEffect(() => {
    if (!keeps || kept.current) return;
    kept.current = true;
    // Nothing is lost where it fails: it goes with the others.
    call('POST /api/public/surveys/:token/first', {
      params: { token },
      body: { answer: String(answer) },
    }).catch(() => undefined);
  }, [keeps, answer, token]);
  const key = page.pages[0]?.asked[0]?.key;
  return answer === null || !key ? {} : { [key]: answer };
}

/** The questions of a page. */
function PageOf({ page, form }: { page: AskedPage; form: FormState<Filled> }) {
  const title = readTexts(page.title, language());
  return (
    <>
      {page.session ? (
        <>
          {title && <Soft>{title}</Soft>}
          <Head>{readTexts(page.session.title, language())}</Head>
        </>
      ) : (
        title && <Head>{title}</Head>
      )}
      {page.asked.map((asked) => (
        <Question key={asked.key} asked={asked} form={form} />
      ))}
    </>
  );
}

function Question({ asked, form }: { asked: Asked; form: FormState<Filled> }) {
  const { t } = useTranslation();
  const { value, set, id, error } = useBound(
    form,
    `answers.${asked.key}`,
    readTexts(asked.question.prompt, language()),
  );
  const words: SurveyWords = {
    unlikely: t('surveyUnlikely'),
    likely: t('surveyLikely'),
    orderHelp: t('surveyOrderHelp'),
    placed: (choice, place) => t('surveyPlaced', { choice, place }),
    unplaced: (choice) => t('surveyUnplaced', { choice }),
    language: language(),
  };
  return (
    <SurveyControl
      question={asked.question}
      value={value as SurveyAnswer | undefined}
      set={set}
      id={id}
      error={error}
      words={words}
    />
  );
}
