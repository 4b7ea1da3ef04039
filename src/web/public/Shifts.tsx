import './holdingWords.ts';
import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link, useParams } from 'react-router';
import { crewContract } from '#contract/crew.ts';
import { sayFromTo } from '#core/time/fromTo.ts';
import { sayLongDate } from '#core/time/say.ts';
import type { Answer } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { Form } from '#web/kit/form/Form.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { InlineChoice } from '#web/kit/Inline.tsx';
import { useAsk } from './asking.ts';
import { Within } from './fields.tsx';
import { language } from './language.ts';
import { Loaded } from './notices.tsx';
import { PersonFields } from './PersonFields.tsx';
import { Ends, Head, Rows, Say, Small, Soft, Title } from './parts.tsx';

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
  const [role, setRole] = useState('');
  const roles = [...new Set(page.shifts.map((s) => s.role))].sort();
  const shifts = page.shifts.filter((s) => !role || s.role === role);
  const days = [...new Set(shifts.map((s) => s.startsLocal.slice(0, 10)))];
  return (
    <>
      <chakra.p marginTop="8px">
        <Link to={`/e/${page.slug}`}>{page.title}</Link>
      </chakra.p>
      <Title>{t('shiftsTitle')}</Title>
      <Soft>{page.shifts.some((s) => s.filled < s.wished) ? t('shiftsText') : t('noShifts')}</Soft>
      {roles.length > 2 && (
        <chakra.p margin="8px 0 0">
          <InlineChoice
            label={t('roleOnly')}
            value={role}
            set={setRole}
            choices={roles.map((value) => ({ value, label: value }))}
            empty={t('everyRole')}
          />
        </chakra.p>
      )}
      {days.map((day) => (
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
                      {free > 0 && (
                        <Button
                          aria-expanded={chosen === s.id}
                          onClick={() => setChosen(chosen === s.id ? null : s.id)}
                        >
                          {t('signUp')}
                        </Button>
                      )}
                    </Ends>
                    {chosen === s.id && <SignUp shift={s} />}
                  </li>
                );
              })}
          </Rows>
        </section>
      ))}
    </>
  );
}

function SignUp({ shift }: { shift: Page['shifts'][number] }) {
  const { t } = useTranslation();
  const [sentTo, setSentTo] = useState<string | null>(null);
  const form = useForm({
    values: { given: '', family: '', email: '', phone: '' },
    request: (v) =>
      prepare(crewContract, 'POST /api/public/shifts/:id/sign-up', {
        params: { id: shift.id },
        body: { ...v, language: language() },
      }),
    draft: { name: 'sign-up', keeping: 'tab' },
    after: (_, { email }) => setSentTo(email),
  });
  if (sentTo !== null) return <Say role="status">{t('signedUp', { email: sentTo })}</Say>;
  return (
    <Within>
      {shift.asked && <Soft>{t('shiftDecided')}</Soft>}
      <Form form={form} submit={t(shift.asked ? 'askForShift' : 'signUpFor', { role: shift.role })}>
        <PersonFields form={form} />
      </Form>
    </Within>
  );
}
