import './holdingWords.ts';
import './helping/words.ts';
import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useParams } from 'react-router';
import { sayFromTo } from '#core/time/fromTo.ts';
import { sayLongDate } from '#core/time/say.ts';
import { type Answer, addressOf } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { TextField } from '#web/kit/Field.tsx';
import { Problems } from '#web/kit/notices.tsx';
import { useAsk } from './asking.ts';
import { FeedAddress } from './FeedAddress.tsx';
import { OwnAsks, OwnWaits } from './helping/OwnAsks.tsx';
import { Swap, Wished, WishedOfYou } from './helping/Swap.tsx';
import { useOwnAct } from './helping/useOwnAct.ts';
import { language } from './language.ts';
import { mapOf } from './map.ts';
import { Loaded } from './notices.tsx';
import { Acts, Head, Rows, Say, Small, Soft, Title } from './parts.tsx';
import { CrewSigns } from './Sign.tsx';
import { useSeenShifts } from './seenShifts.ts';
import { WhereYouAre } from './WhereYouAre.tsx';

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
      <chakra.div id="waivers">
        {page.toSign.map((of) => (
          <CrewSigns key={of.eventId} of={of} name={page.fullName} token={token} />
        ))}
      </chakra.div>
      <OwnAsks page={page} token={token} />
      {coming.length === 0 ? (
        <Say>{t('noneYet')}</Say>
      ) : (
        <List page={page} shifts={coming} token={token} markOf={markOf} />
      )}
      <WishedOfYou page={page} token={token} />
      <OwnWaits page={page} token={token} />
      <Head>{t('inYourCalendar')}</Head>
      <Soft>{t('calendarFollows')}</Soft>
      <FeedAddress feed={`${location.origin}${calendar}`} />
      <chakra.p marginTop="6px">
        <a href={calendar}>{t('calendarFile')}</a>
      </chakra.p>
      {past.length > 0 && (
        <>
          <Head>{t('past')}</Head>
          <List page={page} shifts={past} token={token} markOf={markOf} />
        </>
      )}
    </>
  );
}

function List({
  page,
  shifts,
  token,
  markOf,
}: {
  page: Page;
  shifts: Page['shifts'];
  token: string;
  markOf: ReturnType<typeof useSeenShifts>;
}) {
  const { t } = useTranslation();
  /** What stands open under which shift. */
  const [open, setOpen] = useState<{ what: 'drop' | 'swap'; id: string } | null>(null);
  const drop = useOwnAct('POST /api/public/crew/:token/drop', token);
  return (
    <>
      <Problems of={drop.problem} />
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
            <WhereYouAre of={s} />
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
            <Wished shift={s} page={page} />
            {!s.past && open?.id !== s.assignmentId && (
              <Acts>
                <Button look="plain" onClick={() => setOpen({ what: 'drop', id: s.assignmentId })}>
                  {t(s.state === 'proposed' ? 'takeItBack' : 'giveBack')}
                </Button>
                {s.state === 'agreed' && page.others.some((o) => o.eventId === s.eventId) && (
                  <Button look="plain" onClick={() => setOpen({ what: 'swap', id: s.assignmentId })}>
                    {t('swap')}
                  </Button>
                )}
              </Acts>
            )}
            {open?.id === s.assignmentId && open.what === 'swap' && (
              <Swap shift={s} page={page} token={token} close={() => setOpen(null)} />
            )}
            {open?.id === s.assignmentId && open.what === 'drop' && (
              <GiveBack
                asked={s.state === 'proposed'}
                pending={drop.isPending}
                send={(words) =>
                  drop.mutate({ assignmentId: s.assignmentId, words }, { onSuccess: () => setOpen(null) })
                }
                close={() => setOpen(null)}
              />
            )}
          </li>
        ))}
      </Rows>
    </>
  );
}

/** Asks once more before a shift is given back, and why; what was only asked for is taken back without a word. */
function GiveBack({
  asked,
  pending,
  send,
  close,
}: {
  asked: boolean;
  pending: boolean;
  send: (words: string) => void;
  close: () => void;
}) {
  const { t } = useTranslation();
  const [words, setWords] = useState('');
  return (
    <chakra.div margin="8px 0">
      {!asked && (
        <>
          <p>{t('giveBackText')}</p>
          <TextField label={t('giveBackWhy')} value={words} set={setWords} maxLength={300} />
        </>
      )}
      <Acts>
        <Button look="stop" disabled={pending} onClick={() => send(words.trim())}>
          {t(asked ? 'takeItBack' : 'giveBack')}
        </Button>
        <Button onClick={close}>{t('cancel')}</Button>
      </Acts>
    </chakra.div>
  );
}
