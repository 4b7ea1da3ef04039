import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useMemo, useState } from 'react';
import { Link, useParams } from 'react-router';
import type { DoorRow } from '#contract/doors.ts';
import { topicsOfEvent } from '#contract/topics.ts';
import { hasCome } from '#core/doors/attendance.ts';
import { isMeant } from '#core/doors/finding.ts';
import { withWaiting } from '#core/doors/outbox.ts';
import { isPass } from '#core/doors/passCode.ts';
import { sayRange } from '#core/time/say.ts';
import { type Answer, ApiProblem, addressOf } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { InlineText } from '#web/kit/Inline.tsx';
import { makeAsking } from '#web/topics.ts';
import { Phrase } from '#web/words/Phrase.tsx';
import { phrase, term } from '#web/words/phrase.ts';
import { Empty } from '../kit/Note.tsx';
import { Loaded, Problems } from '../kit/notices.tsx';
import { say, Toasts } from '../kit/toast.tsx';
import { useAddress } from '../kit/useAddress.ts';
import { useAction, useAsk, useMe } from '../parts/ask.ts';
import { PaidIn } from '../parts/saying.ts';
import { Crew } from './Crew.tsx';
import { Inside } from './Inside.tsx';
import { Live } from './Live.tsx';
import { forgetTold, useOutbox } from './outbox.ts';
import { passHash } from './passHash.ts';
import { Scanner } from './Scanner.tsx';
import { nameOf, sayMissing } from './saying.ts';
import { signal } from './signal.ts';
import { type DoorAt, useMark, useSending } from './useMarks.ts';
import { useTakenAlong } from './useTakenAlong.ts';
import { Verdict } from './Verdict.tsx';
import { Waiting } from './Waiting.tsx';
import { WalkIn } from './WalkIn.tsx';
import { WhichDoor } from './WhichDoor.tsx';

type Doors = Answer<'GET /api/events/:id/doors'>;
type Row = DoorRow & { waits: boolean };

const usual = { session: '' };

/** The door list, for a phone: who is coming, who is in, what has to be settled first. */
export default function Door() {
  const { id = '' } = useParams();
  const client = useQueryClient();
  const [{ session }, put] = useAddress(usual);
  const query = session ? { session } : {};
  const doors = useAsk('GET /api/events/:id/doors', { params: { id }, query, everyMs: 15_000 });
  useSending();
  useTakenAlong();
  useEffect(() => {
    const stream = new EventSource(addressOf('GET /api/events/:id/stream', { id }));
    stream.addEventListener('changed', makeAsking(client, topicsOfEvent));
    return () => stream.close();
  }, [client, id]);
  const { dataUpdatedAt } = doors;
  useEffect(() => forgetTold(dataUpdatedAt), [dataUpdatedAt]);
  const behind =
    (doors.error instanceof ApiProblem && doors.error.body.status === 0) || doors.fetchStatus === 'paused';
  return (
    <main className="door">
      <Waiting behind={behind} address={addressOf('GET /api/events/:id/doors', { id }, query)} />
      <Loaded of={doors}>
        {(d) => (
          <PaidIn value={d.currency}>
            <Shown
              doors={d}
              id={id}
              sessionId={session || null}
              go={(to) => put({ session: to ?? '' })}
              key={`${id} ${session}`}
            />
          </PaidIn>
        )}
      </Loaded>
      <Toasts />
    </main>
  );
}

