import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import type { EventPage } from '#contract/events.ts';
import { hasCome } from '#core/doors/attendance.ts';
import { minutesLate } from '#core/doors/marks.ts';
import { type Answer, addressOf } from '#web/api.ts';
import { Asking } from '#web/kit/Asking.tsx';
import { Button, ButtonAnchor } from '#web/kit/Button.tsx';
import { InlineChoice, InlineText } from '#web/kit/Inline.tsx';
import { Loaded, Problems } from '#web/kit/notices.tsx';
import { SlideOver } from '#web/kit/SlideOver.tsx';
import { type Column, Table } from '#web/kit/Table.tsx';
import { say } from '#web/kit/toast.tsx';
import { useAction, useAsk, useMe } from '#web/parts/ask.ts';
import { useSaying } from '#web/parts/saying.ts';
import { phrase, term } from '#web/words/phrase.ts';
import { Disputes } from './Disputes.tsx';
import { OpenAgain } from './OpenAgain.tsx';
import { TakeList } from './TakeList.tsx';
import { Taken } from './Taken.tsx';
import { ThisPerson } from './ThisPerson.tsx';

type Attendance = Answer<'GET /api/events/:id/attendance'>;
type Row = Attendance['rows'][number];

/** Who was at an event, for how long, what was corrected, and what people say against it. */
export function WhoWasThere({ page }: { page: EventPage }) {
  const attendance = useAsk('GET /api/events/:id/attendance', { params: { id: page.id } });
  return <Loaded of={attendance}>{(a) => <Shown attendance={a} page={page} />}</Loaded>;
}

const nameOf = (r: Pick<Row, 'given' | 'family'>): string =>
  [r.family, r.given].filter(Boolean).join(', ') || phrase('common.guestToBeNamed');

/** Minutes as "1 h 20". */
const sayMinutes = (minutes: number): string =>
  minutes < 60
    ? phrase('event.minutesShort', { minutes })
    : phrase('event.hoursShort', {
        hours: Math.floor(minutes / 60),
        minutes: String(minutes % 60).padStart(2, '0'),
      });

