import './holdingWords.ts';
import './helping/words.ts';
import { chakra } from '@chakra-ui/react';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useParams } from 'react-router';
import { sayFromTo } from '#core/time/fromTo.ts';
import { sayLongDate } from '#core/time/say.ts';
import { type Answer, ApiProblem, addressOf, call } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { Problems } from '#web/kit/notices.tsx';
import { askAnewAfter } from '#web/topics.ts';
import { useAsk } from './asking.ts';
import { FeedAddress } from './FeedAddress.tsx';
import { language } from './language.ts';
import { mapOf } from './map.ts';
import { Loaded } from './notices.tsx';
import { Acts, Head, Rows, Say, Small, Soft, Title } from './parts.tsx';
import { useSeenShifts } from './seenShifts.ts';

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
  const markOf = useSeenShifts(token, page.shifts);
  const calendar = addressOf('GET /api/public/crew/:token/calendar.ics', { token });
  const coming = page.shifts.filter((s) => !s.past);
  const past = page.shifts.filter((s) => s.past).reverse();
  return (
    <>
      <Title>{t('yourShifts', { name: page.name })}</Title>
      {page.hoursServed > 0 && <Soft>{t('hoursServed', { hours: page.hoursServed })}</Soft>}
      {coming.length === 0 ? (
        <Say>{t('noneYet')}</Say>
      ) : (
        <List shifts={coming} token={token} markOf={markOf} />
      )}
      <Head>{t('inYourCalendar')}</Head>
      <Soft>{t('calendarFollows')}</Soft>
      <FeedAddress feed={`${location.origin}${calendar}`} />
      <chakra.p marginTop="6px">
        <a href={calendar}>{t('calendarFile')}</a>
      </chakra.p>
      {past.length > 0 && (
        <>
          <Head>{t('past')}</Head>
          <List shifts={past} token={token} markOf={markOf} />
        </>
      )}
    </>
  );
}

function List({
  shifts,
  token,
  markOf,
}: {
  shifts: Page['shifts'];
  token: string;
  markOf: ReturnType<typeof useSeenShifts>;
}) {
  const { t } = useTranslation();
  const client = useQueryClient();
  const [asking, setAsking] = useState<string | null>(null);
  const drop = useMutation({
    mutationFn: (assignmentId: string) =>
      call('POST /api/public/crew/:token/drop', { params: { token }, body: { assignmentId } }),
    onSettled: () => askAnewAfter(client, 'POST /api/public/crew/:token/drop'),
  });
  return (
    <>
      <Problems of={drop.error instanceof ApiProblem ? drop.error : null} />
      <Rows>
        {shifts.map((s) => (
          <li key={s.assignmentId}>
            <span className="name">{[s.name, s.role].filter(Boolean).join(', ')}</span>
            {markOf(s) && (
              <chakra.small color="ochre" marginLeft="8px">
                {t(markOf(s) === 'new' ? 'shiftNew' : 'shiftChanged')}
              </chakra.small>
            )}
            {s.state === 'proposed' && <Small>{t('shiftWaits')}</Small>}
            <Small>
              {sayLongDate(s.startsLocal, language())},{' '}
              <span className="num">{sayFromTo(s, language())}</span>
            </Small>
            <Small>{s.event}</Small>
            <Small>
              {[s.place, s.venue, s.address].filter(Boolean).join(' · ')}
              {s.latitude !== null && (
                <>
                  {' · '}
                  <a href={mapOf(s.latitude, s.longitude)} rel="noopener">
                    {t('map')}
                  </a>
                </>
              )}
            </Small>
            {[s.brief, s.briefing].filter(Boolean).map((words) => (
              <chakra.p key={words} whiteSpace="pre-line" margin="6px 0">
                {words}
              </chakra.p>
            ))}
            {s.lead && (
              <Small>
                {t('shiftLead', { name: s.lead })}
                {s.leadPhone && (
                  <>
                    {', '}
                    <a href={`tel:${s.leadPhone.replaceAll(/[^+\d]/gu, '')}`}>{s.leadPhone}</a>
                  </>
                )}
              </Small>
            )}
            {!s.past &&
              (asking === s.assignmentId ? (
                <Acts alignItems="baseline">
                  <span>{s.state === 'proposed' ? '' : t('giveBackText')}</span>
                  <Button look="stop" disabled={drop.isPending} onClick={() => drop.mutate(s.assignmentId)}>
                    {t(s.state === 'proposed' ? 'takeItBack' : 'giveBack')}
                  </Button>
                  <Button onClick={() => setAsking(null)}>{t('cancel')}</Button>
                </Acts>
              ) : (
                <Button look="plain" onClick={() => setAsking(s.assignmentId)}>
                  {t(s.state === 'proposed' ? 'takeItBack' : 'giveBack')}
                </Button>
              ))}
          </li>
        ))}
      </Rows>
    </>
  );
}
