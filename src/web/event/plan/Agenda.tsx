import { chakra } from '@chakra-ui/react';
import { Plus } from 'lucide-react';
import { type ReactNode, useState } from 'react';
import type { SessionPlan } from '#contract/agenda.ts';
import { remarksOnAgenda } from '#core/agenda/checking.ts';
import { daysOf, isPlaced, nextTimes, slotsOf, unplaced } from '#core/agenda/session.ts';
import { shiftDate } from '#core/time/dates.ts';
import { sayShortDate } from '#core/time/say.ts';
import { say, words } from '#core/words/spoken.ts';
import { Button } from '#web/kit/Button.tsx';
import { phrase } from '#web/words/phrase.ts';
import { TextField } from '../../kit/Field.tsx';
import { Empty, Note } from '../../kit/Note.tsx';
import { useAsk } from '../../parts/ask.ts';
import { Entries, Entry } from './entries.tsx';
import { Proposals } from './Proposals.tsx';
import { SessionEntry } from './SessionEntry.tsx';
import type { SectionProps } from './section.ts';

const newSession = (kind: SessionPlan['kind'], times: Partial<SessionPlan> = {}): SessionPlan => ({
  ...unplaced(crypto.randomUUID(), { en: phrase(kind === 'break' ? 'event.break' : 'event.newSession') }),
  kind,
  ...times,
});

/** What happens when: days, tracks and sessions, edited in a list in the order of time. */
export function Agenda({ draft, page }: SectionProps) {
  const { plan, change, wrong } = draft;
  const choices = useAsk('GET /api/choices').data;
  const standing = useAsk('GET /api/events/:id/agenda', { params: { id: page.id } }).data;
  const [open, setOpen] = useState<string | null>(null);
  const rooms = choices?.venues.find((v) => v.id === plan.venueId)?.rooms ?? [];
  const { sessions, tracks, startsLocal, endsLocal } = plan;
  const days = Math.max(
    startsLocal ? daysOf({ startsLocal, endsLocal }) : 1,
    ...sessions.map((s) => s.day ?? 1),
  );
  const nameOf = (day: number): string =>
    startsLocal
      ? phrase('event.dayNamed', {
          n: day,
          date: sayShortDate(shiftDate(startsLocal.slice(0, 10), day - 1), true),
        })
      : phrase('event.day', { n: day });
  const set = (id: string, part: Partial<SessionPlan>) =>
    change({ sessions: sessions.map((s) => (s.id === id ? { ...s, ...part } : s)) });
  const add = (session: SessionPlan) => {
    change({ sessions: [...sessions, session] });
    setOpen(session.id);
    requestAnimationFrame(() => document.getElementById(`session-${session.id}-title`)?.focus());
  };
  const entry = (session: SessionPlan) => (
    <SessionEntry
      key={session.id}
      session={session}
      wrong={wrong}
      path={`sessions.${sessions.indexOf(session)}`}
      rooms={rooms}
      tracks={tracks}
      speakers={plan.speakers}
      days={days}
      nameOf={nameOf}
      taken={standing?.taken.find((t) => t.sessionId === session.id)?.seats ?? 0}
      open={open === session.id}
      toggle={() => setOpen(open === session.id ? null : session.id)}
      set={(part) => set(session.id, part)}
      remove={() => change({ sessions: sessions.filter((s) => s.id !== session.id) })}
    />
  );
  const timetable = slotsOf(sessions);
  const unplaced = sessions.filter((s) => !isPlaced(s));
  const remarks = remarksOnAgenda(sessions, plan, plan.speakers, rooms);
  return (
    <>
      {remarks.map((r) => (
        <Note as="p" key={`${r.sessionId} ${r.code} ${String(r.params.other)}`} tone="need">
          {say(words().agenda[r.code], r.params)}
        </Note>
      ))}
      {sessions.length === 0 && <Empty>{phrase('event.noSessions')}</Empty>}
      {Array.from({ length: sessions.length ? days : 0 }, (_, n) => n + 1).map((day) => {
        const slots = timetable.find((d) => d.day === day)?.slots ?? [];
        return (
          <Day key={day} title={days > 1 || startsLocal ? nameOf(day) : ''}>
            <chakra.ul listStyleType="none" padding="0" margin="0">
              {slots.flatMap((slot) => slot.sessions.map(entry))}
            </chakra.ul>
            <div className="acts">
              <Button
                look="plain"
                onClick={() => add(newSession('session', nextTimes(sessions, day, startsLocal)))}
              >
                <Plus size={14} aria-hidden /> {phrase('event.addSession')}
              </Button>
              <Button
                look="plain"
                onClick={() => add(newSession('break', nextTimes(sessions, day, startsLocal)))}
              >
                <Plus size={14} aria-hidden /> {phrase('event.addBreak')}
              </Button>
            </div>
          </Day>
        );
      })}
      {sessions.length === 0 && (
        <Button onClick={() => add(newSession('session', nextTimes(sessions, 1, startsLocal)))}>
          <Plus size={14} aria-hidden /> {phrase('event.addSession')}
        </Button>
      )}
      {unplaced.length > 0 && (
        <Day title={phrase('event.notPlacedYet')}>
          <chakra.ul listStyleType="none" padding="0" margin="0">
            {unplaced.map(entry)}
          </chakra.ul>
        </Day>
      )}
      <Day title={phrase('event.tracks')}>
        <Entries>
          {tracks.map((track) => (
            <Entry
              key={track.id}
              name={track.name.en}
              remove={() =>
                change({
                  tracks: tracks.filter((t) => t.id !== track.id),
                  sessions: sessions.map((s) => (s.trackId === track.id ? { ...s, trackId: null } : s)),
                })
              }
            >
              <div className="pair">
                <TextField
                  label={phrase('event.track')}
                  value={track.name.en}
                  set={(en) =>
                    change({
                      tracks: tracks.map((t) => (t.id === track.id ? { ...t, name: { ...t.name, en } } : t)),
                    })
                  }
                />
                <TextField
                  label={phrase('event.labelInFrench', { label: phrase('event.track') })}
                  value={track.name.fr ?? ''}
                  set={(fr) =>
                    change({
                      tracks: tracks.map((t) =>
                        t.id === track.id ? { ...t, name: { en: t.name.en, ...(fr && { fr }) } } : t,
                      ),
                    })
                  }
                />
              </div>
            </Entry>
          ))}
        </Entries>
        <Button
          look="plain"
          onClick={() =>
            change({
              tracks: [...tracks, { id: crypto.randomUUID(), name: { en: phrase('event.newTrack') } }],
            })
          }
        >
          <Plus size={14} aria-hidden /> {phrase('event.addTrack')}
        </Button>
      </Day>
      {standing && standing.proposals.length > 0 && <Proposals of={standing.proposals} />}
    </>
  );
}

function Day({ title, children }: { title: string; children: ReactNode }) {
  return (
    <chakra.section marginBottom="14px">
      {title && (
        <chakra.h4 fontWeight="600" color="soft" margin="10px 0 2px">
          {title}
        </chakra.h4>
      )}
      {children}
    </chakra.section>
  );
}
