import './programmeWords.ts';
import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import type { ShownAgenda, ShownSession } from '#contract/agenda.ts';
import type { PublicEvent } from '#contract/publicEvent.ts';
import { slotsOf } from '#core/agenda/session.ts';
import { sayTimeOfDay } from '#core/time/face.ts';
import { sayLongDate } from '#core/time/say.ts';
import { readTexts } from '#core/words/texts.ts';
import { Button } from '#web/kit/Button.tsx';
import { Picture } from '../parts/Picture.tsx';
import { language } from './language.ts';
import { Acts, Head, Small, Soft } from './parts.tsx';

/** What happens when, who speaks, and who pays for it. */
export default function Agenda({ event, preview }: { event: PublicEvent; preview: boolean }) {
  const { t } = useTranslation();
  const { sessions, speakers, sponsors, call } = event.agenda;
  return (
    <>
      {sessions.length > 0 && <Timetable sessions={sessions} />}
      {call && (
        <p>
          {readTexts(call.words, language())}{' '}
          {!preview && <Link to={`/e/${event.slug}/propose`}>{t('proposeSession')}</Link>}
        </p>
      )}
      {speakers.length > 0 && <Speakers of={speakers} />}
      {sponsors.length > 0 && <Sponsors of={sponsors} />}
    </>
  );
}

/** Sessions in the order of time; those that begin together stand side by side where there is room. */
function Timetable({ sessions }: { sessions: readonly ShownSession[] }) {
  const { t } = useTranslation();
  const [only, setOnly] = useState<string | null>(null);
  const nameOf = (s: ShownSession) => (s.track ? readTexts(s.track, language()) : null);
  const tracks = [...new Set(sessions.map(nameOf).filter((name) => name !== null))];
  // What is in no track, as lunch, is for everybody.
  const shown = sessions.filter((s) => only === null || nameOf(s) === null || nameOf(s) === only);
  return (
    <chakra.section aria-label={t('programme')}>
      <Head>{t('programme')}</Head>
      {tracks.length > 1 && (
        <Acts role="group" aria-label={t('tracks')} marginBottom="8px">
          {[null, ...tracks].map((name) => (
            <Button
              key={name ?? ''}
              look={only === name ? 'main' : 'normal'}
              aria-pressed={only === name}
              onClick={() => setOnly(name)}
            >
              {name ?? t('allTracks')}
            </Button>
          ))}
        </Acts>
      )}
      {sessions.some((s) => s.signUp) && <Soft>{t('chooseLater')}</Soft>}
      {slotsOf(shown).map(({ day, slots }) => (
        <chakra.section key={day} marginBottom="14px">
          <chakra.h3 fontSize="17px" margin="14px 0 2px">
            {slots[0]!.sessions[0]!.startsLocal
              ? sayLongDate(slots[0]!.sessions[0]!.startsLocal, language())
              : t('dayNumber', { n: day })}
          </chakra.h3>
          <chakra.ol listStyleType="none" margin="0" padding="0">
            {slots.map((slot) => (
              <chakra.li
                key={sayTimeOfDay(slot.begins, language())}
                display="grid"
                gridTemplateColumns="72px minmax(0, 1fr)"
                gap="10px"
                padding="10px 0"
                borderTop="1px solid"
                borderColor="line"
              >
                <chakra.span textStyle="figures" color="soft">
                  {sayTimeOfDay(slot.begins, language())}
                </chakra.span>
                <chakra.div
                  display="grid"
                  gridTemplateColumns="repeat(auto-fit, minmax(min(100%, 210px), 1fr))"
                  gap="12px 20px"
                >
                  {slot.sessions.map((s) => (
                    <Session key={s.id} session={s} track={nameOf(s)} />
                  ))}
                </chakra.div>
              </chakra.li>
            ))}
          </chakra.ol>
        </chakra.section>
      ))}
    </chakra.section>
  );
}

function Session({ session, track }: { session: ShownSession; track: string | null }) {
  const { t } = useTranslation();
  const title = readTexts(session.title, language());
  const about = readTexts(session.about, language());
  if (session.kind === 'break')
    return (
      <chakra.span color="soft">
        {title}, {t('until', { time: sayTimeOfDay(session.ends, language()) })}
      </chakra.span>
    );
  return (
    <div>
      {about ? (
        <details>
          <chakra.summary cursor="pointer" fontWeight={500} _marker={{ color: 'verdigris' }}>
            {title}
          </chakra.summary>
          <chakra.p margin="4px 0 6px" whiteSpace="pre-line">
            {about}
          </chakra.p>
        </details>
      ) : (
        <chakra.span fontWeight={500}>{title}</chakra.span>
      )}
      {session.speakers.length > 0 && <Small>{session.speakers.join(', ')}</Small>}
      <Small>
        {[
          t('until', { time: sayTimeOfDay(session.ends, language()) }),
          session.room,
          track,
          session.left === 0 ? t('sessionFull') : session.left !== null && t('left', { count: session.left }),
        ]
          .filter(Boolean)
          .join(' · ')}
      </Small>
    </div>
  );
}

function Speakers({ of }: { of: ShownAgenda['speakers'] }) {
  const { t } = useTranslation();
  return (
    <>
      <Head>{t('speakers')}</Head>
      <chakra.ul
        listStyleType="none"
        padding="0"
        display="grid"
        gridTemplateColumns="repeat(auto-fill, minmax(min(100%, 250px), 1fr))"
        gap="14px 20px"
      >
        {of.map((s) => (
          <chakra.li key={s.id} display="flex" gap="12px" alignItems="center">
            {s.picture && (
              <chakra.div width="64px" flex="none">
                <Picture of={s.picture} language={language()} ratio="1 / 1" sizes="64px" />
              </chakra.div>
            )}
            <span>
              <chakra.span fontWeight={500}>{s.name}</chakra.span>
              <Small>{readTexts(s.line, language())}</Small>
            </span>
          </chakra.li>
        ))}
      </chakra.ul>
    </>
  );
}

/** By level, in the order the levels were first named. */
function Sponsors({ of }: { of: ShownAgenda['sponsors'] }) {
  const { t } = useTranslation();
  const levels = [...new Set(of.map((s) => s.level))];
  return (
    <>
      <Head>{t('sponsors')}</Head>
      {levels.map((level) => (
        <chakra.section key={level} marginBottom="10px">
          {level && (
            <chakra.h3 fontSize="15px" color="soft" margin="8px 0 4px">
              {level}
            </chakra.h3>
          )}
          <chakra.ul
            listStyleType="none"
            padding="0"
            margin="0"
            display="flex"
            flexWrap="wrap"
            gap="10px 26px"
            alignItems="center"
          >
            {of
              .filter((s) => s.level === level)
              .map((s) => (
                <li key={s.id}>
                  {s.picture && (
                    <chakra.div width="120px" marginBottom="4px">
                      <Picture of={s.picture} language={language()} sizes="120px" />
                    </chakra.div>
                  )}
                  {s.address ? (
                    <a href={s.address} rel="noopener nofollow sponsored">
                      {s.name}
                    </a>
                  ) : (
                    s.name
                  )}
                </li>
              ))}
          </chakra.ul>
        </chakra.section>
      ))}
    </>
  );
}
