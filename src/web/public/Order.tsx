import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link, useParams } from 'react-router';
import type { PublicOrder } from '#contract/registration.ts';
import { sayRange } from '#core/time/say.ts';
import { ApiProblem, addressOf, call } from '#web/api.ts';
import { useAsk, useFrame } from './asking.ts';
import { TextField } from './fields.tsx';
import { language } from './language.ts';
import { Loaded, Problems } from './notices.tsx';
import { Sign } from './Sign.tsx';
import { sayMoment, useMoney } from './saying.ts';

type Seat = PublicOrder['seats'][number];

/** A booking as its buyer manages it, from the link: pay, passes, waivers, names, giving seats up. */
export default function Order() {
  const { token = '' } = useParams();
  return (
    <Loaded of={useAsk('GET /api/public/orders/:token', { token }, { everyMs: 8_000 })}>
      {(order) => <Shown order={order} token={token} />}
    </Loaded>
  );
}

function useReload(token: string) {
  const client = useQueryClient();
  return () =>
    client.invalidateQueries({ queryKey: [addressOf('GET /api/public/orders/:token', { token })] });
}

function Shown({ order, token }: { order: PublicOrder; token: string }) {
  const { t } = useTranslation();
  const money = useMoney();
  const reload = useReload(token);
  const { event } = order;
  const titles = {
    confirmed: t('confirmed'),
    held: t('pay'),
    offered: t('offered'),
    waitlisted: t('waitlisted'),
    ended: t('ended'),
  };
  const take = useMutation({
    mutationFn: () => call('POST /api/public/orders/:token/take', { params: { token } }),
    onSettled: reload,
  });
  useEffect(() => {
    if (location.hash === '#waivers') document.getElementById('waivers')?.scrollIntoView();
  }, []);
  const live = order.seats.filter((s) => !['withdrawn', 'lapsed', 'declined'].includes(s.state));
  return (
    <>
      <h1>{titles[order.standing]}</h1>
      <p>
        <Link to={`/e/${event.slug}`} className="name">
          {event.title}
        </Link>
        <br />
        {event.startsLocal && sayRange(event.startsLocal, event.endsLocal, language())}
        <br />
        <span className="soft">{event.place ?? t('placeLater')}</span>
      </p>
      {event.state === 'called off' && <p className="say stop">{t('calledOff')}</p>}
      {order.standing === 'waitlisted' && <p className="say">{t('queuePlace', { n: order.queuePlace })}</p>}
      {order.standing === 'ended' && <p className="say">{t('endedText')}</p>}
      {order.standing === 'offered' && order.offeredUntil && (
        <div className="say need">
          <p>{t('offeredText', { time: sayMoment(order.offeredUntil, event.zone) })}</p>
          <button
            type="button"
            className="btn primary go"
            onClick={() => take.mutate()}
            disabled={take.isPending}
          >
            {t('takeSeats')}
          </button>
        </div>
      )}
      <Problems problem={take.error instanceof ApiProblem ? take.error : null} />
      {order.payment === 'unknown' && (
        <p className="say need" role="status">
          {t('unknown')}
        </p>
      )}
      {(order.payment === 'needed' || order.payment === 'declined') && <Pay order={order} token={token} />}

      <Seats order={order} token={token} />

      <p className="soft num" style={{ fontSize: 15 }}>
        {t('order', { n: order.number })}
        {order.received > 0 && ` · ${t('paid', { amount: money(order.received) })}`}
        {order.balance > 0 && order.standing !== 'held' && ` · ${t('due', { amount: money(order.balance) })}`}
        {order.donation > 0 &&
          order.donationFund &&
          ` · ${t('gift', { amount: money(order.donation), fund: order.donationFund })}`}
      </p>
      {order.balance < 0 && <p className="say">{t('owedBack', { amount: money(-order.balance) })}</p>}
      {order.standing === 'confirmed' && (
        <p style={{ display: 'flex', gap: 18, flexWrap: 'wrap', marginTop: 10 }}>
          <a href={addressOf('GET /api/public/orders/:token/passes.pdf', { token })}>{t('passes')}</a>
          <a href={addressOf('GET /api/public/orders/:token/calendar.ics', { token })}>
            {t('addToCalendar')}
          </a>
        </p>
      )}
      {order.mayWithdraw && live.length > 0 && (
        <Withdraw seats={live} token={token} offered={order.standing === 'offered'} />
      )}
    </>
  );
}

