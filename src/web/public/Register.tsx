import { useMutation } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link, useNavigate, useParams } from 'react-router';
import type { OrderBody, PublicEvent } from '#contract/registration.ts';
import { readAmount } from '#core/money/amount.ts';
import { fits, nothingTaken } from '#core/registration/capacity.ts';
import { ApiProblem, call } from '#web/api.ts';
import { useAsk, useFrame } from './asking.ts';
import { type AnswerValue, Field, QuestionField, TextField } from './fields.tsx';
import { language } from './language.ts';
import { Loaded, Problems } from './notices.tsx';
import { useMoney } from './saying.ts';

interface Guest {
  given: string;
  family: string;
  birthDate: string;
  answers: Record<string, AnswerValue>;
}

/** Everything typed so far; kept in the session, so that a reload or a wrong turn loses nothing. */
interface Draft {
  units: Record<string, number>;
  buyer: { given: string; family: string; email: string; phone: string };
  coming: boolean;
  guests: Guest[];
  answers: Record<string, AnswerValue>;
  gift: string;
  fundId: string;
  anonymous: boolean;
}

const nobody: Guest = { given: '', family: '', birthDate: '', answers: {} };
const emptyDraft: Draft = {
  units: {},
  buyer: { given: '', family: '', email: '', phone: '' },
  coming: true,
  guests: [],
  answers: {},
  gift: '',
  fundId: '',
  anonymous: false,
};

function readDraft(slug: string): Draft {
  try {
    return { ...emptyDraft, ...JSON.parse(sessionStorage.getItem(`draft ${slug}`) ?? '{}') };
  } catch {
    return emptyDraft;
  }
}

export default function Register() {
  const { slug = '' } = useParams();
  return (
    <Loaded of={useAsk('GET /api/public/events/:slug', { slug })}>{(event) => <Form event={event} />}</Loaded>
  );
}

