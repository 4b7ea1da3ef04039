import { chakra } from '@chakra-ui/react';
import { useEffect, useState } from 'react';
import type { WhatIf } from '#contract/changes.ts';
import type { EventPage } from '#contract/events.ts';
import { TextLink } from '#web/kit/Button.tsx';
import { Tick } from '#web/kit/Choosing.tsx';
import { DateField, Text, TimeField } from '#web/kit/form/fields.tsx';
import type { Form } from '#web/kit/form/useForm.ts';
import { phrase } from '#web/words/phrase.ts';
import { oddsWords } from './changeWords.ts';
import { Lines } from './Part.tsx';
import { changeOf, type Doing, laterBy, type Settled, settlesOdds } from './settling.ts';

type Odd = WhatIf['odds'][number];

/** What a change is at odds with, each with what settles it: other hands, another time, or sessions that move or wait. */
export function Odds({
  told,
  form,
  page,
  doing,
}: {
  told: WhatIf;
  form: Form<Settled>;
  page: EventPage;
  doing: Exclude<Doing, { move: unknown }>;
}) {
  const { values } = form;
  const settles = settlesOdds(values);
  // What is settled stays in sight, though it is at odds with nothing any more.
  const [known, setKnown] = useState<readonly Odd[]>(told.odds);
  useEffect(() => {
    if (!settles) setKnown(told.odds);
  }, [told.odds, settles]);
  const leads = [...new Map(known.flatMap((o) => o.leads).map((l) => [l.memberId, l.name]))];
  const sessions = known.filter((o) => o.of === 'session' && o.sessionId);
  const minutes = laterBy(page.plan, changeOf(doing, values, page.plan));
  const timed = known.some((o) => o.of !== 'session') && page.plan.startsLocal !== null;
  const toggle = (ids: readonly string[], id: string, on: boolean) =>
    on ? [...ids, id] : ids.filter((x) => x !== id);
  if (!known.length && !told.odds.length) return null;
  return (
    <>
      {told.odds.length > 0 && (
        <Lines>
          {told.odds.map((o) => (
            <chakra.li key={`${o.of}${o.what}`} color="ochre">
              {o.eventId ? (
                <TextLink to={`/events/${o.eventId}/plan`}>
                  {phrase(oddsWords[o.of], { what: o.what })}
                </TextLink>
              ) : (
                phrase(oddsWords[o.of], { what: o.what })
              )}
            </chakra.li>
          ))}
        </Lines>
      )}
      {!told.odds.length && settles && <p className="soft">{phrase('changes.oddsNoMore')}</p>}
      <chakra.div padding="4px 0 8px 22px">
        {leads.map(([memberId, name]) => (
          <Tick
            key={memberId}
            checked={values.offTeam.includes(memberId)}
            set={(on) => form.set({ offTeam: toggle(values.offTeam, memberId, on) })}
          >
            {phrase('changes.offTeam', { name })}
          </Tick>
        ))}
        {values.offTeam.length > 0 && (
          <Text
            form={form}
            name="leadEmail"
            type="email"
            label={phrase('changes.leadEmail')}
            help={phrase('changes.leadEmailHelp')}
          />
        )}
        {sessions.length > 0 && minutes !== 0 && (
          <Tick checked={values.along} set={(along) => form.set({ along })}>
            {phrase('changes.sessionsAlong')}
          </Tick>
        )}
        {sessions.map(({ sessionId }) => (
          <Tick
            key={sessionId}
            checked={values.offAgenda.includes(sessionId!)}
            set={(on) => form.set({ offAgenda: toggle(values.offAgenda, sessionId!, on) })}
          >
            {phrase('changes.offAgenda', {
              title: page.plan.sessions.find((s) => s.id === sessionId)?.title.en ?? '',
            })}
          </Tick>
        ))}
        {timed && (
          <>
            <p>{phrase('changes.otherTime')}</p>
            <div className="pair">
              <DateField form={form} name="starts" label={phrase('common.date')} />
              <TimeField form={form} name="startsAt" label={phrase('event.begins')} />
            </div>
          </>
        )}
      </chakra.div>
    </>
  );
}
