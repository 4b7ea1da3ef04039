import './holdingWords.ts';
import './programmeWords.ts';
import { chakra } from '@chakra-ui/react';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import type { ShownSession } from '#contract/agenda.ts';
import { meet, slotsOf } from '#core/agenda/session.ts';
import { sayTimeOfDay } from '#core/time/face.ts';
import { sayLongDate } from '#core/time/say.ts';
import { readTexts } from '#core/words/texts.ts';
import { type Answer, ApiProblem, addressOf, call } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { Tick } from '#web/kit/Choosing.tsx';
import { Problems } from '#web/kit/notices.tsx';
import { useAsk } from './asking.ts';
import { language } from './language.ts';
import { Loaded } from './notices.tsx';
import { Acts, Head, Say, Small } from './parts.tsx';

/** The sessions that those of a booking come to, seat by seat. */
export default function Sessions({ token }: { token: string }) {
  const { t } = useTranslation();
  // The seat whose sessions were kept last: it is shown anew by then.
  const [kept, setKept] = useState<string | null>(null);
  return (
    <Loaded of={useAsk('GET /api/public/orders/:token/sessions', { token })}>
      {({ sessions, seats }) =>
        sessions.length > 0 && (
          <chakra.section id="sessions">
            <Head>{t('yourSessions')}</Head>
            {seats.map((seat) => (
              <Choosing
                // Chosen anew elsewhere, it is shown anew.
                key={`${seat.id} ${seat.has.join()}`}
                seat={seat}
                sessions={sessions}
                token={token}
                named={seats.length > 1}
                kept={kept === seat.id}
                keep={setKept}
              />
            ))}
          </chakra.section>
        )
      }
    </Loaded>
  );
}

type Seat = Answer<'GET /api/public/orders/:token/sessions'>['seats'][number];

function Choosing({
  seat,
  sessions,
  token,
  named,
  kept,
  keep,
}: {
  seat: Seat;
  sessions: readonly ShownSession[];
  token: string;
  named: boolean;
  kept: boolean;
  keep: (seat: string) => void;
}) {
  const { t } = useTranslation();
  const client = useQueryClient();
  const [chosen, setChosen] = useState<readonly string[]>(seat.has);
  const params = { token, seat: seat.id };
  const save = useMutation({
    mutationFn: () =>
      call('PUT /api/public/orders/:token/seats/:seat/sessions', {
        params,
        body: { sessions: [...chosen] },
      }),
    onSuccess: () => keep(seat.id),
    onSettled: () =>
      client.invalidateQueries({
        queryKey: [addressOf('GET /api/public/orders/:token/sessions', { token })],
      }),
  });
  const changed = chosen.length !== seat.has.length || chosen.some((id) => !seat.has.includes(id));
  const titleOf = (s: ShownSession) => readTexts(s.title, language());
  const inTheWay = (s: ShownSession) =>
    chosen.includes(s.id) ? undefined : sessions.find((o) => chosen.includes(o.id) && meet(o, s));
  return (
    <chakra.fieldset border="0" padding="0" margin="0 0 16px">
      <chakra.legend {...(!named && { srOnly: true })} fontWeight={500}>
        {seat.name || t('unnamed')}
      </chakra.legend>
      {slotsOf(sessions).map(({ day, slots }) => (
        <div key={day}>
          <chakra.h3 fontSize="15px" color="soft" margin="10px 0 0">
            {slots[0]!.sessions[0]!.startsLocal
              ? sayLongDate(slots[0]!.sessions[0]!.startsLocal, language())
              : t('dayNumber', { n: day })}
          </chakra.h3>
          {slots
            .flatMap((slot) => slot.sessions)
            .map((s) => {
              const other = inTheWay(s);
              const full = s.left === 0 && !seat.has.includes(s.id);
              return (
                <Tick
                  key={s.id}
                  checked={chosen.includes(s.id)}
                  disabled={Boolean(other) || full}
                  set={(on) => setChosen(on ? [...chosen, s.id] : chosen.filter((id) => id !== s.id))}
                >
                  <chakra.span textStyle="figures">
                    {sayTimeOfDay(s.begins, language())}–{sayTimeOfDay(s.ends, language())}
                  </chakra.span>{' '}
                  {titleOf(s)}
                  <Small>
                    {other
                      ? t('sameTimeAs', { title: titleOf(other) })
                      : full
                        ? t('sessionFull')
                        : [s.room, s.left !== null && t('left', { count: s.left })]
                            .filter(Boolean)
                            .join(' · ')}
                  </Small>
                </Tick>
              );
            })}
        </div>
      ))}
      <Problems of={save.error instanceof ApiProblem ? save.error : null} />
      {kept && !changed && (
        <Say tone="good" role="status">
          {t('sessionsKept')}
        </Say>
      )}
      <Acts alignItems="center">
        <Button
          look={changed ? 'main' : 'normal'}
          disabled={!changed || save.isPending}
          onClick={() => save.mutate()}
        >
          {t('keepSessions')}
        </Button>
        {seat.has.length > 0 && (
          <a href={addressOf('GET /api/public/orders/:token/seats/:seat/sessions.ics', params)}>
            {t('sessionsCalendar')}
          </a>
        )}
      </Acts>
    </chakra.fieldset>
  );
}
