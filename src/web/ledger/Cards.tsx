import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { Link } from 'react-router';
import { type CardsOpen, cardsContract, type Payout } from '#contract/cards.ts';
import type { MoveKind } from '#core/money/processor.ts';
import type { Answer } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { FormDialog } from '#web/kit/form/FormDialog.tsx';
import { Text } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { say } from '#web/kit/toast.tsx';
import { phrase } from '#web/words/phrase.ts';
import { Empty, Note } from '../kit/Note.tsx';
import { Loaded, Problems } from '../kit/notices.tsx';
import { SlideOver } from '../kit/SlideOver.tsx';
import { type Column, Table } from '../kit/Table.tsx';
import { useAction, useAsk } from '../parts/ask.ts';
import { useSaying } from '../parts/saying.ts';

type Standing = Answer<'GET /api/cards'>['standing'][number];
type PayoutMove = Answer<'GET /api/cards/payouts/:id'>[number];

const whys = {
  'not ours': phrase('ledger.openAsideNotOurs'),
  'another amount': phrase('ledger.openAsideAmount'),
  'another currency': phrase('ledger.openAsideCurrency'),
} as const;
const kinds: Record<MoveKind, string> = {
  charge: phrase('ledger.moveCharge'),
  refund: phrase('ledger.moveRefund'),
  'refund failed': phrase('ledger.moveRefundFailed'),
  disputed: phrase('ledger.moveDisputed'),
  'dispute won': phrase('ledger.moveDisputeWon'),
  'dispute lost': phrase('ledger.moveDisputeLost'),
  payout: phrase('ledger.movePayout'),
  'payout failed': phrase('ledger.movePayoutFailed'),
};

const sayOpen = (o: CardsOpen): string =>
  ({
    aside: () => phrase('ledger.openAside', { why: o.why ? whys[o.why] : '' }),
    'refund failed': () => phrase('ledger.openRefundFailed'),
    disputed: () => phrase('ledger.openDisputed'),
    unanswered: () => phrase('ledger.openUnanswered'),
    'refund unanswered': () => phrase('ledger.openRefundUnanswered'),
    'not there': () => phrase('ledger.openNotThere'),
  })[o.what]();

/** The account with the card processor: how it stands there and here, what is not settled, and what was paid out. */
export function Cards() {
  const { at } = useSaying();
  const read = useAction('POST /api/cards/statement', ({ taken }) =>
    say(taken ? phrase('ledger.readMoves', { n: taken }) : phrase('ledger.nothingNew')),
  );
  const [settling, setSettling] = useState<CardsOpen | null>(null);
  const [shown, setShown] = useState<Payout | null>(null);
  return (
    <Loaded of={useAsk('GET /api/cards')}>
      {({ readAt, standing, payouts, open }) => (
        <>
          <div className="tools">
            <span className="soft">
              {readAt ? phrase('ledger.readLast', { at: at(readAt) }) : phrase('ledger.neverRead')}
            </span>
            <chakra.span marginLeft="auto">
              <Button onClick={() => read.mutate({})} disabled={read.isPending}>
                {phrase('ledger.readNow')}
              </Button>
            </chakra.span>
          </div>
          <Problems of={read.problem} />
          {standing.map((s) => (
            <StandingOf key={s.currency} of={s} aside={open.some((o) => o.what === 'aside')} />
          ))}
          <h2>{phrase('ledger.cardsOpen')}</h2>
          {open.length ? (
            <OpenTable open={open} settle={setSettling} />
          ) : (
            <Empty>{phrase('ledger.cardsAllSettled')}</Empty>
          )}
          <chakra.h2 marginTop="24px">{phrase('ledger.payouts')}</chakra.h2>
          <Payouts payouts={payouts} show={setShown} />
          {settling && <Settle of={settling} close={() => setSettling(null)} />}
          {shown && <OfPayout payout={shown} close={() => setShown(null)} />}
        </>
      )}
    </Loaded>
  );
}

function StandingOf({ of, aside }: { of: Standing; aside: boolean }) {
  const { money } = useSaying();
  const said = (amount: number) => money(amount, of.currency);
  const between = of.there - of.here;
  return (
    <Note tone={between ? 'need' : 'know'} marginTop="12px">
      <chakra.dl display="flex" flexWrap="wrap" gap="4px 28px" margin="0">
        {(
          [
            ['there', phrase('ledger.thereNow'), of.there],
            ['here', phrase('ledger.hereNow'), of.here],
            ['between', phrase('ledger.between'), between],
          ] as const
        ).map(([key, label, amount]) => (
          <chakra.div key={key}>
            <chakra.dt className="soft">{label}</chakra.dt>
            <chakra.dd className="num" margin="0" fontWeight={key === 'between' ? 600 : 400}>
              {said(amount)}
            </chakra.dd>
          </chakra.div>
        ))}
      </chakra.dl>
      <chakra.p className="soft" marginTop="6px">
        {`${phrase(!between ? 'ledger.agrees' : aside ? 'ledger.agreesNot' : 'ledger.toldSoon')} `}
        {phrase('ledger.feesSoFar', { fees: said(of.fees) })}
      </chakra.p>
    </Note>
  );
}