function Shown({
  doors,
  id,
  sessionId,
  go,
}: {
  doors: Doors;
  id: string;
  sessionId: string | null;
  /** To the door of a session, or of the event. */
  go: (sessionId: string | null) => void;
}) {
  const door: DoorAt = { eventId: id, sessionId };
  const [typed, setTyped] = useState('');
  const [mode, setMode] = useState<'list' | 'scan' | 'walk-in' | 'crew' | 'inside' | 'live'>('list');
  const [chosen, setChosen] = useState<string | null>(null);
  const marks = useOutbox((s) => s.marks);
  const told = useOutbox((s) => s.told);
  const roles = useMe().data?.staff.roles ?? [];
  // Whom to call is for those who may read about health.
  const mayReadHealth = roles.some((r) => r === 'coordinator' || r === 'unit lead' || r === 'door');
  const scan = useAction('POST /api/events/:id/scan', (answer) => {
    signal(answer.light);
    setChosen(answer.row?.registrationId ?? null);
  });
  const all = useMemo(
    () => withWaiting(doors.rows, [...told, ...marks], sessionId),
    [doors.rows, told, marks, sessionId],
  ) as Row[];
  // At the door of a session whoever it is for; the others are found by their name or their pass.
  const rows = all.filter((r) => (typed.trim() ? isMeant(r, typed) : r.here || r.attendance !== 'expected'));
  const row = all.find((r) => r.registrationId === chosen);
  /** One lamp at a time: whoever is next never stands under the last one's. */
  const show = (registrationId: string | null) => {
    scan.reset();
    setChosen(registrationId);
  };
  const read = async (code: string) => {
    // Whoever scans goes on scanning: the camera is there for the next one.
    if (mode !== 'scan') setMode('list');
    setTyped('');
    show(null);
    // Who is on the list is known at once, with a network or without.
    const hash = await passHash(code);
    const known = hash && all.find((r) => r.pass === hash);
    if (known) {
      signal(known.light as Parameters<typeof signal>[0]);
      show(known.registrationId);
    } else scan.mutate({ params: { id }, body: { code, sessionId } });
  };
  /** Somebody is being dealt with, or asked about. */
  const rests = row !== undefined || scan.isPending || scan.data !== undefined || scan.problem !== null;
  const inside = all.filter((r) => r.attendance === 'arrived').length;
  const arrived = all.filter((r) => hasCome(r.attendance)).length;
  const full = doors.most !== null && !sessionId && inside + doors.most.crew >= doors.most.people;
  return (
    <>
      <div className="spread">
        <h1>{doors.title}</h1>
        <Link to={roles.every((r) => r === 'door') ? '/doors?all' : `/events/${id}/doors`}>
          {phrase('door.back')}
        </Link>
      </div>
      <WhichDoor sessions={doors.sessions} sessionId={sessionId} go={go}>
        <Button
          look="link"
          aria-pressed={mode === 'live'}
          onClick={() => {
            show(null);
            setMode(mode === 'live' ? 'list' : 'live');
          }}
        >
          {phrase('door.live')}
        </Button>
        {mayReadHealth && (
          <Button
            look="link"
            aria-pressed={mode === 'inside'}
            onClick={() => {
              show(null);
              setMode(mode === 'inside' ? 'list' : 'inside');
            }}
          >
            {phrase('door.emergency')}
          </Button>
        )}
      </WhichDoor>
      {doors.day !== 'today' && (
        <p className="lamp stop" role="alert">
          {doors.day === 'past' ? phrase('door.thisEventIsOver') : phrase('door.thisEventIsNot')}
          {doors.startsLocal && `: ${sayRange(doors.startsLocal, null)}`}.{' '}
          {phrase('door.arrivalsNeedAReason')}
        </p>
      )}
      {full && (
        <p className="lamp stop" role="alert">
          {phrase('door.fullInside', { people: inside + doors.most!.crew, most: doors.most!.people })}
        </p>
      )}
      <p className="num headcount" role="status" aria-live="polite">
        {doors.capacity === null || sessionId ? (
          <Phrase of="door.inside" with={{ inside: <b>{inside}</b> }} />
        ) : (
          <Phrase of="door.insideOf" with={{ inside: <b>{inside}</b>, capacity: doors.capacity }} />
        )}
        {' · '}
        {phrase('door.ofArrived', { arrived, confirmed: all.filter((r) => r.here).length })}
      </p>
      <div className="acts">
        {mode !== 'crew' && mode !== 'inside' && mode !== 'live' && (
          <InlineText
            label={phrase('door.searchANameOr')}
            placeholder={phrase('door.nameOrScanA')}
            className="grow"
            flexBasis={{ base: '100%', sm: '0' }}
            value={typed}
            set={(text) => {
              setTyped(text);
              if (scan.data || chosen) show(null);
            }}
            onKeyDown={(e) => {
              // A keyboard scanner types the code and Enter.
              if (e.key !== 'Enter' || !typed.trim()) return;
              if (isPass(typed, rows.length)) void read(typed);
              else if (rows.length === 1) show(rows[0]!.registrationId);
            }}
          />
        )}
        <Button
          size="touch"
          aria-pressed={mode === 'scan'}
          onClick={() => {
            show(null);
            setMode(mode === 'scan' ? 'list' : 'scan');
          }}
        >
          {phrase('door.scan')}
        </Button>
        <Button
          size="touch"
          aria-pressed={mode === 'walk-in'}
          onClick={() => {
            show(null);
            setMode(mode === 'walk-in' ? 'list' : 'walk-in');
          }}
        >
          {phrase('door.walkIn')}
        </Button>
        <Button
          size="touch"
          aria-pressed={mode === 'crew'}
          onClick={() => {
            show(null);
            setMode(mode === 'crew' ? 'list' : 'crew');
          }}
        >
          {phrase('door.crew')}
        </Button>
      </div>

      {mode === 'scan' && <Scanner read={(code) => void read(code)} rests={rests} />}
      {mode === 'walk-in' && (
        <WalkIn
          doors={doors}
          id={id}
          typed={rows.length === 0 ? typed : ''}
          done={(registrationId) => {
            setMode('list');
            setTyped('');
            show(registrationId);
          }}
        />
      )}
      {scan.problem?.body.status === 0 ? (
        <div className="lamp stop" role="alert">
          <h2>{phrase('door.offlineUnknown')}</h2>
          <p>{phrase('door.offlineUnknownSays')}</p>
          <Button look="plain" size="touch" onClick={() => scan.reset()}>
            {phrase('common.close')}
          </Button>
        </div>
      ) : (
        <Problems of={scan.problem} />
      )}
      {scan.data && !scan.data.row && (
        <div className="lamp stop" role="alert">
          <h2>{scan.data.headline}</h2>
          {scan.data.details.map((d) => (
            <p key={d}>{d}</p>
          ))}
          <Button
            size="touch"
            onClick={() => {
              show(null);
              setMode('walk-in');
            }}
          >
            {phrase('door.walkIn')}
          </Button>
          <Button look="plain" size="touch" onClick={() => scan.reset()}>
            {phrase('common.close')}
          </Button>
        </div>
      )}
      {row && (
        <Verdict
          row={row}
          all={all}
          door={door}
          waivers={doors.waivers}
          close={() => show(null)}
          key={row.registrationId}
        />
      )}
      {scan.data?.row && !row && scan.data.row.registrationId === chosen && (
        <Verdict
          row={scan.data.row}
          all={all}
          door={door}
          waivers={doors.waivers}
          close={() => show(null)}
          key={chosen}
        />
      )}
      {mode === 'crew' ? (
        <Crew eventId={id} />
      ) : mode === 'inside' ? (
        <Inside
          eventId={id}
          show={(registrationId) => {
            setMode('list');
            show(registrationId);
          }}
        />
      ) : mode === 'live' ? (
        <Live eventId={id} />
      ) : (
        <Guests rows={rows} all={all.length} door={door} show={show} />
      )}
    </>
  );
}

