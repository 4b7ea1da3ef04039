import { chakra } from '@chakra-ui/react';
import type { FieldPathByValue } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import type { PublicEvent } from '#contract/publicEvent.ts';
import { fullName } from '#core/contacts/names.ts';
import type { AnswerValue } from '#core/questions/answering.ts';
import { askedOfSeat, type OrderForm } from '#core/questions/showing.ts';
import { asksBirthDate } from '#core/registration/checking.ts';
import { seatPeople } from '#core/registration/seating.ts';
import { Button } from '#web/kit/Button.tsx';
import { SeveralOf } from '#web/kit/Choosing.tsx';
import { DateField, OneOf, Text } from '#web/kit/form/fields.tsx';
import type { Form } from '#web/kit/form/useForm.ts';
import { QuestionField } from '../fields.tsx';
import { Acts, Head, Soft, Two } from '../parts.tsx';
import { type Draft, filled, type Guest, nobody, type Seat, seatsOf } from './draft.ts';

type Known = NonNullable<PublicEvent['you']>['people'][number];

/** Who comes: whoever books, people of their household, and others by name; a name can be given later. */
export function Who({ event, form, order }: { event: PublicEvent; form: Form<Draft>; order: OrderForm }) {
  const { t } = useTranslation();
  const draft = form.values;
  // Which seat is whose is known once whoever books said whether they come.
  const seats = draft.coming ? seatsOf(event, draft) : [];
  const others = seats.filter((s) => !s.own);
  return (
    <>
      <Head>{t('who')}</Head>
      <OneOf
        form={form}
        name="coming"
        label={t('comingYourself')}
        required
        choices={[
          { value: 'yes', label: t('yes') },
          { value: 'no', label: t('no') },
        ]}
      />
      {event.you && event.you.people.length > 0 && others.length > 0 && (
        <Household event={event} form={form} people={event.you.people} seats={others} />
      )}
      {others.length > 0 && <Soft fontSize="15px">{t('nameLater')}</Soft>}
      {seats.map((seat, at) => (
        <OneGuest key={seat.path} event={event} form={form} seat={seat} at={at} order={order} seats={seats} />
      ))}
    </>
  );
}

/** People of the household of whoever is signed in: ticked, they get a seat without a word typed. */
function Household({
  event,
  form,
  people,
  seats,
}: {
  event: PublicEvent;
  form: Form<Draft>;
  people: readonly Known[];
  seats: readonly Seat[];
}) {
  const { t } = useTranslation();
  const chosen = seats.flatMap((s) => (s.guest.contactId ? [s.guest.contactId] : []));
  const put = (seat: Seat, guest: Guest) => {
    const of = [...(form.values.guests[seat.offer.id] ?? [])];
    for (let n = 0; n < seat.n; n++) of[n] ??= nobody;
    of[seat.n] = guest;
    form.set({ guests: { ...form.values.guests, [seat.offer.id]: of } });
  };
  const choose = (ids: string[]) => {
    const gone = seats.find((s) => s.guest.contactId && !ids.includes(s.guest.contactId));
    if (gone) return put(gone, { ...nobody, answers: gone.guest.answers });
    const person = people.find((p) => ids.includes(p.contactId) && !chosen.includes(p.contactId));
    const free = seats.filter((s) => !s.guest.contactId && !fullName(s.guest));
    const [at] = person
      ? seatPeople(
          [person],
          free.map((s) => s.offer),
          event.startsLocal?.slice(0, 10) ?? null,
        )
      : [null];
    if (!person || at === null || at === undefined) return;
    put(free[at]!, {
      given: person.given,
      family: person.family,
      birthDate: person.birthDate ?? '',
      contactId: person.contactId,
      answers: free[at]!.guest.answers,
    });
  };
  return (
    <SeveralOf
      label={t('fromHousehold')}
      help={chosen.length < people.length ? t('fromHouseholdHelp') : undefined}
      value={chosen}
      set={choose}
      choices={people.map((p) => ({ value: p.contactId, label: fullName(p) }))}
    />
  );
}

