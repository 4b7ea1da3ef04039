import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useParams } from 'react-router';
import { type Answer, ApiProblem, call } from '#web/api.ts';
import { useAsk } from './asking.ts';
import { Field } from './fields.tsx';
import { language } from './language.ts';
import { Loaded, Problems } from './notices.tsx';

type Page = Answer<'GET /api/public/surveys/:token'>;

export default function Survey() {
  const { token = '' } = useParams();
  return (
    <Loaded of={useAsk('GET /api/public/surveys/:token', { token })}>
      {(page) => <Shown page={page} token={token} />}
    </Loaded>
  );
}

function Shown({ page, token }: { page: Page; token: string }) {
  const { t } = useTranslation();
  const [answers, setAnswers] = useState<Record<string, string | number>>({});
  const send = useMutation({
    mutationFn: () => call('POST /api/public/surveys/:token', { params: { token }, body: { answers } }),
  });
  const problem = send.error instanceof ApiProblem ? send.error : null;
  if (page.answered || send.isSuccess)
    return (
      <>
        <h1>{t('thankYou')}</h1>
        <p className="soft">{t('surveyDone')}</p>
      </>
    );
  return (
    <form
      noValidate
      onSubmit={(e) => {
        e.preventDefault();
        send.mutate();
      }}
    >
      <p className="soft" style={{ marginTop: 12 }}>
        {page.event}
      </p>
      <h1 style={{ marginTop: 2 }}>{(language() === 'fr' && page.title.fr) || page.title.en}</h1>
      <p className="soft">{page.anonymous ? t('surveyAnonymous') : t('surveyNamed')}</p>
      <Problems problem={problem} />
      <div style={{ marginTop: 18 }}>
        {page.questions.map((q) => {
          const error = problem?.fields[`answers.${q.id}`];
          const set = (value: string | number) => setAnswers({ ...answers, [q.id]: value });
          if (q.kind === 'text')
            return (
              <Field key={q.id} label={q.prompt} error={error} optional={!q.required}>
                {(props) => (
                  <textarea
                    {...props}
                    rows={4}
                    value={String(answers[q.id] ?? '')}
                    onChange={(e) => set(e.target.value)}
                  />
                )}
              </Field>
            );
          return (
            <fieldset key={q.id}>
              <legend>{q.prompt}</legend>
              {q.kind === 'scale' ? (
                <>
                  <div className="scale">
                    {[1, 2, 3, 4, 5].map((n) => (
                      <label key={n}>
                        <input
                          type="radio"
                          name={q.id}
                          checked={answers[q.id] === n}
                          onChange={() => set(n)}
                        />
                        {n}
                      </label>
                    ))}
                  </div>
                  <div className="spread soft" style={{ fontSize: 14 }}>
                    <span>{t('scaleLow')}</span>
                    <span>{t('scaleHigh')}</span>
                  </div>
                </>
              ) : (
                q.choices.map((c) => (
                  <label key={c} className="tick">
                    <input type="radio" name={q.id} checked={answers[q.id] === c} onChange={() => set(c)} />
                    {c}
                  </label>
                ))
              )}
              {error && <div className="error-line">{error}</div>}
            </fieldset>
          );
        })}
      </div>
      <button type="submit" className="btn primary go" disabled={send.isPending}>
        {t('send')}
      </button>
    </form>
  );
}
