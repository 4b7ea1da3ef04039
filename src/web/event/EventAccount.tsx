import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { useFieldArray } from 'react-hook-form';
import { type EventAccountShown, eventAccountContract } from '#contract/eventAccount.ts';
import { plainAmount, readAmount } from '#core/money/amount.ts';
import { sayShortDate } from '#core/time/say.ts';
import { Button } from '#web/kit/Button.tsx';
import { FormDialog } from '#web/kit/form/FormDialog.tsx';
import { Choose, DateField, Money, Text, Tick } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { say } from '#web/kit/toast.tsx';
import { phrase } from '#web/words/phrase.ts';
import { Empty } from '../kit/Note.tsx';
import { Loaded, Problems } from '../kit/notices.tsx';
import { type Column, Table } from '../kit/Table.tsx';
import { useAction, useAsk, useMe } from '../parts/ask.ts';
import { useSaying } from '../parts/saying.ts';
import { SeatWorth } from './SeatWorth.tsx';

type Line = EventAccountShown['lines'][number];

const own: Record<string, string> = {
  seats: phrase('event.accountSeats'),
  extras: phrase('event.accountExtras'),
  gifts: phrase('event.accountGifts'),
  fees: phrase('event.accountFees'),
  'written off': phrase('event.accountLetOff'),
  '': phrase('event.accountNotForeseen'),
};
const nameOf = (l: Pick<Line, 'name' | 'account'>): string =>
  (l.account ? own[l.name] : undefined) ?? own[l.name] ?? l.name;

/** What an event was planned to bring and to cost, beside what it did. */
export function EventAccount({ eventId }: { eventId: string }) {
  return (
    <>
      <chakra.h2 marginTop="24px">{phrase('event.account')}</chakra.h2>
      <Loaded of={useAsk('GET /api/events/:id/account', { params: { id: eventId } })}>
        {(account) => <Shown account={account} eventId={eventId} />}
      </Loaded>
    </>
  );
}

function Shown({ account, eventId }: { account: EventAccountShown; eventId: string }) {
  const { figure, money } = useSaying();
  const said = (amount: number) => money(amount, account.currency);
  const figured = (amount: number) => figure(amount, account.currency);
  const [open, setOpen] = useState<'plan' | 'cost' | 'worth' | null>(null);
  const roles = useMe().data?.staff.roles ?? [];
  const receipts = roles.some((r) => r === 'treasurer' || r === 'coordinator');
  const columns = (kind: 'income' | 'cost'): Column<Line>[] => [
    {
      id: 'name',
      phone: 'title',
      heading: phrase(kind === 'income' ? 'event.accountIncome' : 'event.accountCosts'),
      cell: nameOf,
      total: () => phrase('ledger.inAll'),
    },
    {
      id: 'planned',
      heading: phrase('event.accountPlanned'),
      number: true,
      width: '140px',
      cell: (l) => (l.planned ? figured(l.planned) : ''),
      total: () => figured(kind === 'income' ? account.income.planned : account.costs.planned),
    },
    {
      id: 'actual',
      heading: phrase('event.accountActual'),
      number: true,
      width: '140px',
      cell: (l) => figured(l.actual),
      total: () => figured(kind === 'income' ? account.income.actual : account.costs.actual),
    },
  ];
  return (
    <>
      {account.may && (
        <div className="tools">
          <Button onClick={() => setOpen('plan')}>{phrase('event.accountPlan')}</Button>
          <Button onClick={() => setOpen('cost')}>{phrase('event.costRecord')}</Button>
          {receipts && <Button onClick={() => setOpen('worth')}>{phrase('event.seatWorth')}</Button>}
        </div>
      )}
      {account.lines.length === 0 ? (
        <Empty>{phrase('event.accountEmpty')}</Empty>
      ) : (
        <>
          {(['income', 'cost'] as const).map((kind) => (
            <Table
              key={kind}
              label={phrase(kind === 'income' ? 'event.accountIncome' : 'event.accountCosts')}
              rows={account.lines.filter((l) => l.kind === kind)}
              columns={columns(kind)}
              keyOf={(l) => `${l.account ?? ''} ${l.name}`}
              empty={phrase('event.nothingToCountYet')}
            />
          ))}
          <chakra.p marginTop="10px">
            <b>{phrase('event.accountResult')}:</b>{' '}
            <span className="num">
              {said(account.result.actual)}
              <span className="soft">{` (${phrase('event.accountPlannedIs', { amount: said(account.result.planned) })})`}</span>
            </span>
          </chakra.p>
          <p className="soft">
            {[
              account.perHead &&
                phrase('event.accountPerHead', {
                  heads: String(account.heads.actual),
                  income: said(account.perHead.income),
                  cost: said(account.perHead.cost),
                }),
              account.plan.length > 0 &&
                (account.breakEven === null
                  ? phrase('event.accountBreakEvenNever')
                  : account.breakEven === 0
                    ? phrase('event.accountBreakEvenNow')
                    : phrase('event.accountBreakEven', { n: account.breakEven })),
            ]
              .filter(Boolean)
              .join(' ')}
          </p>
          <Spent account={account} eventId={eventId} />
        </>
      )}
      {open === 'worth' && <SeatWorth eventId={eventId} close={() => setOpen(null)} />}
      {open === 'plan' && <Plan account={account} eventId={eventId} close={() => setOpen(null)} />}
      {open === 'cost' && <RecordCost account={account} eventId={eventId} close={() => setOpen(null)} />}
    </>
  );
}

