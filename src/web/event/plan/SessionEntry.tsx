import { chakra } from '@chakra-ui/react';
import { Trash2 } from 'lucide-react';
import type { SessionPlan, Speaker } from '#contract/agenda.ts';
import type { VenueChoice } from '#contract/events.ts';
import type { EventPlan } from '#contract/plan.ts';
import { sayTimeOfDay } from '#core/time/face.ts';
import { Button } from '#web/kit/Button.tsx';
import { phrase, spokenLanguage } from '#web/words/phrase.ts';
import { SeveralOf, Tick } from '../../kit/Choosing.tsx';
import { ChoiceField, TextField } from '../../kit/Field.tsx';
import { BothLanguages } from './entries.tsx';

/** One session in the list of an agenda: what it is in a line, and all of it once it is opened. */
export function SessionEntry({
  session,
  wrong,
  path,
  rooms,
  tracks,
  speakers,
  days,
  nameOf,
  taken,
  open,
  toggle,
  set,
  remove,
}: {
  session: SessionPlan;
  wrong: Record<string, string>;
  path: string;
  rooms: VenueChoice['rooms'];
  tracks: EventPlan['tracks'];
  speakers: readonly Speaker[];
  days: number;
  nameOf: (day: number) => string;
  /** How many signed up. */
  taken: number;
  open: boolean;
  toggle: () => void;
  set: (part: Partial<SessionPlan>) => void;
  remove: () => void;
}) {
  const { begins, ends, title } = session;
  const room = rooms.find((r) => r.id === session.roomId);
  const error = (field: string) => wrong[`${path}.${field}`];
  const isWrong = Object.keys(wrong).some((at) => at.startsWith(`${path}.`));
  const seats = session.capacity ?? room?.capacity;
  return (
    <chakra.li borderBottom="1px solid" borderColor="line">
      <chakra.button
        type="button"
        display="grid"
        gridTemplateColumns={{
          base: 'max-content minmax(0, 1fr)',
          md: 'minmax(92px, max-content) minmax(0, 1fr) auto',
        }}
        gap="2px 12px"
        width="100%"
        padding="7px 0"
        border="0"
        background="none"
        color="inherit"
        font="inherit"
        _hover={{ background: 'paper' }}
        textAlign="left"
        alignItems="baseline"
        cursor="pointer"
        aria-expanded={open}
        onClick={toggle}
      >
        <span className={begins ? 'num' : 'soft'}>
          {begins && ends
            ? `${sayTimeOfDay(begins, spokenLanguage())}–${sayTimeOfDay(ends, spokenLanguage())}`
            : phrase('event.noTimeYet')}
        </span>
        <span>
          <chakra.span
            fontWeight={session.kind === 'break' ? 400 : 500}
            color={isWrong ? 'madder' : session.kind === 'break' ? 'soft' : undefined}
          >
            {title.en || phrase('event.untitled')}
          </chakra.span>
          {session.speakerIds.length > 0 && (
            <span className="soft">
              {' '}
              {speakers
                .filter((s) => session.speakerIds.includes(s.id))
                .map((s) => s.name)
                .join(', ')}
            </span>
          )}
        </span>
        <chakra.span className="soft num" gridColumn={{ base: '2', md: 'auto' }}>
          {[
            tracks.find((t) => t.id === session.trackId)?.name.en,
            room?.name,
            session.signUp &&
              (seats ? phrase('event.signedUpOf', { taken, seats }) : phrase('event.signedUp', { taken })),
          ]
            .filter(Boolean)
            .join(' · ')}
        </chakra.span>
      </chakra.button>
      {open && (
        <chakra.div padding="4px 0 12px" className="form">
          <BothLanguages
            label={phrase('event.sessionTitle')}
            id={`session-${session.id}-title`}
            value={title}
            set={(text) => set({ title: text })}
            error={error('title.en')}
          />
          <chakra.div
            display="grid"
            gridTemplateColumns={{ base: '1fr 1fr', md: '1.4fr 1fr 1fr 1.4fr' }}
            gap="0 12px"
          >
            <ChoiceField
              label={phrase('event.onDay')}
              value={session.day === null ? '' : String(session.day)}
              set={(day) => set(day ? { day: Number(day) } : { day: null, begins: null, ends: null })}
              choices={Array.from({ length: days }, (_, n) => ({
                value: String(n + 1),
                label: nameOf(n + 1),
              }))}
              empty={phrase('event.noTimeYet')}
              error={error('day')}
            />
            <TextField
              label={phrase('event.begins')}
              type="time"
              value={begins ?? ''}
              set={(time) => set({ begins: time || null })}
              error={error('begins')}
            />
            <TextField
              label={phrase('event.ends')}
              type="time"
              value={ends ?? ''}
              set={(time) => set({ ends: time || null })}
              error={error('ends')}
              consequence={begins && ends && ends < begins ? phrase('event.theNextDay') : ''}
            />
            {rooms.length > 0 && (
              <ChoiceField
                label={phrase('event.room')}
                value={session.roomId ?? ''}
                set={(roomId) => set({ roomId: roomId || null })}
                choices={rooms.map((r) => ({ value: r.id, label: r.name }))}
                empty={phrase('event.notSaid')}
                error={error('roomId')}
              />
            )}
          </chakra.div>
          {session.kind === 'session' && (
            <>
              <BothLanguages
                long
                label={phrase('event.sessionAbout')}
                value={session.about}
                set={(about) => set({ about })}
              />
              <div className="pair">
                {tracks.length > 0 && (
                  <ChoiceField
                    label={phrase('event.track')}
                    value={session.trackId ?? ''}
                    set={(trackId) => set({ trackId: trackId || null })}
                    choices={tracks.map((t) => ({ value: t.id, label: t.name.en }))}
                    empty={phrase('event.noTrack')}
                    error={error('trackId')}
                  />
                )}
                <TextField
                  label={phrase('common.capacity')}
                  type="number"
                  value={session.capacity === null ? '' : String(session.capacity)}
                  set={(n) => set({ capacity: n === '' ? null : Number(n) })}
                  error={error('capacity')}
                  help={room?.capacity ? phrase('event.roomHolds', { n: room.capacity }) : ''}
                />
              </div>
              <Tick checked={session.signUp} set={(signUp) => set({ signUp })}>
                {phrase('event.peopleSignUp')}
              </Tick>
              {speakers.length > 0 && (
                <SeveralOf
                  label={phrase('event.speakers')}
                  value={session.speakerIds}
                  set={(speakerIds) => set({ speakerIds })}
                  choices={speakers.map((s) => ({ value: s.id, label: s.name || phrase('event.untitled') }))}
                  error={error('speakerIds')}
                />
              )}
            </>
          )}
          <Button
            look="link"
            color="soft"
            aria-label={phrase('event.removeNamed', { name: title.en })}
            onClick={remove}
          >
            <Trash2 size={14} aria-hidden />{' '}
            {taken > 0 ? phrase('event.removeWithSeats', { taken }) : phrase('common.remove')}
          </Button>
        </chakra.div>
      )}
    </chakra.li>
  );
}