function Shown({ attendance: a, page }: { attendance: Attendance; page: EventPage }) {
  const { timeOfDay, day, at, now } = useSaying();
  const [words, setWords] = useState('');
  const [only, setOnly] = useState('');
  const [open, setOpen] = useState<string | null>(null);
  const [taking, setTaking] = useState(false);
  const [closing, setClosing] = useState(false);
  const [opening, setOpening] = useState(false);
  const roles = useMe().data?.staff.roles ?? [];
  const leads = page.may.change.includes('doors') && roles.some((r) => r !== 'door');
  const several = a.days.length > 1;
  const close = useAction('POST /api/events/:id/doors/close', ({ missed }, sent) => {
    setClosing(false);
    say(sent?.body.closed ? phrase('event.doorsClosedNow', { missed }) : phrase('event.doorsOpenNow'));
  });
  const begun = a.days.length > 0 && a.days[0]!.from <= now;
  const rows = a.rows.filter(
    (r) =>
      `${r.given} ${r.family}`.toLowerCase().includes(words.trim().toLowerCase()) &&
      (only === '' || (only === 'earned' ? r.earned : only === 'corrected' ? r.corrected : r.state === only)),
  );
  const counts = (state: Row['state']) => a.rows.filter((r) => r.state === state).length;
  const moment = (instant: string | null) => (several ? at(instant) : timeOfDay(instant));
  const columns: Column<Row>[] = [
    {
      id: 'name',
      phone: 'title',
      heading: phrase('common.name'),
      sortBy: (r) => nameOf(r).toLowerCase(),
      cell: (r) => <span className="name">{nameOf(r)}</span>,
    },
    {
      id: 'state',
      phone: 'bare',
      heading: phrase('event.thereState'),
      sortBy: (r) => r.state,
      cell: (r) => (
        <>
          {term(r.state)}
          {r.corrected && <span className="soft"> · {phrase('event.wasCorrected')}</span>}
        </>
      ),
    },
    {
      id: 'arrived',
      heading: term('arrived'),
      number: true,
      sortBy: (r) => r.arrivedAt ?? '',
      cell: (r) => {
        const start = r.arrivedAt && (a.days.find((d) => r.arrivedAt! <= d.until) ?? a.days[0]);
        const late = start ? minutesLate(r.arrivedAt!, start.from) : 0;
        return (
          <>
            {moment(r.arrivedAt)}
            {late > 0 && <span className="soft"> · {phrase('event.lateBy', { minutes: late })}</span>}
          </>
        );
      },
    },
    {
      id: 'left',
      heading: term('left'),
      number: true,
      sortBy: (r) => r.leftAt ?? '',
      cell: (r) => moment(r.leftAt),
    },
    {
      id: 'minutes',
      heading: phrase('event.timeThere'),
      number: true,
      sortBy: (r) => r.counted.minutes,
      cell: (r) =>
        r.counted.minutes === 0
          ? ''
          : `${sayMinutes(r.counted.minutes)} · ${Math.round((r.counted.minutes / Math.max(1, r.counted.of)) * 100)} %`,
    },
    ...(a.sessions.some((s) => s.kept)
      ? [
          {
            id: 'sessions',
            heading: phrase('event.atSessions'),
            cell: (r: Row) =>
              r.sessions.map((id) => a.sessions.find((s) => s.id === id)?.title ?? '').join(', '),
          },
        ]
      : []),
    ...(a.certificate
      ? [
          {
            id: 'earned',
            heading: phrase('event.certificate'),
            sortBy: (r: Row) => Number(r.earned),
            cell: (r: Row) => (r.earned ? phrase('event.certificateEarned') : ''),
          },
        ]
      : []),
  ];
  const chosen = a.rows.find((r) => r.registrationId === open);
  return (
    <>
      <div className="spread">
        <p className="num">
          {phrase('event.cameMissedExpected', {
            came: a.rows.filter((r) => hasCome(r.state)).length,
            missed: counts('missed'),
            expected: counts('expected'),
          })}
        </p>
        <div className="acts">
          {a.certificate && a.rows.some((r) => r.earned) && (
            <ButtonAnchor
              href={addressOf('GET /api/events/:id/certificates.pdf', { id: page.id })}
              target="_blank"
              rel="noopener"
            >
              {phrase('event.certificates', { count: a.rows.filter((r) => r.earned).length })}
            </ButtonAnchor>
          )}
          {leads && begun && !a.locked && (
            <Button onClick={() => setTaking(true)}>{phrase('event.takeList')}</Button>
          )}
          {leads && begun && a.closedAt === null && (
            <Button onClick={() => setClosing(true)}>{phrase('event.closeDoors')}</Button>
          )}
          {leads && a.closedAt !== null && a.days.at(-1)!.until > now && (
            <Button
              disabled={close.isPending}
              onClick={() => close.mutate({ params: { id: page.id }, body: { closed: false } })}
            >
              {phrase('event.openDoors')}
            </Button>
          )}
        </div>
      </div>
      <Problems of={close.problem} />
      {a.locksAt && (
        <p className={a.locked ? 'need' : 'soft'}>
          {a.openUntil
            ? phrase('event.attendanceOpenUntil', { time: at(a.openUntil) })
            : a.locked
              ? phrase('event.attendanceStands', { date: day(a.locksAt) })
              : phrase('event.attendanceLocks', { date: day(a.locksAt) })}{' '}
          {a.locked && roles.includes('coordinator') && (
            <Button look="link" onClick={() => setOpening(true)}>
              {phrase('event.openOnceMore')}
            </Button>
          )}
        </p>
      )}
      <Disputes disputes={a.disputes} may={leads && !a.locked} days={a.days} />
      <chakra.div className="acts" margin="10px 0">
        <InlineText
          label={phrase('event.findPerson')}
          placeholder={phrase('event.findPerson')}
          value={words}
          set={setWords}
        />
        <InlineChoice
          label={phrase('event.thereState')}
          value={only}
          set={setOnly}
          empty={phrase('event.everybody')}
          choices={[
            ...(['arrived', 'left', 'missed', 'expected'] as const).map((s) => ({
              value: s,
              label: term(s),
            })),
            { value: 'corrected', label: phrase('event.wasCorrected') },
            ...(a.certificate ? [{ value: 'earned', label: phrase('event.certificateEarned') }] : []),
          ]}
        />
      </chakra.div>
      <Table
        name="attendance"
        label={phrase('event.doorsThere')}
        rows={rows}
        columns={columns}
        keyOf={(r) => r.registrationId}
        open={(r) => setOpen(r.registrationId)}
        empty={phrase('event.nobodyThere')}
      />
      <Taken imports={a.imports} may={leads && !a.locked} />
      <SlideOver open={chosen !== undefined} close={() => setOpen(null)} label={chosen ? nameOf(chosen) : ''}>
        {chosen && (
          <ThisPerson
            key={chosen.registrationId}
            row={chosen}
            attendance={a}
            may={page.may.change.includes('doors') && !a.locked}
            close={() => setOpen(null)}
          />
        )}
      </SlideOver>
      {taking && <TakeList eventId={page.id} sessions={a.sessions} close={() => setTaking(false)} />}
      {opening && <OpenAgain eventId={page.id} close={() => setOpening(false)} />}
      <Asking
        open={closing}
        close={() => setClosing(false)}
        title={phrase('event.closeDoors')}
        actions={
          <Button
            look="main"
            disabled={close.isPending}
            onClick={() => close.mutate({ params: { id: page.id }, body: { closed: true } })}
          >
            {phrase('event.closeDoors')}
          </Button>
        }
      >
        <p>{phrase('event.closeDoorsSays', { expected: counts('expected') })}</p>
      </Asking>
    </>
  );
}