function Pay({ order, token }: { order: PublicOrder; token: string }) {
  const { t } = useTranslation();
  const money = useMoney();
  const reload = useReload(token);
  const demo = useFrame().data?.demo ?? false;
  const [card, setCard] = useState('');
  const [expiry, setExpiry] = useState('');
  const pay = useMutation({
    mutationFn: () =>
      call('POST /api/public/orders/:token/pay', { params: { token }, body: { card, expiry } }),
    onSettled: reload,
  });
  const problem = pay.error instanceof ApiProblem ? pay.error : null;
  return (
    <form
      noValidate
      onSubmit={(e) => {
        e.preventDefault();
        pay.mutate();
      }}
      style={{ marginTop: 16 }}
    >
      {order.heldUntil && (
        <p className="say">{t('held', { time: sayMoment(order.heldUntil, order.event.zone) })}</p>
      )}
      {order.payment === 'declined' && (
        <p className="say stop" role="alert">
          {t('declined')}
        </p>
      )}
      <Problems problem={problem} />
      <TextField
        label={t('card')}
        inputMode="numeric"
        autoComplete="cc-number"
        value={card}
        set={setCard}
        error={problem?.fields.card}
      />
      <TextField
        label={t('expiry')}
        autoComplete="cc-exp"
        value={expiry}
        set={setExpiry}
        error={problem?.fields.expiry}
        placeholder="08/29"
      />
      {demo && (
        <div className="soft" style={{ fontSize: 14.5 }}>
          {t('demoCards')}
          <ul style={{ margin: '4px 0 0', paddingLeft: 0, listStyle: 'none' }}>
            {([1, 2, 3, 4] as const).map((n) => (
              <li key={n}>
                <button
                  type="button"
                  className="btn plain num"
                  style={{ fontSize: 14.5 }}
                  onClick={() => {
                    setCard(`9000 0000 0000 000${n}`);
                    setExpiry('08/29');
                  }}
                >
                  9000 0000 0000 000{n}
                </button>{' '}
                {t(`card${n}`)}
              </li>
            ))}
          </ul>
        </div>
      )}
      <button type="submit" className="btn primary go" disabled={pay.isPending}>
        {pay.isPending ? t('loading') : t('payNow', { amount: money(order.balance) })}
      </button>
    </form>
  );
}

function Seats({ order, token }: { order: PublicOrder; token: string }) {
  const { t } = useTranslation();
  const [signing, setSigning] = useState<string | null>(null);
  const [naming, setNaming] = useState<string | null>(null);
  return (
    <ul className="rows" id="waivers" style={{ marginTop: 18 }}>
      {order.seats.map((seat) => {
        const name = `${seat.given} ${seat.family}`.trim();
        const gone = ['withdrawn', 'lapsed', 'declined'].includes(seat.state);
        return (
          <li key={seat.id}>
            <div className={seat.pass ? 'pass' : ''}>
              {/* The picture is drawn by our own server from the pass code. */}
              {seat.pass && (
                <img
                  className="qr"
                  alt={`${t('pass')} ${seat.pass.code}`}
                  src={`data:image/svg+xml,${encodeURIComponent(seat.pass.svg)}`}
                  width={132}
                  height={132}
                />
              )}
              <div>
                <div className="spread">
                  <span
                    className="name"
                    style={{ fontSize: 18, textDecoration: gone ? 'line-through' : 'none' }}
                  >
                    {name || t('unnamed')}
                  </span>
                  {gone && <span className="soft">{t('withdrawn')}</span>}
                </div>
                <small>{seat.offer}</small>
                {seat.pass && <small className="code">{seat.pass.code}</small>}
                {(seat.waiver === 'self' || seat.waiver === 'guardian') && (
                  <small className="late">
                    {seat.waiver === 'guardian' ? t('waiverGuardian') : t('waiverNeeded')}
                  </small>
                )}
                {seat.waiver === 'signed' && <small>{t('waiverSigned')}</small>}
                {!gone && (
                  <div style={{ display: 'flex', gap: 10, marginTop: 6, flexWrap: 'wrap' }}>
                    {(seat.waiver === 'self' || seat.waiver === 'guardian') && name && (
                      <button
                        type="button"
                        className="btn primary"
                        onClick={() => setSigning(signing === seat.id ? null : seat.id)}
                        aria-expanded={signing === seat.id}
                      >
                        {seat.waiver === 'guardian' ? t('signFor', { name: seat.given }) : t('sign')}
                      </button>
                    )}
                    {order.mayWithdraw && seat.waiver !== 'signed' && (
                      <button
                        type="button"
                        className="btn"
                        onClick={() => setNaming(naming === seat.id ? null : seat.id)}
                        aria-expanded={naming === seat.id}
                      >
                        {name ? t('changeName') : t('nameGuest')}
                      </button>
                    )}
                  </div>
                )}
              </div>
            </div>
            {naming === seat.id && <NameGuest seat={seat} token={token} done={() => setNaming(null)} />}
            {signing === seat.id &&
              order.waiver &&
              (seat.waiver === 'self' || seat.waiver === 'guardian') && (
                <Sign
                  waiver={order.waiver}
                  seat={seat}
                  need={seat.waiver}
                  token={token}
                  done={() => setSigning(null)}
                />
              )}
          </li>
        );
      })}
    </ul>
  );
}

