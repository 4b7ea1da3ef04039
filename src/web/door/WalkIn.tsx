import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { doorsContract } from '#contract/doors.ts';
import type { Answer } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { phrase } from '#web/words/phrase.ts';
import { Form } from '../kit/form/Form.tsx';
import { Choose, DateField } from '../kit/form/fields.tsx';
import { prepare } from '../kit/form/request.ts';
import { useForm } from '../kit/form/useForm.ts';
import { say } from '../kit/toast.tsx';
import { useAsk } from '../parts/ask.ts';
import { nobody, PersonFields } from '../parts/PersonFields.tsx';
import { useSaying } from '../parts/saying.ts';

type Doors = Answer<'GET /api/events/:id/doors'>;

/** Somebody who comes without a seat: known people are proposed while the name is typed, and one of them can be picked. */
export function WalkIn({
  doors,
  id,
  typed,
  done,
}: {
  doors: Doors;
  id: string;
  /** What stood in the search when nobody was found. */
  typed: string;
  done: (registrationId: string | null) => void;
}) {
  const { money } = useSaying();
  const [first = '', ...rest] = typed.trim().split(/\s+/u);
  const [picked, setPicked] = useState<{ contactId: string; name: string } | null>(null);
  const form = useForm({
    values: {
      ...nobody,
      given: first,
      family: rest.join(' '),
      birthDate: '',
      offerId: doors.offers[0]?.id ?? '',
    },
    request: (v) =>
      prepare(doorsContract, 'POST /api/events/:id/walk-ins', {
        params: { id },
        body: { ...v, birthDate: v.birthDate || null, contactId: picked?.contactId ?? null },
      }),
    after: (answer, { given }) => {
      if (answer.arrived) say(phrase(answer.known ? 'door.isInAndKnown' : 'door.isIn', { given }));
      // What is missing is settled at the lamp.
      done(answer.arrived ? null : answer.registrationId);
    },
  });
  const name = `${form.values.given} ${form.values.family}`.trim();
  const known = useAsk('GET /api/events/:id/known', {
    params: { id },
    query: { q: name },
    enabled: name.length >= 3 && !picked,
  });
  const proposals = picked || name.length < 3 ? [] : (known.data ?? []);
  return (
    <chakra.section className="lamp form" aria-label={phrase('door.walkIn')}>
      <h2>{phrase('door.walkIn')}</h2>
      <Form
        form={form}
        submit={phrase('common.register')}
        size="touch"
        beside={
          <Button look="plain" size="touch" onClick={() => done(null)}>
            {phrase('common.cancel')}
          </Button>
        }
      >
        {picked ? (
          <p>
            <span className="name who">{picked.name}</span>, {phrase('door.knownToUs')}{' '}
            <Button look="link" onClick={() => setPicked(null)}>
              {phrase('door.somebodyElse')}
            </Button>
          </p>
        ) : (
          <>
            <PersonFields form={form} />
            {proposals.length > 0 && (
              <ul className="plainlist" aria-label={phrase('door.peopleWeKnow')}>
                {proposals.map((p) => (
                  <li key={p.contactId} className="spread">
                    <span>
                      <span className="name">{p.name}</span>
                      {p.hint && (
                        <>
                          <br />
                          <small className="soft">{p.hint}</small>
                        </>
                      )}
                    </span>
                    <Button
                      size="touch"
                      onClick={() => {
                        const [given = '', ...family] = p.name.split(' ');
                        setPicked(p);
                        form.set({ given, family: family.join(' '), email: '', phone: '' });
                      }}
                    >
                      {phrase('door.thisIsThem')}
                    </Button>
                  </li>
                ))}
              </ul>
            )}
          </>
        )}
        {doors.waivers.length > 0 && !picked && (
          <DateField
            form={form}
            name="birthDate"
            label={phrase('common.birthDate')}
            help={phrase('door.untilTheirAgeIs')}
          />
        )}
        {doors.offers.length > 1 && (
          <Choose
            form={form}
            name="offerId"
            label={phrase('common.offer')}
            choices={doors.offers.map((o) => ({
              value: o.id,
              label: `${o.name}${o.price ? `, ${money(o.price)}` : ''}`,
            }))}
          />
        )}
      </Form>
    </chakra.section>
  );
}