function OpenTable({ open, settle }: { open: CardsOpen[]; settle: (of: CardsOpen) => void }) {
  const { figure, dayAndYear } = useSaying();
  const columns: Column<CardsOpen>[] = [
    {
      id: 'date',
      phone: 'bare',
      heading: phrase('common.date'),
      width: '110px',
      cell: (o) => dayAndYear(o.at),
    },
    { id: 'what', phone: 'title', heading: phrase('ledger.whatHappened'), cell: sayOpen },
    {
      id: 'who',
      phone: 'bare',
      heading: phrase('common.who'),
      cell: (o) => (
        <>
          {o.name || (o.kind && [kinds[o.kind], o.about].filter(Boolean).join(', '))}
          {o.eventId && (
            <>
              {', '}
              <Link to={`/events/${o.eventId}/registration`}>{o.event}</Link>
            </>
          )}
        </>
      ),
    },
    {
      id: 'order',
      phone: 'bare',
      heading: phrase('ledger.order'),
      width: '80px',
      cell: (o) => o.orderNumber && String(o.orderNumber),
    },
    {
      id: 'amount',
      heading: phrase('ledger.amount'),
      number: true,
      cell: (o) => figure(o.amount, o.currency),
    },
    {
      id: 'do',
      phone: 'bare',
      heading: '',
      width: '130px',
      cell: (o) =>
        o.what === 'aside' && (
          <Button look="link" onClick={() => settle(o)}>
            {phrase('ledger.settleMove')}
          </Button>
        ),
    },
  ];
  return (
    <Table
      label={phrase('ledger.cardsOpen')}
      rows={open}
      columns={columns}
      keyOf={(o) => `${o.what} ${o.id}`}
      empty={phrase('ledger.cardsAllSettled')}
    />
  );
}

function Payouts({ payouts, show }: { payouts: Payout[]; show: (of: Payout) => void }) {
  const { figure, dayAndYear } = useSaying();
  const columns: Column<Payout>[] = [
    {
      id: 'date',
      phone: 'title',
      heading: phrase('common.date'),
      cell: (p) => (
        <Button look="link" onClick={() => show(p)}>
          {dayAndYear(p.at)}
        </Button>
      ),
    },
    {
      id: 'number',
      phone: 'bare',
      heading: phrase('ledger.payout'),
      cell: (p) => <span className="soft">{p.id}</span>,
    },
    {
      id: 'with',
      phone: 'bare',
      heading: phrase('ledger.withIt'),
      cell: (p) => (
        <>
          {phrase('ledger.nMoves', { n: p.moves })}
          {p.failed && (
            <chakra.span color="madder" marginLeft="8px">
              {phrase('ledger.payoutFailed')}
            </chakra.span>
          )}
        </>
      ),
    },
    { id: 'fees', heading: phrase('ledger.fees'), number: true, cell: (p) => figure(p.fees, p.currency) },
    {
      id: 'amount',
      heading: phrase('ledger.amount'),
      number: true,
      cell: (p) => figure(p.amount, p.currency),
    },
  ];
  return (
    <Table
      label={phrase('ledger.payouts')}
      rows={payouts}
      columns={columns}
      keyOf={(p) => p.id}
      empty={phrase('ledger.noPayouts')}
    />
  );
}

function OfPayout({ payout, close }: { payout: Payout; close: () => void }) {
  const { figure, dayAndYear } = useSaying();
  const columns: Column<PayoutMove>[] = [
    {
      id: 'date',
      phone: 'bare',
      heading: phrase('common.date'),
      width: '110px',
      cell: (m) => dayAndYear(m.at),
    },
    {
      id: 'what',
      phone: 'title',
      heading: phrase('ledger.whatMoved'),
      cell: (m) => [kinds[m.kind], m.name, m.orderNumber].filter(Boolean).join(', '),
    },
    { id: 'fee', heading: phrase('ledger.fees'), number: true, cell: (m) => figure(m.fee, m.currency) },
    {
      id: 'amount',
      heading: phrase('ledger.amount'),
      number: true,
      cell: (m) => figure(m.amount, m.currency),
    },
  ];
  return (
    <SlideOver open close={close} label={phrase('ledger.payoutOf', { day: dayAndYear(payout.at) })}>
      <h2>{phrase('ledger.payoutOf', { day: dayAndYear(payout.at) })}</h2>
      <Loaded of={useAsk('GET /api/cards/payouts/:id', { params: { id: payout.id } })}>
        {(moves) => (
          <Table
            label={phrase('ledger.whatMoved')}
            rows={moves}
            columns={columns}
            keyOf={(m) => m.id}
            empty={phrase('ledger.nothingNew')}
          />
        )}
      </Loaded>
    </SlideOver>
  );
}

function Settle({ of, close }: { of: CardsOpen; close: () => void }) {
  const form = useForm({
    values: { words: '' },
    request: (body) =>
      prepare(cardsContract, 'POST /api/cards/moves/:id/settle', { params: { id: of.id }, body }),
    after: () => {
      say(phrase('common.recorded'));
      close();
    },
  });
  return (
    <FormDialog
      form={form}
      close={close}
      title={phrase('ledger.settleMove')}
      submit={phrase('ledger.settleMoveDo')}
    >
      <chakra.p className="soft" marginTop="8px">
        {phrase('ledger.settleMoveText')}
      </chakra.p>
      <Text form={form} name="words" label={phrase('ledger.settleMoveWords')} required autoFocus />
    </FormDialog>
  );
}