function Form({ event }: { event: PublicEvent }) {
  const { t } = useTranslation();
  const money = useMoney();
  const navigate = useNavigate();
  const currency = useFrame().data?.organization.currency ?? 'CAD';
  const [draft, setDraft] = useState<Draft>(() => {
    const stored = readDraft(event.slug);
    const only = event.offers.length === 1 ? event.offers[0] : undefined;
    return only && Object.keys(stored.units).length === 0 ? { ...stored, units: { [only.id]: 1 } } : stored;
  });
  useEffect(() => sessionStorage.setItem(`draft ${event.slug}`, JSON.stringify(draft)), [draft, event.slug]);
  const change = (part: Partial<Draft>) => setDraft((d) => ({ ...d, ...part }));

  const lines = event.offers.flatMap((o) =>
    draft.units[o.id] ? [{ offer: o, units: draft.units[o.id]! }] : [],
  );
  const offerOfSeat = lines.flatMap(({ offer, units }) =>
    Array<string>(units * offer.seatsPerUnit).fill(offer.id),
  );
  const gift = draft.gift.trim() ? readAmount(draft.gift, currency) : 0;
  const total = lines.reduce((sum, l) => sum + l.units * l.offer.price, 0) + (gift ?? 0);
  // Asked as the server asks: the tickets one by one, and all seats together.
  const waits = !fits(
    {
      lines: lines.map(({ offer, units }) => ({ offer: { id: offer.id, quantity: offer.left }, units })),
      seats: offerOfSeat.length,
    },
    { capacity: event.seatsLeft },
    nothingTaken,
  );
  const guests = offerOfSeat.map((_, at): Guest => {
    const guest = draft.guests[at] ?? nobody;
    return at === 0 && draft.coming
      ? { ...guest, given: draft.buyer.given, family: draft.buyer.family }
      : guest;
  });
  const setGuest = (at: number, part: Partial<Guest>) =>
    change({ guests: guests.map((g, n) => (n === at ? { ...g, ...part } : g)) });

  const body: OrderBody = {
    buyer: draft.buyer,
    lines: lines.map(({ offer, units }) => ({ offerId: offer.id, units })),
    attendees: guests.map((g) => ({
      given: g.given,
      family: g.family,
      birthDate: g.birthDate || null,
      answers: g.answers,
    })),
    answers: draft.answers,
    donation: {
      amount: gift ?? 0,
      fundId: draft.fundId || (event.funds[0]?.id ?? null),
      anonymous: draft.anonymous,
    },
    language: language(),
    waitlist: true,
  };
  // The same contents keep their key, so that a repeat after a broken connection is done once.
  const attempt = useRef({ body: '', key: '' });
  const place = useMutation({
    mutationFn: () => {
      const json = JSON.stringify(body);
      if (attempt.current.body !== json) attempt.current = { body: json, key: crypto.randomUUID() };
      return call(
        'POST /api/public/events/:slug/orders',
        { params: { slug: event.slug }, body },
        attempt.current.key,
      );
    },
    onSuccess: ({ token }) => {
      sessionStorage.removeItem(`draft ${event.slug}`);
      navigate(`/m/${token}`);
    },
  });
  const problem = place.error instanceof ApiProblem ? place.error : null;
  const wrong = problem?.fields ?? {};
  if (event.registration === 'closed') return <p className="say">{t('closed')}</p>;
  return (
    <form
      noValidate
      onSubmit={(e) => {
        e.preventDefault();
        place.mutate();
      }}
    >
      <p style={{ marginTop: 8 }}>
        <Link to={`/e/${event.slug}`}>{event.title}</Link>
      </p>
      <h1>{t(event.registration === 'full' ? 'joinWaitlist' : 'register')}</h1>
      {event.registration === 'full' && <p className="say need">{t('fullText')}</p>}
      <Problems problem={problem} />

      <h2>{t('chooseTickets')}</h2>
      <ul className="rows">
        {event.offers.map((o, at) => (
          <li key={o.id}>
            <div className="spread" style={{ alignItems: 'center' }}>
              <span>
                {o.name}
                <small>
                  {[
                    o.price === 0 ? t('free') : money(o.price),
                    o.seatsPerUnit > 1 ? t('seatsEach', { count: o.seatsPerUnit }) : '',
                    o.left === 0
                      ? t('full')
                      : o.left !== null && o.left <= 30
                        ? t('left', { count: o.left })
                        : '',
                  ]
                    .filter(Boolean)
                    .join(', ')}
                </small>
              </span>
              <Counter
                label={o.name}
                value={draft.units[o.id] ?? 0}
                most={o.mostPerOrder}
                set={(n) => change({ units: { ...draft.units, [o.id]: n } })}
              />
            </div>
            {wrong[`lines.${at}.units`] && <div className="error-line">{wrong[`lines.${at}.units`]}</div>}
          </li>
        ))}
      </ul>

      <h2>{t('you')}</h2>
      <p className="soft">{t('youBook')}</p>
      <div className="two" style={{ marginTop: 10 }}>
        <TextField
          label={t('given')}
          value={draft.buyer.given}
          set={(given) => change({ buyer: { ...draft.buyer, given } })}
          error={wrong['buyer.given']}
          autoComplete="given-name"
        />
        <TextField
          label={t('family')}
          value={draft.buyer.family}
          set={(family) => change({ buyer: { ...draft.buyer, family } })}
          error={wrong['buyer.family']}
          autoComplete="family-name"
        />
      </div>
      <TextField
        label={t('email')}
        type="email"
        inputMode="email"
        value={draft.buyer.email}
        set={(email) => change({ buyer: { ...draft.buyer, email } })}
        error={wrong['buyer.email']}
        autoComplete="email"
      />
      <TextField
        label={t('phone')}
        optional
        type="tel"
        value={draft.buyer.phone}
        set={(phone) => change({ buyer: { ...draft.buyer, phone } })}
        error={wrong['buyer.phone']}
        autoComplete="tel"
      />

      {offerOfSeat.length > 0 && (
        <>
          <h2>{t('who')}</h2>
          <label className="tick">
            <input
              type="checkbox"
              checked={draft.coming}
              onChange={(e) => change({ coming: e.target.checked })}
            />
            {t('imComing')}
          </label>
          {offerOfSeat.length > 1 && (
            <p className="soft" style={{ fontSize: 15 }}>
              {t('nameLater')}
            </p>
          )}
          {guests.map((guest, at) => {
            const asked = event.questions.filter(
              (q) => q.scope === 'attendee' && (!q.offerId || q.offerId === offerOfSeat[at]),
            );
            const self = at === 0 && draft.coming;
            if (self && !event.needsBirthDate && asked.length === 0) return null;
            return (
              <fieldset key={at} className="seat">
                <legend>{self ? t('you') : t('seat', { n: at + 1 })}</legend>
                {!self && (
                  <div className="two">
                    <TextField
                      label={t('given')}
                      value={guest.given}
                      set={(given) => setGuest(at, { given })}
                    />
                    <TextField
                      label={t('family')}
                      value={guest.family}
                      set={(family) => setGuest(at, { family })}
                    />
                  </div>
                )}
                {event.needsBirthDate && (
                  <TextField
                    label={t('birthDate')}
                    help={t('birthDateHelp')}
                    type="date"
                    value={guest.birthDate}
                    set={(birthDate) => setGuest(at, { birthDate })}
                    error={wrong[`attendees.${at}.birthDate`]}
                  />
                )}
                {asked.map((q) => (
                  <QuestionField
                    key={q.id}
                    question={q}
                    value={guest.answers[q.id]}
                    set={(v) => setGuest(at, { answers: { ...guest.answers, [q.id]: v } })}
                    error={wrong[`attendees.${at}.answers.${q.id}`]}
                  />
                ))}
              </fieldset>
            );
          })}
        </>
      )}

      {event.questions.some((q) => q.scope === 'order') && <h2>{t('otherQuestions')}</h2>}
      {event.questions
        .filter((q) => q.scope === 'order' && (!q.offerId || offerOfSeat.includes(q.offerId)))
        .map((q) => (
          <QuestionField
            key={q.id}
            question={q}
            value={draft.answers[q.id]}
            set={(v) => change({ answers: { ...draft.answers, [q.id]: v } })}
            error={wrong[`answers.${q.id}`]}
          />
        ))}

      {event.funds.length > 0 && (
        <>
          <h2>{t('donation')}</h2>
          <p className="soft">{t('donationHelp')}</p>
          <div className="two" style={{ marginTop: 10 }}>
            <TextField
              label={t('amount')}
              optional
              inputMode="decimal"
              value={draft.gift}
              set={(value) => change({ gift: value })}
              error={gift === null ? t('problems') : wrong['donation.amount']}
            />
            <Field label={t('fund')}>
              {(props) => (
                <select
                  {...props}
                  value={draft.fundId || event.funds[0]!.id}
                  onChange={(e) => change({ fundId: e.target.value })}
                >
                  {event.funds.map((f) => (
                    <option key={f.id} value={f.id}>
                      {f.name}
                    </option>
                  ))}
                </select>
              )}
            </Field>
          </div>
          {Boolean(gift) && (
            <label className="tick">
              <input
                type="checkbox"
                checked={draft.anonymous}
                onChange={(e) => change({ anonymous: e.target.checked })}
              />
              {t('anonymous')}
            </label>
          )}
        </>
      )}

      <div className="spread" style={{ borderTop: '1px solid var(--rule)', marginTop: 22, paddingTop: 12 }}>
        <span>
          {t('total')}, {t('seats', { count: offerOfSeat.length })}
        </span>
        <b className="num">{money(total)}</b>
      </div>
      {waits && <p className="say need">{t('waitlistNote', { count: offerOfSeat.length })}</p>}
      <button type="submit" className="btn primary go" disabled={place.isPending || gift === null}>
        {place.isPending
          ? t('loading')
          : waits
            ? t('toWaitlist')
            : total > 0
              ? t('toPayment', { amount: money(total) })
              : t('placeOrder')}
      </button>
    </form>
  );
}

function Counter({
  label,
  value,
  most,
  set,
}: {
  label: string;
  value: number;
  most: number;
  set: (n: number) => void;
}) {
  return (
    <span className="counter">
      <button
        type="button"
        className="btn"
        aria-label={`− ${label}`}
        disabled={value <= 0}
        onClick={() => set(value - 1)}
      >
        −
      </button>
      <output aria-label={label}>{value}</output>
      <button
        type="button"
        className="btn"
        aria-label={`+ ${label}`}
        disabled={value >= most}
        onClick={() => set(value + 1)}
      >
        +
      </button>
    </span>
  );
}
