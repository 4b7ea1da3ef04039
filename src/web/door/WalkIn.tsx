import { useState } from 'react';
import type { Answer } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { ChoiceField, TextField } from '../kit/Field.tsx';
import { Problems } from '../kit/notices.tsx';
import { say } from '../kit/toast.tsx';
import { useAction, useAsk } from '../parts/ask.ts';
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
  const [form, setForm] = useState({
    ...nobody,
    given: first,
    family: rest.join(' '),
    birthDate: '',
    offerId: doors.offers[0]?.id ?? '',
  });
  const [picked, setPicked] = useState<{ contactId: string; name: string } | null>(null);
  const name = `${form.given} ${form.family}`.trim();
  const known = useAsk('GET /api/events/:id/known', {
    params: { id },
    query: { q: name },
    enabled: name.length >= 3 && !picked,
  });
  const add = useAction('POST /api/events/:id/walk-ins', (answer) => {
    if (answer.arrived) say(`${form.given} is in${answer.known ? ', known to us' : ''}`);
    // What is missing is settled at the lamp.
    done(answer.arrived ? null : answer.registrationId);
  });
  const wrong = add.problem?.fields ?? {};
  const proposals = picked || name.length < 3 ? [] : (known.data ?? []);
  return (
    <form
      noValidate
      className="lamp settle"
      onSubmit={(e) => {
        e.preventDefault();
        add.mutate({
          params: { id },
          body: { ...form, birthDate: form.birthDate || null, contactId: picked?.contactId ?? null },
        });
      }}
    >
      <h2>Walk-in</h2>
      <Problems of={add.problem} />
      {picked ? (
        <p>
          <span className="name who">{picked.name}</span>, known to us{' '}
          <button type="button" className="link" onClick={() => setPicked(null)}>
            somebody else
          </button>
        </p>
      ) : (
        <>
          <PersonFields value={form} set={(part) => setForm({ ...form, ...part })} wrong={wrong} />
          {proposals.length > 0 && (
            <ul className="plainlist" aria-label="People we know">
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
                      setForm({ ...form, given, family: family.join(' '), email: '', phone: '' });
                    }}
                  >
                    This is them
                  </Button>
                </li>
              ))}
            </ul>
          )}
        </>
      )}
      {doors.waiver && !picked && (
        <TextField
          label="Birth date"
          type="date"
          value={form.birthDate}
          set={(birthDate) => setForm({ ...form, birthDate })}
          error={wrong.birthDate}
          help="Until their age is known, a guardian has to sign."
        />
      )}
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
      <div className="acts">
        <Button type="submit" look="main" size="touch" disabled={add.isPending}>
          Register
        </Button>
        <Button look="plain" size="touch" onClick={() => done(null)}>
          Cancel
        </Button>
      </div>
    </form>
  );
}
