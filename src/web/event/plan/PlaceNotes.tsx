import { chakra } from '@chakra-ui/react';
import type { ReactNode } from 'react';
import type { PlaceStanding } from '#contract/places.ts';
import { putAt } from '#core/events/dated.ts';
import { sayShortDate, sayTime, sayWeekday } from '#core/time/say.ts';
import { Button, TextLink } from '#web/kit/Button.tsx';
import { phrase } from '#web/words/phrase.ts';
import { Note } from '../../kit/Note.tsx';
import { useAsk } from '../../parts/ask.ts';
import type { SectionProps } from './section.ts';

/** Who is at the chosen place at that time, and what settles it: another room, another time, or sharing it. */
export function PlaceNotes({ draft: { plan, change }, page, place }: SectionProps & { place: string }) {
  const { venueId, roomId, startsLocal, endsLocal, doorsLocal, beside } = plan;
  const standing = useAsk('GET /api/events/:id/place', {
    params: { id: page.id },
    query: {
      venueId,
      ...(roomId && { roomId }),
      startsLocal,
      ...(endsLocal && startsLocal && endsLocal > startsLocal && { endsLocal }),
      ...(doorsLocal && { doorsLocal }),
    },
    enabled: venueId !== null && startsLocal !== null,
  });
  if (!standing.data || !startsLocal) return null;
  const { taken, rooms, starts, outside, closed } = standing.data;
  const isShared = (t: PlaceStanding['taken'][number]) => t.agreed || beside.some((b) => b.id === t.eventId);
  const open = taken.filter((t) => !isShared(t));
  const shared = taken.filter(isShared);
  const begin = (start: string) => {
    const { registrationClosesLocal } = plan;
    change(putAt({ startsLocal, endsLocal, doorsLocal, registrationClosesLocal }, start));
  };
  return (
    <>
      {closed && (
        <Note as="p" tone="need">
          {'why' in closed
            ? phrase('event.placeClosedWhy', { place, why: closed.why })
            : phrase('event.placeClosedWeekday', { place, weekday: sayWeekday(startsLocal) })}
        </Note>
      )}
      {outside.length > 0 && (
        <Note as="div" tone="need" marginTop="12px">
          {outside.map((o) => (
            <p key={`${o.diary} ${o.summary} ${o.when}`}>
              {phrase(o.tentative ? 'event.outsidePerhaps' : 'event.outsideHas', {
                diary: o.diary,
                summary: o.summary || phrase('event.somethingThen'),
                when: o.when,
              })}
            </p>
          ))}
        </Note>
      )}
      {open.length > 0 && (
        <Note as="div" tone="stop" marginTop="12px">
          <p>
            {phrase('event.placeTakenBy', { place })}{' '}
            {open.map((t, at) => (
              <span key={t.eventId}>
                {at > 0 && ', '}
                <TextLink to={`/events/${t.eventId}`}>{t.title}</TextLink>{' '}
                <span className="soft">{t.when}</span>
              </span>
            ))}
            .
          </p>
          {rooms.length > 0 && (
            <Ways title={phrase('event.freeThen')}>
              {rooms.map((r) => (
                <Button
                  key={r.id}
                  look="link"
                  color="verdigris"
                  onClick={() => change({ roomId: r.id, layout: '', beside: [] })}
                >
                  {r.capacity ? phrase('event.layoutHolds', { name: r.name, capacity: r.capacity }) : r.name}
                </Button>
              ))}
            </Ways>
          )}
          {starts.length > 0 && (
            <Ways title={phrase('event.freeAt')}>
              {starts.map((start) => (
                <Button key={start} look="link" color="verdigris" onClick={() => begin(start)}>
                  {sayShortDate(start, true)} {sayTime(start)}
                </Button>
              ))}
            </Ways>
          )}
          <p>
            <Button
              look="plain"
              onClick={() =>
                change({ beside: [...beside, ...open.map((t) => ({ id: t.eventId, title: t.title }))] })
              }
            >
              {phrase('event.shareIt')}
            </Button>{' '}
            <span className="soft">{phrase('event.shareItWill')}</span>
          </p>
        </Note>
      )}
      {shared.length > 0 && (
        <Note as="p" tone="know">
          {phrase('event.placeShared', { titles: shared.map((t) => t.title).join(', ') })}{' '}
          {beside.length > 0 && (
            <Button look="link" color="soft" onClick={() => change({ beside: [] })}>
              {phrase('event.stopSharing')}
            </Button>
          )}
        </Note>
      )}
    </>
  );
}

/** Several ways out of a clash, side by side. */
function Ways({ title, children }: { title: string; children: ReactNode }) {
  return (
    <chakra.p display="flex" flexWrap="wrap" gap="2px 12px" alignItems="baseline">
      <span className="soft">{title}</span>
      {children}
    </chakra.p>
  );
}