/** What was recorded as spent, each with a way back. */
function Spent({ account, eventId }: { account: EventAccountShown; eventId: string }) {
  const { figure } = useSaying();
  const undo = useAction('POST /api/events/:id/costs/:cost/undo');
  type Row = EventAccountShown['spent'][number];
  const columns: Column<Row>[] = [
    {
      id: 'on',
      phone: 'bare',
      heading: phrase('event.costOn'),
      width: '110px',
      cell: (s) => sayShortDate(s.on),
    },
    { id: 'what', phone: 'title', heading: phrase('event.costs'), cell: (s) => s.what },
    { id: 'line', phone: 'bare', heading: phrase('event.costLine'), cell: (s) => s.line },
    {
      id: 'amount',
      heading: phrase('event.costAmount'),
      number: true,
      cell: (s) => figure(s.amount, account.currency),
    },
    {
      id: 'undo',
      phone: 'bare',
      heading: '',
      width: '100px',
      cell: (s) =>
        account.may && (
          <Button
            look="link"
            aria-label={phrase('event.costTakeBackOf', { what: s.what })}
            onClick={() => undo.mutate({ params: { id: eventId, cost: s.id } })}
          >
            {phrase('event.costTakeBack')}
          </Button>
        ),
    },
  ];
  if (!account.spent.length) return null;
  return (
    <>
      <Problems of={undo.problem} />
      <Table
        label={phrase('event.costs')}
        rows={account.spent}
        columns={columns}
        keyOf={(s) => s.id}
        empty={phrase('event.nothingToCountYet')}
      />
    </>
  );
}

interface Editing {
  account: EventAccountShown;
  eventId: string;
  close: () => void;
}

