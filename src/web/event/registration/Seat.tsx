import { useState } from 'react';
import type { EventPage } from '#contract/events.ts';
import { guestsContract } from '#contract/guests.ts';
import type { AskedColumn, RegistrationRow } from '#contract/seats.ts';
import { percentBack } from '#core/money/refundPolicy.ts';
import { sayAnswer } from '#core/questions/answering.ts';
import { dateOf } from '#core/time/wallTime.ts';
import { addressOf } from '#web/api.ts';
import { Asking } from '#web/kit/Asking.tsx';
import { Button } from '#web/kit/Button.tsx';
import { OneOf, Tick } from '#web/kit/Choosing.tsx';
import { Form } from '#web/kit/form/Form.tsx';
import { DateField, Text } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { Problems } from '#web/kit/notices.tsx';
import { say } from '#web/kit/toast.tsx';
import { useAction, useAsk, useMe } from '#web/parts/ask.ts';
import { HealthNotes } from '#web/parts/HealthNotes.tsx';
import { MoneyByHand } from '#web/parts/OrderMoney.tsx';
import { useSaying } from '#web/parts/saying.ts';
import { phrase, term } from '#web/words/phrase.ts';
import { answerable, ChangeAnswers } from './ChangeAnswers.tsx';

type Back = 'terms' | 'all' | 'nothing';

/** One seat: why it is linked as it is, its answers, and what can be done with it. */
export function Seat({
  row,
  questions,
  page,
  close,
}: {
  row: RegistrationRow;
  questions: readonly AskedColumn[];
  page: EventPage;
  close: () => void;
}) {
  const roles = useMe().data?.staff.roles ?? [];
  const change = page.may.change.includes('registration');
  const treasures = roles.includes('coordinator') || roles.includes('treasurer');
  const { money, currency } = useSaying();
  const withdraw = useAction('POST /api/registrations/:id/withdraw', ({ offered }) => {
    say(
      offered.length
        ? phrase('event.withdrawnTheSeatsAre', { offered: offered.join(', ') })
        : phrase('event.withdrawn'),
    );
    close();
  });
  const refund = useAction('POST /api/orders/:id/refunds', () => say(phrase('event.paidBack')));
  const pay = useAction('POST /api/orders/:id/payments', () => say(phrase('common.recorded')));
  const receipted = useAction('PUT /api/registrations/:id/receipt', () => say(phrase('common.recorded')));
  const now = useAsk('GET /api/clock').data?.now ?? '';
  const [doing, setDoing] = useState<'name' | 'link' | 'answers' | 'money' | null>(null);
  const [sure, setSure] = useState(false);
  const [back, setBack] = useState<Back>('terms');
  const over = -row.balance;
  const live = ['confirmed', 'held', 'offered', 'waitlisted'].includes(row.state);
  return (
    <Asking
      open
      close={close}
      title={`${row.given} ${row.family}`.trim() || phrase('common.guestToBeNamed')}
      actions={
        <>
          {live && !sure && change && row.attendance !== 'arrived' && (
            <Button look="stop" onClick={() => setSure(true)}>
              {phrase('event.withdrawThisSeat')}
            </Button>
          )}
          {sure && (
            <>
              <Button
                look="stop"
                disabled={withdraw.isPending}
                onClick={() => withdraw.mutate({ params: { id: row.id }, body: { back } })}
              >
                {phrase('event.withdrawIt')}
              </Button>
              <Button onClick={() => setSure(false)}>{phrase('event.keepIt')}</Button>
            </>
          )}
          {live && !sure && change && doing === null && (
            <Button onClick={() => setDoing('name')}>{phrase('event.changeTheName')}</Button>
          )}
          {live && !sure && change && doing === null && row.given && answerable(page).length > 0 && (
            <Button onClick={() => setDoing('answers')}>{phrase('seats.changeAnswers')}</Button>
          )}
          {row.state === 'confirmed' && !sure && change && doing === null && (
            <Button onClick={() => setDoing('link')}>{phrase('event.writeToTheGuest')}</Button>
          )}
          {row.state === 'confirmed' && row.balance > 0 && (change || treasures) && (
            <Button
              disabled={pay.isPending}
              onClick={() =>
                pay.mutate({ params: { id: row.orderId }, body: { method: 'cash', amount: row.balance } })
              }
            >
              {phrase('event.receivedInCash', { balance: money(row.balance) })}
            </Button>
          )}
          {over > 0 && treasures && (
            <Button
              disabled={refund.isPending}
              onClick={() =>
                refund.mutate({
                  params: { id: row.orderId },
                  body: { amount: over, reason: phrase('event.seatsGivenUp') },
                })
              }
            >
              {phrase('event.payBack', { over: money(over) })}
            </Button>
          )}
          {treasures && !sure && doing === null && (row.due > 0 || row.received !== 0) && (
            <Button onClick={() => setDoing('money')}>{phrase('seats.money')}</Button>
          )}
        </>
      }
    >
      <Problems of={withdraw.problem ?? refund.problem ?? pay.problem} />
      {sure && row.state !== 'waitlisted' && <p>{phrase('event.freedSeat')}</p>}
      {sure && now && row.received > 0 && page.plan.refunds.length > 0 && (
        <OneOf
          label={phrase('event.goesBack')}
          value={back}
          set={(to) => setBack(to as Back)}
          choices={[
            {
              value: 'terms',
              label: phrase('event.backByTerms', {
                percent: percentBack(
                  page.plan.refunds,
                  dateOf(now, page.plan.zone),
                  page.plan.startsLocal?.slice(0, 10) ?? null,
                ),
              }),
            },
            { value: 'all', label: phrase('event.backAll') },
            { value: 'nothing', label: phrase('event.backNothing') },
          ]}
        />
      )}
      <p>
        {row.offer}, {term(row.state)}
        {row.attendance && row.state === 'confirmed' && `, ${term(row.attendance)}`} ·{' '}
        {phrase('event.orderBookedBy', { orderNumber: String(row.orderNumber), buyer: row.buyer })}
      </p>
      <p className="soft">
        {phrase('event.paidOfForThe', { received: money(row.received), due: money(row.due) })}
      </p>
      {row.linkReasons.length > 0 && (
        <p className="soft">
          {phrase('event.linkedToTheContact', { linkReasons: row.linkReasons.join('; ') })}
        </p>
      )}
      {doing !== 'answers' &&
        questions.map((q) => {
          const answer = row.answers[q.id];
          if (!answer) return null;
          return (
            <p key={q.id}>
              <span className="soft">{q.prompt}</span>{' '}
              {answer.file ? (
                <a
                  href={addressOf('GET /api/events/:id/answers/files/:file', {
                    id: page.id,
                    file: answer.file.id,
                  })}
                  download
                >
                  {answer.file.name}
                </a>
              ) : (
                sayAnswer(answer.value)
              )}
            </p>
          );
        })}
      <p>
        <a
          href={addressOf('GET /api/orders/:id/confirmation.pdf', { id: row.orderId })}
          target="_blank"
          rel="noreferrer"
        >
          {phrase('seats.confirmationPdf')}
        </a>
      </p>
      {row.care && <Care id={row.id} />}
      {doing === 'name' && <Rename row={row} done={() => setDoing(null)} />}
      {doing === 'answers' && <ChangeAnswers row={row} page={page} done={() => setDoing(null)} />}
      {doing === 'link' && <WriteTo row={row} done={() => setDoing(null)} />}
      {doing === 'money' && row.contactId && `${row.given} ${row.family}` !== row.buyer && (
        <Tick
          checked={row.paysOwn}
          disabled={receipted.isPending}
          set={(own) => receipted.mutate({ params: { id: row.id }, body: { own } })}
        >
          {phrase('seats.paysOwn', { name: `${row.given} ${row.family}`, buyer: row.buyer })}
        </Tick>
      )}
      <Problems of={receipted.problem} />
      {doing === 'money' && (
        <MoneyByHand
          of={{
            orderId: row.orderId,
            orderNumber: row.orderNumber,
            name: row.buyer,
            currency,
            balance: row.balance,
          }}
          close={() => setDoing(null)}
        />
      )}
    </Asking>
  );
}