function NameGuest({ seat, token, done }: { seat: Seat; token: string; done: () => void }) {
  const { t } = useTranslation();
  const reload = useReload(token);
  const [given, setGiven] = useState(seat.given);
  const [family, setFamily] = useState(seat.family);
  const [birthDate, setBirthDate] = useState('');
  const save = useMutation({
    mutationFn: () =>
      call('PATCH /api/public/orders/:token/seats/:seat', {
        params: { token, seat: seat.id },
        body: { given, family, birthDate: birthDate || null },
      }),
    onSuccess: async () => {
      await reload();
      done();
    },
  });
  const problem = save.error instanceof ApiProblem ? save.error : null;
  return (
    <form
      noValidate
      style={{ marginTop: 12 }}
      onSubmit={(e) => {
        e.preventDefault();
        save.mutate();
      }}
    >
      <Problems problem={problem} />
      <div className="two">
        <TextField label={t('given')} value={given} set={setGiven} error={problem?.fields.given} />
        <TextField label={t('family')} value={family} set={setFamily} />
      </div>
      <TextField label={t('birthDate')} optional type="date" value={birthDate} set={setBirthDate} />
      <button type="submit" className="btn primary" disabled={save.isPending}>
        {t('save')}
      </button>{' '}
      <button type="button" className="btn" onClick={done}>
        {t('cancel')}
      </button>
    </form>
  );
}

function Withdraw({ seats, token, offered }: { seats: Seat[]; token: string; offered: boolean }) {
  const { t } = useTranslation();
  const reload = useReload(token);
  const [open, setOpen] = useState(false);
  const [chosen, setChosen] = useState<string[]>([]);
  const withdraw = useMutation({
    mutationFn: () =>
      call('POST /api/public/orders/:token/withdraw', { params: { token }, body: { seats: chosen } }),
    onSuccess: async () => {
      await reload();
      setOpen(false);
      setChosen([]);
    },
  });
  if (!open)
    return (
      <p style={{ marginTop: 22 }}>
        <button
          type="button"
          className="btn stop"
          onClick={() => {
            setOpen(true);
            if (offered || seats.length === 1) setChosen(seats.map((s) => s.id));
          }}
        >
          {offered ? t('leaveSeats') : t('withdraw')}
        </button>
      </p>
    );
  return (
    <fieldset className="say stop">
      <legend>{offered ? t('leaveSeats') : t('withdraw')}</legend>
      <p className="soft">{t('withdrawText')}</p>
      <Problems problem={withdraw.error instanceof ApiProblem ? withdraw.error : null} />
      {seats.map((s) => (
        <label key={s.id} className="tick">
          <input
            type="checkbox"
            checked={chosen.includes(s.id)}
            onChange={(e) =>
              setChosen(e.target.checked ? [...chosen, s.id] : chosen.filter((x) => x !== s.id))
            }
          />
          {`${s.given} ${s.family}`.trim() || t('unnamed')}, {s.offer}
        </label>
      ))}
      <p style={{ display: 'flex', gap: 10, marginTop: 8 }}>
        <button
          type="button"
          className="btn stop"
          disabled={chosen.length === 0 || withdraw.isPending}
          onClick={() => withdraw.mutate()}
        >
          {t('withdrawDo', { count: chosen.length })}
        </button>
        <button type="button" className="btn" onClick={() => setOpen(false)}>
          {t('cancel')}
        </button>
      </p>
    </fieldset>
  );
}
