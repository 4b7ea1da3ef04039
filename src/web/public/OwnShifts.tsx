import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useParams } from 'react-router';
import { sayLongDate, sayTime } from '#core/time/say.ts';
import { type Answer, ApiProblem, addressOf, call } from '#web/api.ts';
import { useAsk } from './asking.ts';
import { language } from './language.ts';
import { Loaded, Problems } from './notices.tsx';

type Page = Answer<'GET /api/public/crew/:token'>;

/** A volunteer's own page: always what holds now. */
export default function OwnShifts() {
  const { token = '' } = useParams();
  return (
    <Loaded of={useAsk('GET /api/public/crew/:token', { token }, { everyMs: 15_000 })}>
      {(page) => <Shown page={page} token={token} />}
    </Loaded>
  );
}

function Shown({ page, token }: { page: Page; token: string }) {
  const { t } = useTranslation();
  const coming = page.shifts.filter((s) => !s.past);
  const past = page.shifts.filter((s) => s.past).reverse();
  return (
    <>
      <h1>{t('yourShifts', { name: page.name })}</h1>
      {page.hoursServed > 0 && <p className="soft">{t('hoursServed', { hours: page.hoursServed })}</p>}
      {coming.length === 0 ? <p className="say">{t('noneYet')}</p> : <List shifts={coming} token={token} />}
      <p style={{ marginTop: 16 }}>
        <a href={addressOf('GET /api/public/crew/:token/calendar.ics', { token })}>{t('calendarFile')}</a>
      </p>
      {past.length > 0 && (
        <>
          <h2>{t('past')}</h2>
          <List shifts={past} token={token} />
        </>
      )}
    </>
  );
}

function List({ shifts, token }: { shifts: Page['shifts']; token: string }) {
  const { t } = useTranslation();
  const client = useQueryClient();
  const [asking, setAsking] = useState<string | null>(null);
  const drop = useMutation({
    mutationFn: (assignmentId: string) =>
      call('POST /api/public/crew/:token/drop', { params: { token }, body: { assignmentId } }),
    onSettled: () => client.invalidateQueries(),
  });
  return (
    <>
      <Problems problem={drop.error instanceof ApiProblem ? drop.error : null} />
      <ul className="rows">
        {shifts.map((s) => (
          <li key={s.assignmentId}>
            <span className="name">{s.role}</span>
            <small>
              {sayLongDate(s.startsLocal, language())},{' '}
              <span className="num">
                {sayTime(s.startsLocal)}–{sayTime(s.endsLocal)}
              </span>
            </small>
            <small>{[s.event, s.place, s.venue].filter(Boolean).join(' · ')}</small>
            {!s.past &&
              (asking === s.assignmentId ? (
                <p style={{ marginTop: 6 }}>
                  {t('giveBackText')}{' '}
                  <button
                    type="button"
                    className="btn stop"
                    disabled={drop.isPending}
                    onClick={() => drop.mutate(s.assignmentId)}
                  >
                    {t('giveBack')}
                  </button>{' '}
                  <button type="button" className="btn" onClick={() => setAsking(null)}>
                    {t('cancel')}
                  </button>
                </p>
              ) : (
                <button type="button" className="btn plain" onClick={() => setAsking(s.assignmentId)}>
                  {t('giveBack')}
                </button>
              ))}
          </li>
        ))}
      </ul>
    </>
  );
}
