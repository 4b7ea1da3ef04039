import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { crewContract } from '#contract/crew.ts';
import { steppingInContract } from '#contract/steppingIn.ts';
import { sayFromTo } from '#core/time/fromTo.ts';
import { sayLongDate } from '#core/time/say.ts';
import type { Answer } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { Form } from '#web/kit/form/Form.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { Within } from '../fields.tsx';
import { language } from '../language.ts';
import { PersonFields } from '../PersonFields.tsx';
import { Ends, Head, Rows, Say, Small, Soft } from '../parts.tsx';
import { WhereYouAre } from '../WhereYouAre.tsx';

type Shift = Answer<'GET /api/public/events/:slug/shifts'>['shifts'][number];

/** Open shifts, day by day, each with what it takes to have it; the one that is chosen shows its form. */
export function ShiftList({
  shifts,
  ofOne = false,
  chosen,
  choose,
}: {
  shifts: readonly Shift[];
  /** They are all of one event, which is said above. */
  ofOne?: boolean;
  chosen: string;
  choose: (id: string) => void;
}) {
  const { t } = useTranslation();
  const days = [...new Set(shifts.map((s) => s.startsLocal.slice(0, 10)))];
  return days.map((day) => (
    <section key={day}>
      <Head>{sayLongDate(day, language())}</Head>
      <Rows>
        {shifts
          .filter((s) => s.startsLocal.startsWith(day))
          .map((s) => {
            const free = s.wished - s.filled;
            return (
              <li key={s.id}>
                <Ends alignItems="center">
                  <span>
                    <span className="num">{sayFromTo(s, language())}</span>{' '}
                    {[s.name, s.role].filter(Boolean).join(', ')}
                    <WhereYouAre of={s} />
                    {!ofOne && (
                      <Small>
                        <Link to={`/e/${s.event.slug}`}>{s.event.title}</Link>
                      </Small>
                    )}
                    <Small>
                      {[s.place, free > 0 ? t('places', { count: free }) : t('filled')]
                        .filter(Boolean)
                        .join(', ')}
                    </Small>
                    {s.brief && <Small>{s.brief}</Small>}
                    {(s.needs.length > 0 || s.fromAge !== null) && (
                      <Small>
                        {t('shiftNeeds', {
                          needs: [
                            ...s.needs,
                            ...(s.fromAge === null ? [] : [t('shiftFromAge', { age: s.fromAge })]),
                          ].join(', '),
                        })}
                      </Small>
                    )}
                  </span>
                  <Button
                    aria-expanded={chosen === s.id}
                    look={free > 0 ? 'normal' : 'plain'}
                    flexShrink={0}
                    onClick={() => choose(chosen === s.id ? '' : s.id)}
                  >
                    {t(free > 0 ? 'signUp' : 'waitForPlace')}
                  </Button>
                </Ends>
                {chosen === s.id && <SignUp shift={s} waits={free <= 0} />}
              </li>
            );
          })}
      </Rows>
    </section>
  ));
}

/** Who somebody is that takes a shift, or waits for a place on it. */
function SignUp({ shift, waits }: { shift: Shift; waits: boolean }) {
  const { t } = useTranslation();
  const [sentTo, setSentTo] = useState<string | null>(null);
  // As it was when it was opened: that somebody else was faster is said, and nothing is lost.
  const [asWaiting] = useState(waits);
  const params = { id: shift.id };
  const form = useForm({
    values: { given: '', family: '', email: '', phone: '' },
    request: (v) => {
      const body = { ...v, language: language() };
      return asWaiting
        ? prepare(steppingInContract, 'POST /api/public/shifts/:id/wait', { params, body })
        : prepare(crewContract, 'POST /api/public/shifts/:id/sign-up', { params, body });
    },
    draft: { name: 'sign-up', keeping: 'tab' },
    after: (_, { email }) => setSentTo(email),
  });
  if (sentTo !== null)
    return <Say role="status">{t(asWaiting ? 'waitsNow' : 'signedUp', { email: sentTo })}</Say>;
  return (
    <Within>
      {asWaiting ? <Soft>{t('waitText')}</Soft> : shift.asked && <Soft>{t('shiftDecided')}</Soft>}
      <Form
        form={form}
        submit={
          asWaiting ? t('waitForPlace') : t(shift.asked ? 'askForShift' : 'signUpFor', { role: shift.role })
        }
      >
        <PersonFields form={form} />
      </Form>
    </Within>
  );
}
