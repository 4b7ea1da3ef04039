import { chakra } from '@chakra-ui/react';
import { useEffect, useRef } from 'react';
import type { EventPage } from '#contract/events.ts';
import { sayRange, sayShortDate } from '#core/time/say.ts';
import { phrase, term } from '#web/words/phrase.ts';
import { Button, TextLink } from '../../kit/Button.tsx';
import { useAction, useAsk } from '../../parts/ask.ts';
import { useSaying } from '../../parts/saying.ts';
import { fieldTitles } from '../plan/fieldWords.ts';
import { useSayChange } from '../plan/sayingChanges.ts';

/** What somebody who decides asks beside the plan: what changed since they looked, what was said before, what else is that day. */
export function Around({ page }: { page: EventPage }) {
  const around = useAsk('GET /api/events/:id/clearance/around', { params: { id: page.id } }).data;
  const { at } = useSaying();
  const sayChange = useSayChange(page);
  const see = useAction('POST /api/events/:id/clearance/seen');
  const first = useRef(true);
  // The first look is what later ones are compared with.
  useEffect(() => {
    if (around?.seenAt !== null || around === undefined || !first.current) return;
    first.current = false;
    see.mutate({ params: { id: page.id } });
  }, [around, page.id, see]);
  if (!around) return null;
  const { changes, before, thatDay } = around;
  return (
    <>
      {changes.length > 0 && (
        <section aria-label={phrase('clearance.changedSince')}>
          <chakra.h3 marginTop="18px">{phrase('clearance.changedSince')}</chakra.h3>
          <ul className="lines">
            {changes.map((c) => (
              <li key={c.id}>
                <b>{fieldTitles[c.field]}</b>: {sayChange(c)}{' '}
                <chakra.span className="soft" fontSize="14px">
                  {c.actor}, {at(c.at)}
                </chakra.span>
              </li>
            ))}
          </ul>
          <Button
            look="plain"
            disabled={see.isPending}
            onClick={() => see.mutate({ params: { id: page.id } })}
          >
            {phrase('clearance.seen')}
          </Button>
        </section>
      )}
      {before.length > 0 && (
        <section aria-label={phrase('clearance.lastTime')}>
          <chakra.h3 marginTop="18px">{phrase('clearance.lastTime')}</chakra.h3>
          <ul className="lines">
            {before.map((e) => (
              <li key={e.eventId}>
                <TextLink to={`/events/${e.eventId}/clearance`}>
                  {e.title}, {sayShortDate(e.startsLocal)} {e.startsLocal.slice(0, 4)}
                </TextLink>
                {e.steps.map((s) => (
                  <chakra.p key={s.step} fontSize="14px">
                    {s.step}: {term(s.state)}
                    {s.decidedBy && `, ${s.decidedBy}`}
                    {s.words && ` · “${s.words}”`}
                    {s.conditions.length > 0 && ` · ${s.conditions.join('; ')}`}
                  </chakra.p>
                ))}
              </li>
            ))}
          </ul>
        </section>
      )}
      {thatDay.length > 0 && (
        <section aria-label={phrase('clearance.thatDay')}>
          <chakra.h3 marginTop="18px">{phrase('clearance.thatDay')}</chakra.h3>
          <ul className="lines">
            {thatDay.map((e) => (
              <li key={`${e.title} ${e.startsLocal}`}>
                {e.title}{' '}
                <chakra.span className={e.samePlace ? 'late' : 'soft'} fontSize="14px">
                  {sayRange(e.startsLocal, e.endsLocal)}
                  {e.venue && ` · ${e.venue}`}
                  {e.samePlace && ` · ${phrase('clearance.samePlace')}`}
                </chakra.span>
              </li>
            ))}
          </ul>
        </section>
      )}
    </>
  );
}