function RecordCost({ account, eventId, close }: Editing) {
  const { money, today } = useSaying();
  const said = (amount: number) => money(amount, account.currency);
  const lines = account.plan.filter((l) => l.kind === 'cost');
  const form = useForm({
    values: { what: '', line: '', amount: '', on: today, paidFrom: 'bank' as 'bank' | 'cash' },
    request: ({ amount, ...v }) =>
      prepare(eventAccountContract, 'POST /api/events/:id/costs', {
        params: { id: eventId },
        body: { ...v, amount: readAmount(amount, account.currency) ?? 0 },
      }),
    after: () => {
      say(phrase('common.recorded'));
      close();
    },
  });
  return (
    <FormDialog
      form={form}
      close={close}
      title={phrase('event.costRecord')}
      submit={phrase('event.costRecord')}
    >
      <Text form={form} name="what" label={phrase('event.costWhat')} required autoFocus />
      <Money
        form={form}
        name="amount"
        label={phrase('event.costAmount')}
        currency={account.currency}
        sayAmount={said}
        required
      />
      {lines.length > 0 && (
        <Choose
          form={form}
          name="line"
          label={phrase('event.costLine')}
          choices={[
            { value: '', label: phrase('event.costNoLine') },
            ...lines.map((l) => ({ value: l.name, label: l.name })),
          ]}
        />
      )}
      <DateField form={form} name="on" label={phrase('event.costOn')} required />
      <Choose
        form={form}
        name="paidFrom"
        label={phrase('event.costPaidFrom')}
        choices={[
          { value: 'bank', label: phrase('event.costFromBank') },
          { value: 'cash', label: phrase('event.costFromCash') },
        ]}
      />
    </FormDialog>
  );
}

function Plan({ account, eventId, close }: Editing) {
  const { money } = useSaying();
  const said = (amount: number) => money(amount, account.currency);
  // What was changed while this stands open must not count as seen.
  const [seen] = useState(account.plan);
  const fresh = (kind: 'income' | 'cost', name = '', perHead = false) => ({
    kind,
    name,
    amount: '',
    perHead,
  });
  const form = useForm({
    values: {
      lines: account.plan.length
        ? account.plan.map((l) => ({ ...l, amount: plainAmount(l.amount, account.currency) }))
        : [fresh('income', 'seats', true), fresh('cost')],
    },
    request: ({ lines }) =>
      prepare(eventAccountContract, 'PUT /api/events/:id/budget', {
        params: { id: eventId },
        body: {
          lines: lines
            .filter((l) => l.name.trim() || l.amount.trim())
            .map((l) => ({ ...l, amount: readAmount(l.amount, account.currency) ?? -1 })),
          seen,
        },
      }),
    after: () => {
      say(phrase('common.saved'));
      close();
    },
  });
  const { fields, append, remove } = useFieldArray({ control: form.hook.control, name: 'lines' });
  return (
    <FormDialog
      form={form}
      wide
      close={close}
      title={phrase('event.planLines')}
      submit={phrase('common.save')}
      beside={<Button onClick={() => append(fresh('cost'))}>{phrase('event.planAdd')}</Button>}
    >
      <p className="soft">{phrase('event.planHelp')}</p>
      {fields.map((field, at) => (
        <chakra.div
          key={field.id}
          display="grid"
          gridTemplateColumns={{ base: '1fr 1fr', md: '110px 1fr 140px auto 36px' }}
          gap="0 10px"
          alignItems="start"
        >
          <Choose
            form={form}
            name={`lines.${at}.kind`}
            label={phrase('event.planKind')}
            choices={[
              { value: 'income', label: phrase('event.planIncome') },
              { value: 'cost', label: phrase('event.planCost') },
            ]}
          />
          <Text form={form} name={`lines.${at}.name`} label={phrase('event.planName')} />
          <Money
            form={form}
            name={`lines.${at}.amount`}
            label={phrase('event.planAmount')}
            currency={account.currency}
            sayAmount={said}
          />
          <chakra.div paddingTop={{ base: 0, md: '30px' }}>
            <Tick form={form} name={`lines.${at}.perHead`} label={phrase('event.planPerHead')} />
          </chakra.div>
          <Button
            look="plain"
            marginTop={{ base: 0, md: '26px' }}
            aria-label={phrase('event.planRemove', { n: String(at + 1) })}
            onClick={() => remove(at)}
          >
            ×
          </Button>
        </chakra.div>
      ))}
    </FormDialog>
  );
}