/** What is known about health, shown when it is asked for: that it was read is written down. */
function Care({ id }: { id: string }) {
  const [asked, setAsked] = useState(false);
  if (!asked)
    return (
      <p>
        <Button onClick={() => setAsked(true)}>{phrase('event.showHealthAndNeeds')}</Button>{' '}
        <small className="soft">{phrase('event.itIsWrittenDown')}</small>
      </p>
    );
  return <HealthNotes registrationId={id} />;
}

/** Who sits there, by another spelling or as another person. */
function Rename({ row, done }: { row: RegistrationRow; done: () => void }) {
  const form = useForm({
    values: { given: row.given, family: row.family, birthDate: '' },
    request: ({ birthDate, ...v }) =>
      prepare(guestsContract, 'PATCH /api/registrations/:id', {
        params: { id: row.id },
        body: { ...v, birthDate: birthDate || null },
      }),
    after: () => {
      done();
      say(phrase('event.nameChanged'));
    },
  });
  return (
    <Form
      form={form}
      submit={phrase('event.changeTheName')}
      beside={<Button onClick={done}>{phrase('common.cancel')}</Button>}
    >
      <div className="pair">
        <Text form={form} name="given" label={phrase('common.firstName')} required />
        <Text form={form} name="family" label={phrase('common.lastName')} />
      </div>
      <DateField
        form={form}
        name="birthDate"
        label={phrase('common.birthDate')}
        help={phrase('event.anotherNameAnotherPerson')}
      />
    </Form>
  );
}

/** The guest fills the seat in by a link of their own. */
function WriteTo({ row, done }: { row: RegistrationRow; done: () => void }) {
  const form = useForm({
    values: { email: '' },
    request: (body) =>
      prepare(guestsContract, 'POST /api/registrations/:id/guest', { params: { id: row.id }, body }),
    after: () => {
      done();
      say(phrase('event.linkSent'));
    },
  });
  return (
    <Form
      form={form}
      submit={phrase('event.sendTheLink')}
      beside={<Button onClick={done}>{phrase('common.cancel')}</Button>}
    >
      <Text
        form={form}
        name="email"
        label={phrase('common.email')}
        help={phrase('event.guestLinkHelp')}
        type="email"
        required
      />
    </Form>
  );
}
