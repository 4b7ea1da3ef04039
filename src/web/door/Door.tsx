import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useMemo, useRef, useState } from 'react';
import { Link, useParams } from 'react-router';
import type { DoorRow } from '#contract/doors.ts';
import { fold } from '#core/contacts/names.ts';
import { type Answer, addressOf } from '#web/api.ts';
import { useAsk, useDo } from '../parts/ask.ts';
import { ChoiceField } from '../parts/Field.tsx';
import { Asked, Problems } from '../parts/notices.tsx';
import { nobody, PersonFields } from '../parts/PersonFields.tsx';
import { useSaying } from '../parts/saying.ts';
import { say, Toasts } from '../parts/toast.tsx';
import { Scanner } from './Scanner.tsx';

type Doors = Answer<'GET /api/events/:id/doors'>;

/** The door list, for a phone: who is coming, who is in, what has to be settled first. */
export default function Door() {
  const { id = '' } = useParams();
  const client = useQueryClient();
  const doors = useAsk('GET /api/events/:id/doors', { params: { id }, everyMs: 15_000 });
  useEffect(() => {
    const stream = new EventSource(addressOf('GET /api/events/:id/stream', { id }));
    stream.addEventListener('changed', () => void client.invalidateQueries());
    return () => stream.close();
  }, [client, id]);
  return (
    <main className="door">
      <Asked of={doors}>{(d) => <Shown doors={d} id={id} />}</Asked>
      <Toasts />
    </main>
  );
}

function Shown({ doors, id }: { doors: Doors; id: string }) {
  const [typed, setTyped] = useState('');
  const [mode, setMode] = useState<'list' | 'scan' | 'walk-in'>('list');
  const [chosen, setChosen] = useState<string | null>(null);
  const scan = useDo('POST /api/events/:id/scan', (answer) => setChosen(answer.row?.registrationId ?? null));
  const box = useRef<HTMLInputElement>(null);
  const words = fold(typed).split(' ').filter(Boolean);
  const rows = useMemo(
    () => doors.rows.filter((r) => words.every((w) => fold(`${r.given} ${r.family} ${r.party}`).includes(w))),
    [doors.rows, words],
  );
  const row = doors.rows.find((r) => r.registrationId === chosen);
  const read = (code: string) => {
    setMode('list');
    setTyped('');
    scan.mutate({ params: { id }, body: { code } });
  };
  return (
    <>
      <div className="spread">
        <h1>{doors.title}</h1>
        <Link to={`/events/${id}/doors`} style={{ fontSize: 14 }}>
          Back
        </Link>
      </div>
      <p className="num" style={{ fontSize: 18, margin: '2px 0 10px' }} role="status" aria-live="polite">
        <b>{doors.inside}</b> inside{doors.capacity !== null && ` of ${doors.capacity}`} · {doors.arrived} of{' '}
        {doors.confirmed} arrived
      </p>
      <div className="acts" style={{ marginBottom: 10 }}>
        <input
          ref={box}
          aria-label="Search a name or scan a pass"
          placeholder="Name, or scan a pass"
          style={{ flex: 1, minWidth: 180 }}
          value={typed}
          onChange={(e) => setTyped(e.target.value)}
          onKeyDown={(e) => {
            // A keyboard scanner types the code and Enter.
            if (e.key !== 'Enter' || !typed.trim()) return;
            if (/\d/u.test(typed)) read(typed);
            else if (rows.length === 1) setChosen(rows[0]!.registrationId);
          }}
        />
        <button
          type="button"
          className="btn"
          aria-pressed={mode === 'scan'}
          onClick={() => setMode(mode === 'scan' ? 'list' : 'scan')}
        >
          Scan
        </button>
        <button
          type="button"
          className="btn"
          aria-pressed={mode === 'walk-in'}
          onClick={() => setMode(mode === 'walk-in' ? 'list' : 'walk-in')}
        >
          Walk-in
        </button>
      </div>
      {mode === 'scan' && <Scanner read={read} />}
      {mode === 'walk-in' && <WalkIn doors={doors} id={id} done={() => setMode('list')} />}
      <Problems of={scan.problem} />
      {scan.data && !scan.data.row && (
        <div className="lamp stop" role="alert">
          <h2>{scan.data.headline}</h2>
          {scan.data.details.map((d) => (
            <p key={d}>{d}</p>
          ))}
        </div>
      )}
      {row && <Verdict row={row} close={() => setChosen(null)} key={row.registrationId} />}
      <ul style={{ listStyle: 'none', margin: 0, padding: 0 }}>
        {rows.slice(0, 150).map((r) => (
          <li key={r.registrationId} className="spread" style={{ alignItems: 'center' }}>
            <button
              type="button"
              className="link"
              style={{ flex: 1 }}
              onClick={() => setChosen(r.registrationId)}
            >
              <span className="name">
                {r.family ? `${r.family}, ${r.given}` : r.given || 'Guest to be named'}
              </span>
              <br />
              <small
                className={
                  r.attendance === 'expected'
                    ? r.light === 'stop'
                      ? 'late'
                      : r.light === 'settle'
                        ? 'need'
                        : 'soft'
                    : 'soft'
                }
              >
                {[
                  r.attendance === 'expected' && r.light !== 'go'
                    ? r.headline
                    : r.attendance !== 'expected'
                      ? r.attendance
                      : r.offer,
                  r.party,
                ]
                  .filter(Boolean)
                  .join(' · ')}
              </small>
            </button>
            <Mark row={r} />
          </li>
        ))}
      </ul>
      {rows.length === 0 && (
        <p className="empty">
          {doors.rows.length === 0
            ? 'Nobody has a confirmed seat yet.'
            : 'Nobody of that name has a seat. Let them in as a walk-in?'}
        </p>
      )}
      {rows.length > 150 && <p className="soft">{rows.length - 150} more; type a part of the name.</p>}
    </>
  );
}

