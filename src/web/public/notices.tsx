import type { ReactNode } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { ApiProblem } from '#web/api.ts';

export function Loading() {
  const { t } = useTranslation();
  return (
    <p className="soft" role="status" style={{ padding: '40px 0' }}>
      {t('loading')}
    </p>
  );
}

export function NotHere() {
  const { t } = useTranslation();
  return (
    <>
      <h1>{t('notHere')}</h1>
      <p className="soft">{t('notHereText')}</p>
      <p style={{ marginTop: 16 }}>
        <Link to="/">{t('comingEvents')}</Link>
      </p>
    </>
  );
}

/** Shows a page's data, or what stands in its way. */
export function Loaded<T>({
  of,
  children,
}: {
  of: { data: T | undefined; error: unknown; refetch: () => unknown };
  children: (data: T) => ReactNode;
}) {
  const { t } = useTranslation();
  if (of.data !== undefined) return <>{children(of.data)}</>;
  if (of.error instanceof ApiProblem && of.error.body.status === 404) return <NotHere />;
  if (of.error)
    return (
      <div className="say stop" role="alert">
        <p>{t('failed')}</p>
        <p className="soft">{of.error instanceof Error ? of.error.message : ''}</p>
        <button type="button" className="btn" onClick={() => of.refetch()} style={{ marginTop: 8 }}>
          {t('tryAgain')}
        </button>
      </div>
    );
  return <Loading />;
}

/** The problems of a form, summed up above it; each is also beside its field. */
export function Problems({ problem }: { problem: ApiProblem | null }) {
  const { t } = useTranslation();
  if (!problem) return null;
  const messages = [...new Set(Object.values(problem.fields))];
  return (
    <div className="problems" role="alert" tabIndex={-1} ref={(element) => element?.focus()}>
      {messages.length > 0 ? (
        <>
          {t('problems')}
          <ul style={{ margin: '2px 0 0', paddingLeft: 18 }}>
            {messages.map((m) => (
              <li key={m}>{m}</li>
            ))}
          </ul>
        </>
      ) : (
        problem.message
      )}
    </div>
  );
}