/** Who is coming, each with the one mark that fits. */
function Guests({
  rows,
  all,
  door,
  show,
}: {
  rows: readonly Row[];
  /** How many there are without a search. */
  all: number;
  door: DoorAt;
  show: (registrationId: string) => void;
}) {
  return (
    <>
      <ul className="plainlist">
        {rows.slice(0, 150).map((r) => (
          <li key={r.registrationId} className="spread">
            <Button look="link" color="inherit" className="grow" onClick={() => show(r.registrationId)}>
              <span className="name">
                {r.family ? `${r.family}, ${r.given}` : r.given || phrase('common.guestToBeNamed')}
              </span>
              <br />
              <small className={toneOf(r)}>{lineOf(r)}</small>
            </Button>
            <Mark row={r} door={door} />
          </li>
        ))}
      </ul>
      {rows.length === 0 && (
        <Empty>{all === 0 ? phrase('door.nobodyHasAConfirmed') : phrase('door.nobodyOfThatName')}</Empty>
      )}
      {rows.length > 150 && (
        <p className="soft">{phrase('door.moreTypeAPart', { rows: rows.length - 150 })}</p>
      )}
    </>
  );
}

const toneOf = (r: Row): string => {
  if (r.attendance !== 'expected' || !r.missing.length) return 'soft';
  return r.missing[0] === 'money' ? 'need' : 'late';
};
const lineOf = (r: Row): string =>
  [
    r.attendance !== 'expected' ? term(r.attendance) : r.missing.length ? sayMissing(r) : r.offer,
    r.waits && phrase('door.keptOnThisDevice'),
    r.party,
  ]
    .filter(Boolean)
    .join(' · ');

/** The one mark that fits: arrive, or the way back. */
function Mark({ row, door }: { row: Row; door: DoorAt }) {
  const { mark, pending } = useMark(door);
  const who = { registrationId: row.registrationId, name: nameOf(row), undo: row.undo };
  if (row.attendance === 'arrived')
    return (
      <Button look="plain" size="touch" disabled={pending} onClick={() => void mark(who, 'expected')}>
        {phrase('common.undo')}
      </Button>
    );
  if (row.light !== 'go') return null;
  return (
    <Button
      size="touch"
      disabled={pending}
      onClick={() =>
        void mark(who, 'arrived').then(
          (kept) =>
            kept &&
            say(phrase('door.isIn', { given: row.given }), {
              label: phrase('common.undo'),
              run: () => void mark({ ...who, undo: [kept] }, 'expected'),
            }),
        )
      }
    >
      {phrase('door.arrive')}
    </Button>
  );
}
