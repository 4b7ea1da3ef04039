import { chakra } from '@chakra-ui/react';
import { Plus, X } from 'lucide-react';
import { useState } from 'react';
import { doorsContract } from '#contract/doors.ts';
import type { Answer } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { phrase } from '#web/words/phrase.ts';
import { Tick } from '../kit/Choosing.tsx';
import { TextField } from '../kit/Field.tsx';
import { Form } from '../kit/form/Form.tsx';
import { Choose, DateField, Tick as FormTick } from '../kit/form/fields.tsx';
import { type Prepared, prepare } from '../kit/form/request.ts';
import { useForm } from '../kit/form/useForm.ts';
import { say } from '../kit/toast.tsx';
import { useAsk } from '../parts/ask.ts';
import { nobody, PersonFields } from '../parts/PersonFields.tsx';
import { useSaying } from '../parts/saying.ts';
import { doorName } from './doorName.ts';
import { keepRequest, wasCut } from './outbox.ts';

type Doors = Answer<'GET /api/events/:id/doors'>;

/** Who comes along: somebody of their household who was picked, or somebody who is typed. */
interface Along {
  contactId: string | null;
  given: string;
  family: string;
  birthDate: string;
}

/** Somebody who comes without a seat, and who comes along: known people are proposed while the name is typed, and one of them can be picked. */
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
      others: [] as Along[],
      paid: false,
    },
    request: (v): Prepared<Answer<'POST /api/events/:id/walk-ins'> | null> => {
      const params = { id };
      const body = {
        ...v,
        birthDate: v.birthDate || null,
        contactId: picked?.contactId ?? null,
        others: v.others.map((o) => ({ ...o, birthDate: o.birthDate || null })),
        at: new Date().toISOString(),
        device: doorName(),
      };
      const ready = prepare(doorsContract, 'POST /api/events/:id/walk-ins', {
        params,
        query: { sentAt: body.at },
        body,
      });
      return {
        ...ready,
        send: async (key) => {
          try {
            return await ready.send(key);
          } catch (error) {
            if (!wasCut(error)) throw error;
            // Whether the server has it or not: sent again under the same id it is one.
            await keepRequest({
              id: key,
              name: `${v.given} ${v.family}`.trim(),
              key: 'POST /api/events/:id/walk-ins',
              params,
              body,
            });
            return null;
          }
        },
      };
    },
    after: (answer, { given, family }) => {
      if (!answer) {
        say(phrase('door.walkInKept', { name: `${given} ${family}`.trim() }));
        done(null);
        return;
      }
      const people = [answer.row, ...answer.others];
      const stopped = people.find((r) => r.attendance !== 'arrived');
      const count = people.length;
      if (!stopped)
        say(
          count > 1
            ? phrase('door.areIn', { count })
            : phrase(answer.known ? 'door.isInAndKnown' : 'door.isIn', { given }),
        );
      // What is missing is settled at the lamp, for the first whom something keeps out.
      done(stopped?.registrationId ?? null);
    },
  });
  const { values } = form;
  const name = `${values.given} ${values.family}`.trim();
  const known = useAsk('GET /api/events/:id/known', {
    params: { id },
    query: { q: name },
    enabled: name.length >= 3 && !picked,
  });
  const proposals = picked || name.length < 3 ? [] : (known.data ?? []);
  const people = 1 + values.others.length;
  const price = doors.offers.find((o) => o.id === values.offerId)?.price ?? 0;
  const put = (at: number, part: Partial<Along>) =>
    form.set({ others: values.others.map((o, n) => (n === at ? { ...o, ...part } : o)) });
  return (
    <chakra.section className="lamp form" aria-label={phrase('door.walkIn')}>
      <h2>{phrase('door.walkIn')}</h2>
      <Form
        form={form}
        submit={people > 1 ? phrase('door.registerSeveral', { count: people }) : phrase('common.register')}
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
            <Button
              look="link"
              onClick={() => {
                setPicked(null);
                form.set({ others: values.others.filter((o) => o.contactId === null) });
              }}
            >
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
        {picked && (
          <Household
            eventId={id}
            contactId={picked.contactId}
            others={values.others}
            set={(others) => form.set({ others })}
          />
        )}
        {values.others.map(
          (other, at) =>
            other.contactId === null && (
              <chakra.div key={at} display="flex" flexWrap="wrap" gap="0 10px" alignItems="center">
                <TextField
                  label={phrase('common.firstName')}
                  value={other.given}
                  set={(given) => put(at, { given })}
                  error={form.wrongAt(`others.${at}.given`)}
                />
                <TextField
                  label={phrase('common.lastName')}
                  value={other.family}
                  set={(family) => put(at, { family })}
                  error={form.wrongAt(`others.${at}.family`)}
                />
                {doors.waivers.length > 0 && (
                  <TextField
                    type="date"
                    label={phrase('common.birthDate')}
                    value={other.birthDate}
                    set={(birthDate) => put(at, { birthDate })}
                    error={form.wrongAt(`others.${at}.birthDate`)}
                  />
                )}
                <Button
                  look="plain"
                  aria-label={phrase('door.notAlong')}
                  onClick={() => form.set({ others: values.others.filter((_, n) => n !== at) })}
                >
                  <X size={16} aria-hidden />
                </Button>
              </chakra.div>
            ),
        )}
        {values.others.length < 9 && (
          <chakra.p marginBottom="12px">
            <Button
              onClick={() =>
                form.set({
                  others: [
                    ...values.others,
                    { contactId: null, given: '', family: values.family, birthDate: '' },
                  ],
                })
              }
            >
              <Plus size={14} aria-hidden /> {phrase('door.addAlong')}
            </Button>
          </chakra.p>
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
        {price > 0 && (
          <FormTick form={form} name="paid" label={phrase('door.paidNow', { price: money(price) })} />
        )}
      </Form>
    </chakra.section>
  );
}

/** Who lives with whoever was picked: those who came along are ticked. */
function Household({
  eventId,
  contactId,
  others,
  set,
}: {
  eventId: string;
  contactId: string;
  others: readonly Along[];
  set: (others: Along[]) => void;
}) {
  const around = useAsk('GET /api/events/:id/known/:contact', {
    params: { id: eventId, contact: contactId },
  });
  if (!around.data?.length) return null;
  return (
    <chakra.fieldset border="0" padding="0" margin="0 0 10px">
      <chakra.legend fontWeight="600" padding="0">
        {phrase('door.whoCameAlong')}
      </chakra.legend>
      {around.data.map((p) => (
        <div key={p.contactId}>
          <Tick
            checked={others.some((o) => o.contactId === p.contactId)}
            set={(so) =>
              set(
                so ? [...others, { ...p, birthDate: '' }] : others.filter((o) => o.contactId !== p.contactId),
              )
            }
          >
            {`${p.given} ${p.family}`.trim()}
          </Tick>
        </div>
      ))}
    </chakra.fieldset>
  );
}
