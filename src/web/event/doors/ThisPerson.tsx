import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { attendanceContract } from '#contract/attendance.ts';
import { sayWall } from '#core/time/say.ts';
import { wallOf } from '#core/time/wallTime.ts';
import { type Answer, addressOf } from '#web/api.ts';
import { Button, ButtonAnchor } from '#web/kit/Button.tsx';
import { Form } from '#web/kit/form/Form.tsx';
import { Choose, Text } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { Loaded } from '#web/kit/notices.tsx';
import { say } from '#web/kit/toast.tsx';
import { useAsk } from '#web/parts/ask.ts';
import { useSaying } from '#web/parts/saying.ts';
import { phrase, term } from '#web/words/phrase.ts';
import { StaysFields, staysSent, type TypedStay } from './StaysFields.tsx';

type Attendance = Answer<'GET /api/events/:id/attendance'>;
type One = Answer<'GET /api/registrations/:id/attendance'>;

/** Everything that was marked about one person, and saying otherwise. */
export function ThisPerson({
  row,
  attendance,
  may,
  close,
}: {
  row: Attendance['rows'][number];
  attendance: Attendance;
  may: boolean;
  close: () => void;
}) {
  const one = useAsk('GET /api/registrations/:id/attendance', { params: { id: row.registrationId } });
  const [correcting, setCorrecting] = useState(false);
  return (
    <>
      <div className="spread">
        <h2>{`${row.given} ${row.family}`.trim() || phrase('common.guestToBeNamed')}</h2>
        <Button look="plain" onClick={close}>
          {phrase('common.close')}
        </Button>
      </div>
      <p className="soft">
        {row.offer} · {term(row.state)}
      </p>
      <Loaded of={one}>
        {(o) => (
          <>
            <Stays one={o} />
            <div className="acts">
              {may && !correcting && (
                <Button onClick={() => setCorrecting(true)}>{phrase('event.correctAttendance')}</Button>
              )}
              {row.earned && (
                <ButtonAnchor
                  href={addressOf('GET /api/registrations/:id/certificate.pdf', { id: row.registrationId })}
                  target="_blank"
                  rel="noopener"
                >
                  {phrase('event.certificate')}
                </ButtonAnchor>
              )}
            </div>
            {correcting && (
              <Correct
                one={o}
                attendance={attendance}
                registrationId={row.registrationId}
                done={() => setCorrecting(false)}
              />
            )}
            <Marks one={o} />
          </>
        )}
      </Loaded>
    </>
  );
}

/** When they were there, in a line for each time and each session. */
function Stays({ one }: { one: One }) {
  const { at, timeOfDay } = useSaying();
  const line = (s: { from: string; until: string | null }) =>
    s.until
      ? phrase('event.fromTo', { from: at(s.from), until: timeOfDay(s.until) })
      : phrase('event.fromOn', { from: at(s.from) });
  if (!one.stays.length) return <p>{phrase('event.neverCame')}</p>;
  return (
    <ul className="lines num">
      {one.stays.map((s) => (
        <li key={s.from}>{line(s)}</li>
      ))}
      {one.sessions.map((session) => (
        <li key={session.id}>
          {session.title}: {session.stays.map(line).join('; ')}
        </li>
      ))}
    </ul>
  );
}

/** Says otherwise than it was marked, and why. */
function Correct({
  one,
  attendance,
  registrationId,
  done,
}: {
  one: One;
  attendance: Attendance;
  registrationId: string;
  done: () => void;
}) {
  const { zone } = useSaying();
  const wall = (instant: string) => wallOf(instant, zone);
  const typed = (stays: One['stays']): TypedStay[] =>
    stays.map((s) => ({ fromLocal: wall(s.from), untilLocal: s.until ? wall(s.until) : '' }));
  const form = useForm({
    values: { sessionId: '', stays: typed(one.stays), why: '' },
    request: (v) =>
      prepare(attendanceContract, 'PUT /api/registrations/:id/attendance', {
        params: { id: registrationId },
        body: { sessionId: v.sessionId || null, stays: staysSent(v.stays), why: v.why },
      }),
    after: () => {
      say(phrase('event.attendanceCorrected'));
      done();
    },
  });
  const [day] = attendance.days;
  const session = attendance.sessions.find((s) => s.id === form.values.sessionId);
  const frame = session ?? day;
  return (
    <Form
      form={form}
      submit={phrase('event.saveCorrection')}
      beside={
        <Button look="plain" onClick={done}>
          {phrase('common.cancel')}
        </Button>
      }
    >
      {attendance.sessions.length > 0 && (
        <Choose
          form={form}
          name="sessionId"
          label={phrase('event.correctsWhat')}
          empty={phrase('event.wholeEvent')}
          choices={attendance.sessions.map((s) => ({ value: s.id, label: s.title }))}
        />
      )}
      <StaysFields
        stays={form.values.stays}
        set={(stays) => form.set({ stays })}
        begins={{
          fromLocal: frame ? wall(frame.from) : '',
          untilLocal: frame ? wall(frame.until) : '',
        }}
        wrongAt={form.wrongAt}
      />
      <Text form={form} name="why" label={phrase('event.whyCorrected')} required />
    </Form>
  );
}

/** What was marked, newest first: who, where, and what was taken back. */
function Marks({ one }: { one: One }) {
  const { zone, at } = useSaying();
  if (!one.marks.length) return null;
  return (
    <>
      <chakra.h3 marginTop="18px">{phrase('event.whatWasMarked')}</chakra.h3>
      <ul className="lines">
        {one.marks.map((m) => (
          <chakra.li key={m.id} opacity={m.takenBack ? 0.65 : 1}>
            <span className="num">{sayWall(wallOf(m.at, zone))}</span>{' '}
            <b>{m.state === 'expected' ? phrase('event.markTakenBack') : term(m.state)}</b>
            {m.session && `, ${m.session}`}
            {m.takenBack && <span className="soft"> · {phrase('event.tookBack')}</span>}
            <br />
            <small className="soft">
              {[
                m.by || phrase('event.nobodySaid'),
                m.device,
                at(m.toldAt) !== at(m.at) && phrase('event.toldAt', { time: at(m.toldAt) }),
                m.handedTo &&
                  (m.handedTo === 'code'
                    ? phrase('event.handedByCode')
                    : phrase('event.handedTo', { name: m.handedTo })),
                m.why,
              ]
                .filter(Boolean)
                .join(' · ')}
            </small>
          </chakra.li>
        ))}
      </ul>
    </>
  );
}
