import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link, useParams } from 'react-router';
import { sayLongDate, sayTime } from '#core/time/say.ts';
import { type Answer, ApiProblem, call } from '#web/api.ts';
import { useAsk } from './asking.ts';
import { TextField } from './fields.tsx';
import { language } from './language.ts';
import { Loaded, Problems } from './notices.tsx';

type Page = Answer<'GET /api/public/events/:slug/shifts'>;

/** Open shifts of an event that anybody may take. */
export default function Shifts() {
  const { slug = '' } = useParams();
  return (
    <Loaded of={useAsk('GET /api/public/events/:slug/shifts', { slug }, { everyMs: 15_000 })}>
      {(page) => <Shown page={page} />}
    </Loaded>
  );
}

function Shown({ page }: { page: Page }) {
  const { t } = useTranslation();
  const [chosen, setChosen] = useState<string | null>(null);
  const days = [...new Set(page.shifts.map((s) => s.startsLocal.slice(0, 10)))];
  return (
    <>
      <p style={{ marginTop: 8 }}>
        <Link to={`/e/${page.slug}`}>{page.title}</Link>
      </p>
      <h1>{t('shiftsTitle')}</h1>
      <p className="soft">{page.shifts.some((s) => s.filled < s.needed) ? t('shiftsText') : t('noShifts')}</p>
      {days.map((day) => (
        <section key={day}>
          <h2>{sayLongDate(day, language())}</h2>
          <ul className="rows">
            {page.shifts
              .filter((s) => s.startsLocal.startsWith(day))
              .map((s) => {
                const free = s.needed - s.filled;
                return (
                  <li key={s.id}>
                    <div className="spread" style={{ alignItems: 'center' }}>
                      <span>
                        <span className="num">
                          {sayTime(s.startsLocal)}–{sayTime(s.endsLocal)}
                        </span>{' '}
                        {s.role}
                        <small>
                          {[s.place, free > 0 ? t('places', { count: free }) : t('filled')]
                            .filter(Boolean)
                            .join(', ')}
                        </small>
                      </span>
                      {free > 0 && (
                        <button
                          type="button"
                          className="btn"
                          aria-expanded={chosen === s.id}
                          onClick={() => setChosen(chosen === s.id ? null : s.id)}
                        >
                          {t('signUp')}
                        </button>
                      )}
                    </div>
                    {chosen === s.id && <SignUp shiftId={s.id} role={s.role} />}
                  </li>
                );
              })}
          </ul>
        </section>
      ))}
    </>
  );
}

function SignUp({ shiftId, role }: { shiftId: string; role: string }) {
  const { t } = useTranslation();
  const [who, setWho] = useState({ given: '', family: '', email: '', phone: '' });
  const [key] = useState(() => crypto.randomUUID());
  const signUp = useMutation({
    mutationFn: () =>
      call(
        'POST /api/public/shifts/:id/sign-up',
        { params: { id: shiftId }, body: { ...who, language: language() } },
        `${key}-${who.email.length}-${who.given.length}`,
      ),
  });
  const problem = signUp.error instanceof ApiProblem ? signUp.error : null;
  if (signUp.isSuccess)
    return (
      <p className="say" role="status">
        {t('signedUp', { email: who.email })}
      </p>
    );
  return (
    <form
      noValidate
      style={{ marginTop: 12 }}
      onSubmit={(e) => {
        e.preventDefault();
        signUp.mutate();
      }}
    >
      <Problems problem={problem} />
      <div className="two">
        <TextField
          label={t('given')}
          value={who.given}
          set={(given) => setWho({ ...who, given })}
          error={problem?.fields.given}
          autoComplete="given-name"
        />
        <TextField
          label={t('family')}
          value={who.family}
          set={(family) => setWho({ ...who, family })}
          error={problem?.fields.family}
          autoComplete="family-name"
        />
      </div>
      <TextField
        label={t('email')}
        type="email"
        value={who.email}
        set={(email) => setWho({ ...who, email })}
        error={problem?.fields.email}
        autoComplete="email"
      />
      <TextField
        label={t('phone')}
        optional
        type="tel"
        value={who.phone}
        set={(phone) => setWho({ ...who, phone })}
        error={problem?.fields.phone}
        autoComplete="tel"
      />
      <button type="submit" className="btn primary" disabled={signUp.isPending}>
        {t('signUpFor', { role })}
      </button>
    </form>
  );
}