function OneGuest({
  event,
  form,
  seat,
  at,
  order,
  seats,
}: {
  event: PublicEvent;
  form: Form<Draft>;
  seat: Seat;
  at: number;
  order: OrderForm;
  seats: readonly Seat[];
}) {
  const { t } = useTranslation();
  const { offer, path, guest, own } = seat;
  const draft = form.values;
  // Lists by key have no paths that the compiler knows.
  const field = (name: string) => `${path}.${name}` as FieldPathByValue<Draft, string>;
  const shown = askedOfSeat(event.questions, { offerId: offer.id, answers: guest.answers }, order);
  const asked = shown.filter((q) => q.keeps !== 'birthDate');
  const birth = asksBirthDate(shown);
  const needsAge = event.needsBirthDate || offer.asksAge;
  const onRecord = event.you?.people.find((p) => p.contactId === guest.contactId);
  const asksAge = (needsAge || birth !== 'no') && !onRecord?.hasBirthDate;
  if (own && !asksAge && asked.length === 0) return null;
  const set = (part: Partial<Guest>) => {
    const of = [...(draft.guests[offer.id] ?? [])];
    for (let n = 0; n < seat.n; n++) of[n] ??= nobody;
    of[seat.n] = { ...filled(of[seat.n]), ...part };
    form.set({ guests: { ...draft.guests, [offer.id]: of } });
  };
  // What was said of somebody else, for whoever shares it: the name, and what is kept on a record beside it.
  const before = seats.slice(0, at).filter((s) => s.guest.family);
  const family = own ? '' : (before.at(-1)?.guest.family ?? draft.buyer.family).trim();
  const shared = sharedAnswers(asked, guest, before);
  return (
    <chakra.fieldset
      border="0"
      borderTop="1px solid"
      borderColor="line"
      padding="14px 0 4px"
      margin="0"
      minWidth="0"
    >
      <chakra.legend padding="0" float="left" fontWeight={500} marginBottom="4px" width="100%">
        {own
          ? t('you')
          : `${t('seat', { n: at + 1 })}${seats.some((s) => s.offer !== offer) ? ` · ${offer.name}` : ''}`}
      </chakra.legend>
      <chakra.div clear="both">
        {onRecord && !own ? (
          <Acts marginBottom="8px">
            {fullName(guest)}
            <Button look="plain" onClick={() => set({ ...nobody, answers: guest.answers })}>
              {t('somebodyElse')}
            </Button>
          </Acts>
        ) : (
          !own && (
            <>
              <Two>
                <Text form={form} name={field('given')} label={t('given')} autoComplete="off" />
                <Text form={form} name={field('family')} label={t('family')} autoComplete="off" />
              </Two>
              {guest.given.trim() && !guest.family.trim() && family && (
                <Acts marginBottom="10px">
                  <Button look="plain" onClick={() => set({ family })}>
                    {t('sameFamily', { family })}
                  </Button>
                </Acts>
              )}
            </>
          )
        )}
        {Object.keys(shared).length > 0 && (
          <Acts marginBottom="10px">
            <Button look="plain" onClick={() => set({ answers: { ...guest.answers, ...shared } })}>
              {t('sameDetails')}
            </Button>
          </Acts>
        )}
        {asksAge && (
          <DateField
            form={form}
            name={field('birthDate')}
            label={t('birthDate')}
            help={event.needsBirthDate ? t('birthDateHelp') : undefined}
            required={own && (needsAge || birth === 'required')}
            autoComplete={own ? 'bday' : 'off'}
          />
        )}
        {asked.map((q) => (
          <QuestionField
            key={q.id}
            form={form}
            name={field(`answers.${q.id}`)}
            question={q}
            slug={event.slug}
          />
        ))}
      </chakra.div>
    </chakra.fieldset>
  );
}

/** Address and telephone of somebody before, where this person has none yet. */
function sharedAnswers(
  asked: readonly { id: string; keeps: string | null }[],
  guest: Guest,
  before: readonly Seat[],
): Record<string, AnswerValue> {
  return Object.fromEntries(
    asked.flatMap((q) => {
      if (q.keeps !== 'phone' && q.keeps !== 'street' && q.keeps !== 'postalCode') return [];
      const said = before.findLast((s) => s.guest.answers[q.id])?.guest.answers[q.id];
      return said && !guest.answers[q.id] ? [[q.id, said]] : [];
    }),
  );
}
