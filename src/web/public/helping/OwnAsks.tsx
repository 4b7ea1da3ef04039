import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { sayFromTo } from '#core/time/fromTo.ts';
import { sayLongDate, sayTime } from '#core/time/say.ts';
import { wallOf } from '#core/time/wallTime.ts';
import type { Answer } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { Problems } from '#web/kit/notices.tsx';
import { language } from '../language.ts';
import { Acts, Head, Rows, Say, Small } from '../parts.tsx';
import { useOwnAct } from './useOwnAct.ts';

type Page = Answer<'GET /api/public/crew/:token'>;
type Elsewhere = Pick<
  Page['waits'][number],
  'name' | 'role' | 'place' | 'startsLocal' | 'endsLocal' | 'event'
>;

/** A shift somebody is not on, in a few lines. */
export function ElsewhereLines({ of: s }: { of: Elsewhere }) {
  return (
    <>
      <span className="name">{[s.name, s.role].filter(Boolean).join(', ')}</span>
      <Small>
        {sayLongDate(s.startsLocal, language())}, <span className="num">{sayFromTo(s, language())}</span>
      </Small>
      <Small>{[s.event, s.place].filter(Boolean).join(' · ')}</Small>
    </>
  );
}

/** What somebody is asked: whether they step in, and until when that is kept for them. */
export function OwnAsks({ page, token }: { page: Page; token: string }) {
  const { t } = useTranslation();
  const [said, setSaid] = useState<string | null>(null);
  const answer = useOwnAct('POST /api/public/crew/:token/step-in', token);
  if (!page.asks.length) return said && <Say role="status">{said}</Say>;
  return (
    <>
      <Head>{t('canYouStepIn')}</Head>
      {said && <Say role="status">{said}</Say>}
      <Problems of={answer.problem} />
      <Rows>
        {page.asks.map((ask) => {
          const until = wallOf(ask.until, ask.zone);
          const send = (take: boolean) =>
            answer.mutate(
              { askId: ask.askId, take },
              { onSuccess: () => setSaid(t(take ? 'steppedIn' : 'steppedNot')) },
            );
          return (
            <li key={ask.askId}>
              <ElsewhereLines of={ask} />
              {ask.brief && <Small>{ask.brief}</Small>}
              <Small>
                {t('keptUntil', {
                  until: `${sayLongDate(until, language())}, ${sayTime(until, language())}`,
                })}
              </Small>
              <Acts>
                <Button look="main" disabled={answer.isPending} onClick={() => send(true)}>
                  {t('stepInYes')}
                </Button>
                <Button disabled={answer.isPending} onClick={() => send(false)}>
                  {t('stepInNo')}
                </Button>
              </Acts>
            </li>
          );
        })}
      </Rows>
    </>
  );
}

/** What somebody waits for, with a way to wait no more. */
export function OwnWaits({ page, token }: { page: Page; token: string }) {
  const { t } = useTranslation();
  const leave = useOwnAct('POST /api/public/crew/:token/wait-no-more', token);
  if (!page.waits.length) return null;
  return (
    <>
      <Head>{t('youWaitFor')}</Head>
      <Problems of={leave.problem} />
      <Rows>
        {page.waits.map((wait) => (
          <li key={wait.shiftId}>
            <ElsewhereLines of={wait} />
            <Small>{wait.before ? t('waitBefore', { count: wait.before }) : t('waitFirst')}</Small>
            <Button
              look="plain"
              disabled={leave.isPending}
              onClick={() => leave.mutate({ shiftId: wait.shiftId })}
            >
              {t('waitNoMore')}
            </Button>
          </li>
        ))}
      </Rows>
    </>
  );
}