/** The one mark that fits: arrive, or the way back. */
function Mark({ row }: { row: DoorRow }) {
  const mark = useDo('POST /api/registrations/:id/attendance');
  const set = (state: 'expected' | 'arrived') =>
    mark.mutate({ params: { id: row.registrationId }, body: { state } });
  if (row.attendance === 'arrived')
    return (
      <button type="button" className="btn plain" disabled={mark.isPending} onClick={() => set('expected')}>
        Undo
      </button>
    );
  if (row.light !== 'go') return null;
  return (
    <button
      type="button"
      className="btn"
      disabled={mark.isPending}
      onClick={() => {
        set('arrived');
        say(`${row.given} is in`, { label: 'Undo', run: () => set('expected') });
      }}
    >
      Arrive
    </button>
  );
}

/** One person at arm's length: may they come in, and what is missing. */
function Verdict({ row, close }: { row: DoorRow; close: () => void }) {
  const { money, at } = useSaying();
  const [despite, setDespite] = useState('');
  const mark = useDo('POST /api/registrations/:id/attendance', () => {
    setDespite('');
    close();
  });
  const pay = useDo('POST /api/orders/:id/payments', () => say('Recorded'));
  const set = (state: 'expected' | 'arrived' | 'left') =>
    mark.mutate({ params: { id: row.registrationId }, body: { state, despite } });
  return (
    <div className={`lamp ${row.light}`} role="alert">
      <h2>{row.headline}</h2>
      <p style={{ fontSize: 19 }} className="name">
        {`${row.given} ${row.family}`.trim() || 'Guest to be named'}
      </p>
      <p className="soft">
        {[row.offer, row.party].filter(Boolean).join(' · ')}
        {row.arrivedAt && ` · in since ${at(row.arrivedAt)}`}
      </p>
      {row.details.map((d) => (
        <p key={d}>{d}</p>
      ))}
      {row.care && <Care id={row.registrationId} />}
      <Problems of={mark.problem ?? pay.problem} />
      <div className="acts" style={{ marginTop: 10 }}>
        {row.attendance === 'arrived' ? (
          <>
            <button type="button" className="btn" onClick={() => set('left')}>
              Left
            </button>
            <button type="button" className="btn" onClick={() => set('expected')}>
              Undo the arrival
            </button>
          </>
        ) : (
          <>
            {row.balance > 0 && (
              <button
                type="button"
                className="btn"
                disabled={pay.isPending}
                onClick={() =>
                  pay.mutate({ params: { id: row.orderId }, body: { method: 'cash', amount: row.balance } })
                }
              >
                {money(row.balance)} paid in cash
              </button>
            )}
            {row.light === 'stop' && row.attendance !== 'missed' && (
              <input
                aria-label="Why let them in all the same"
                placeholder="Why let them in all the same"
                value={despite}
                onChange={(e) => setDespite(e.target.value)}
              />
            )}
            <button
              type="button"
              className="btn primary"
              disabled={
                mark.isPending ||
                (row.light === 'stop' && row.attendance !== 'missed' && despite.trim().length < 3)
              }
              onClick={() => set('arrived')}
            >
              Arrive
            </button>
          </>
        )}
        <button type="button" className="btn plain" onClick={close}>
          Close
        </button>
      </div>
    </div>
  );
}

/** What has to be known about somebody's health; that it was read is written down. */
function Care({ id }: { id: string }) {
  const care = useAsk('GET /api/registrations/:id/care', { params: { id } });
  return (
    <Asked of={care}>
      {({ notes }) => (
        <>
          {notes.map((n) => (
            <p key={n} className="need">
              {n}
            </p>
          ))}
        </>
      )}
    </Asked>
  );
}

function WalkIn({ doors, id, done }: { doors: Doors; id: string; done: () => void }) {
  const { money } = useSaying();
  const [form, setForm] = useState({ ...nobody, offerId: doors.offers[0]?.id ?? '' });
  const add = useDo('POST /api/events/:id/walk-ins', ({ known, balance }) => {
    say(
      `${form.given} is in${known ? ', known to us' : ''}${balance > 0 ? `; ${money(balance)} to pay` : ''}`,
    );
    done();
  });
  const wrong = add.problem?.fields ?? {};
  return (
    <form
      noValidate
      className="lamp settle"
      onSubmit={(e) => {
        e.preventDefault();
        add.mutate({ params: { id }, body: form });
      }}
    >
      <Problems of={add.problem} />
      <PersonFields value={form} set={(part) => setForm({ ...form, ...part })} wrong={wrong} />
      {doors.offers.length > 1 && (
        <ChoiceField
          label="Offer"
          value={form.offerId}
          set={(offerId) => setForm({ ...form, offerId })}
          choices={doors.offers.map((o) => ({
            value: o.id,
            label: `${o.name}${o.price ? `, ${money(o.price)}` : ''}`,
          }))}
        />
      )}
      <button type="submit" className="btn primary" disabled={add.isPending}>
        Let in
      </button>
    </form>
  );
}
