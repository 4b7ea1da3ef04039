import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import {
  type ReceiptBatch,
  type ReceiptPerson,
  type ReceiptRow,
  receiptsContract,
} from '#contract/receipts.ts';
import type { Why } from '#core/receipts/year.ts';
import { addressOf } from '#web/api.ts';
import { Button, ButtonAnchor } from '#web/kit/Button.tsx';
import { FormDialog } from '#web/kit/form/FormDialog.tsx';
import { Text } from '#web/kit/form/fields.tsx';
import { type Prepared, prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { say } from '#web/kit/toast.tsx';
import { phrase } from '#web/words/phrase.ts';
import { Asking } from '../kit/Asking.tsx';
import { Tick } from '../kit/Choosing.tsx';
import { ListViews } from '../kit/ListViews.tsx';
import { Note } from '../kit/Note.tsx';
import { Loaded, Problems } from '../kit/notices.tsx';
import { Progress } from '../kit/Progress.tsx';
import { type Column, Table } from '../kit/Table.tsx';
import { useAddress } from '../kit/useAddress.ts';
import { useAction, useAsk } from '../parts/ask.ts';
import { Person } from '../parts/Person.tsx';
import { useSaying } from '../parts/saying.ts';
import { ReceiptSettings } from './ReceiptSettings.tsx';

const whys: Record<Why, string> = {
  'nothing stayed': phrase('ledger.whyNothingStayed'),
  'value unknown': phrase('ledger.whyValueUnknown'),
  'mostly advantage': phrase('ledger.whyMostlyAdvantage'),
  'nothing given': phrase('ledger.whyNothingGiven'),
  'a chance': phrase('ledger.whyChance'),
  sponsorship: phrase('ledger.whySponsorship'),
  'another currency': phrase('ledger.whyCurrency'),
  'no rules for the country': phrase('ledger.whyNoRules'),
  'before the rules': phrase('ledger.whyBefore'),
  'no address': phrase('ledger.whyNoAddress'),
  erased: phrase('ledger.whyErased'),
  'still to come': phrase('ledger.whyToCome'),
  'receipted already': phrase('ledger.whyAlready'),
};

const usual = { year: '' };

/** The receipts of a year: those that stand, those that are void, and the rest of the year in one run. */
export function Receipts() {
  const [address, put] = useAddress(usual);
  const { today } = useSaying();
  const year = /^\d{4}$/u.test(address.year) ? address.year : today.slice(0, 4);
  const [open, setOpen] = useState<'settings' | 'run' | null>(null);
  const [undoing, setUndoing] = useState<{ receipt: ReceiptRow; how: 'void' | 'replace' } | null>(null);
  return (
    <Loaded
      of={useAsk('GET /api/receipts', {
        query: { year },
        everyMs: (answer) => (answer?.batches.some((b) => b.state === 'running') ? 700 : undefined),
      })}
    >
      {({ rows, more, years, known, missing, batches, totals }) => {
        const running = batches.find((b) => b.state !== 'done');
        return (
          <>
            <div className="tools">
              <ListViews
                label={phrase('ledger.receiptYear')}
                value={year}
                set={(to) => put({ year: to })}
                views={years.slice(0, 6).map((y) => ({ value: String(y), label: String(y) }))}
              />
              {known && !missing.length && !running && (
                <Button look="main" onClick={() => setOpen('run')}>
                  {phrase('ledger.receiptsRun', { year })}
                </Button>
              )}
              <Button onClick={() => setOpen('settings')}>{phrase('ledger.receiptSettings')}</Button>
              <Sums totals={totals} />
            </div>
            {!known && (
              <Note tone="need" marginTop="12px">
                {phrase('ledger.receiptsNoRules')}
              </Note>
            )}
            {known && missing.length > 0 && (
              <Note tone="need" marginTop="12px">
                {phrase('ledger.receiptsMissing')}{' '}
                <Button look="link" onClick={() => setOpen('settings')}>
                  {phrase('ledger.receiptSettingsFill')}
                </Button>
              </Note>
            )}
            {running && <Running batch={running} />}
            {!running && batches[0] && batches[0].written > 0 && (
              <p>
                <ButtonAnchor
                  look="link"
                  href={addressOf('GET /api/receipts/batches/:id/receipts.pdf', { id: batches[0].id })}
                >
                  {phrase('ledger.receiptsAsOne', { n: batches[0].written })}
                </ButtonAnchor>
              </p>
            )}
            <Rows rows={rows} undo={(receipt, how) => setUndoing({ receipt, how })} />
            {more && <p className="soft">{phrase('ledger.theNewestAreShown', { rows: rows.length })}</p>}
            {open === 'settings' && <ReceiptSettings close={() => setOpen(null)} />}
            {open === 'run' && <Run year={year} close={() => setOpen(null)} />}
            {undoing && <Undo {...undoing} close={() => setUndoing(null)} />}
          </>
        );
      }}
    </Loaded>
  );
}

function Sums({ totals }: { totals: readonly { currency: string; count: number; eligible: number }[] }) {
  const { money } = useSaying();
  return (
    <chakra.span className="soft num" marginLeft="auto">
      {totals
        .map((t) => phrase('ledger.receiptsInAll', { n: t.count, eligible: money(t.eligible, t.currency) }))
        .join(', ')}
    </chakra.span>
  );
}

/** A batch under way: how far it is, with a way to stop it and to go on. */
function Running({ batch }: { batch: ReceiptBatch }) {
  const stop = useAction('POST /api/receipts/batches/:id/stop');
  const go = useAction('POST /api/receipts/batches/:id/go');
  const params = { id: batch.id };
  const done = batch.written + batch.left;
  return (
    <>
      <Progress
        words={phrase(batch.state === 'running' ? 'ledger.receiptsWriting' : 'ledger.receiptsStopped', {
          year: String(batch.year),
        })}
        done={done}
        all={batch.all}
        {...(batch.state === 'running' ? { cancel: () => stop.mutate({ params }) } : {})}
      />
      {batch.state === 'stopped' && (
        <Button look="main" onClick={() => go.mutate({ params })}>
          {phrase('ledger.receiptsGoOn', { n: batch.all - done })}
        </Button>
      )}
      <Problems of={stop.problem ?? go.problem} />
    </>
  );
}

function Rows({
  rows,
  undo,
}: {
  rows: ReceiptRow[];
  undo: (receipt: ReceiptRow, how: 'void' | 'replace') => void;
}) {
  const { figure, dayAndYear } = useSaying();
  const columns: Column<ReceiptRow>[] = [
    {
      id: 'number',
      phone: 'title',
      heading: phrase('ledger.receiptNumber'),
      width: '120px',
      sortBy: (r) => r.number,
      cell: (r) => (
        <a
          href={addressOf('GET /api/receipts/:id/receipt.pdf', { id: r.id })}
          target="_blank"
          rel="noreferrer"
          aria-label={phrase('ledger.receiptAsPdf', { number: r.number })}
        >
          {r.number}
        </a>
      ),
    },
    {
      id: 'date',
      phone: 'bare',
      heading: phrase('common.date'),
      width: '110px',
      sortBy: (r) => r.issuedAt,
      cell: (r) => dayAndYear(r.issuedAt),
    },
    {
      id: 'who',
      phone: 'bare',
      heading: phrase('common.who'),
      sortBy: (r) => r.name.toLowerCase(),
      cell: (r) => <Person id={r.contactId} name={r.name} />,
    },
    {
      id: 'state',
      phone: 'bare',
      heading: phrase('common.state'),
      cell: (r) =>
        r.state === 'void' ? (
          <span className="soft">
            {r.replacedBy
              ? phrase('ledger.receiptReplacedBy', { number: r.replacedBy })
              : phrase('ledger.receiptVoid', { why: r.why })}
          </span>
        ) : r.stale ? (
          <chakra.span color="madder">{phrase('ledger.receiptStale')}</chakra.span>
        ) : (
          r.replaces && (
            <span className="soft">{phrase('ledger.receiptReplaces', { number: r.replaces })}</span>
          )
        ),
    },
    {
      id: 'amount',
      heading: phrase('ledger.amount'),
      number: true,
      cell: (r) => figure(r.amount, r.currency),
    },
    {
      id: 'advantage',
      heading: phrase('ledger.advantage'),
      number: true,
      cell: (r) => (r.advantage ? figure(r.advantage, r.currency) : ''),
    },
    {
      id: 'eligible',
      heading: phrase('ledger.eligible'),
      number: true,
      sortBy: (r) => r.eligible,
      cell: (r) => (
        <chakra.span textDecoration={r.state === 'void' ? 'line-through' : undefined}>
          {figure(r.eligible, r.currency)}
        </chakra.span>
      ),
    },
    {
      id: 'do',
      phone: 'bare',
      heading: '',
      width: '130px',
      cell: (r) =>
        r.state === 'issued' && (
          <>
            <Button
              look="link"
              aria-label={phrase('ledger.receiptReplaceOf', { number: r.number })}
              onClick={() => undo(r, 'replace')}
            >
              {phrase('ledger.receiptReplace')}
            </Button>
            <Button
              look="link"
              marginLeft="12px"
              aria-label={phrase('ledger.receiptVoidOf', { number: r.number })}
              onClick={() => undo(r, 'void')}
            >
              {phrase('ledger.receiptVoidIt')}
            </Button>
          </>
        ),
    },
  ];
  return (
    <Table
      label={phrase('ledger.receipts')}
      name="receipts"
      rows={rows}
      columns={columns}
      keyOf={(r) => r.id}
      empty={phrase('ledger.noReceipts')}
    />
  );
}

/** Voids a receipt, or writes another in its place; says before what that does. */
function Undo({ receipt, how, close }: { receipt: ReceiptRow; how: 'void' | 'replace'; close: () => void }) {
  const form = useForm({
    values: { why: '' },
    request: (body): Prepared<unknown> =>
      how === 'void'
        ? prepare(receiptsContract, 'POST /api/receipts/:id/void', { params: { id: receipt.id }, body })
        : prepare(receiptsContract, 'POST /api/receipts/:id/replace', { params: { id: receipt.id }, body }),
    after: () => {
      say(phrase('common.saved'));
      close();
    },
  });
  const of = { number: receipt.number };
  return (
    <FormDialog
      form={form}
      close={close}
      look="stop"
      title={phrase(how === 'void' ? 'ledger.receiptVoidOf' : 'ledger.receiptReplaceOf', of)}
      submit={phrase(how === 'void' ? 'ledger.receiptVoidIt' : 'ledger.receiptReplace')}
    >
      <p>{phrase(how === 'void' ? 'ledger.receiptVoidText' : 'ledger.receiptReplaceText', of)}</p>
      <Text form={form} name="why" label={phrase('ledger.why')} required autoFocus />
    </FormDialog>
  );
}

/** What a run would write, and for whom not and why; then it is begun. */
function Run({ year, close }: { year: string; close: () => void }) {
  const { figure, money, sums } = useSaying();
  const [mail, setMail] = useState(true);
  const begin = useAction('POST /api/receipts/batches', close);
  const columns = (why: boolean): Column<ReceiptPerson>[] => [
    { id: 'who', phone: 'title', heading: phrase('common.who'), cell: (p) => p.name },
    ...(why
      ? []
      : ([
          {
            id: 'eligible',
            heading: phrase('ledger.eligible'),
            number: true,
            cell: (p: ReceiptPerson) => figure(p.eligible, p.currency),
          },
        ] as Column<ReceiptPerson>[])),
    {
      id: 'left',
      phone: 'bare',
      heading: phrase('ledger.notReceipted'),
      cell: (p) => (
        <span className="soft">
          {p.left.map((l) => `${l.what}, ${money(l.amount, p.currency)}: ${whys[l.why]}`).join('; ')}
        </span>
      ),
    },
  ];
  return (
    <Asking
      open
      wide
      close={close}
      title={phrase('ledger.receiptsRun', { year })}
      actions={
        <Button
          look="main"
          disabled={begin.isPending}
          onClick={() => begin.mutate({ body: { year: Number(year), mail } })}
        >
          {phrase('ledger.receiptsBegin')}
        </Button>
      }
    >
      <Loaded of={useAsk('GET /api/receipts/due', { query: { year } })}>
        {({ get, none, totals }) => (
          <>
            <p>
              {phrase('ledger.receiptsDue', {
                n: get.length,
                eligible: sums(totals.map((t) => ({ amount: t.eligible, currency: t.currency }))),
                none: none.length,
              })}
            </p>
            <Tick checked={mail} set={setMail}>
              {phrase('ledger.receiptsMail')}
            </Tick>
            <Problems of={begin.problem} />
            {none.length > 0 && (
              <>
                <h3>{phrase('ledger.receiptsNone', { n: none.length })}</h3>
                <Table
                  label={phrase('ledger.receiptsNone', { n: none.length })}
                  rows={none.slice(0, 200)}
                  columns={columns(true)}
                  keyOf={(p) => p.contactId}
                  empty=""
                />
              </>
            )}
            <h3>{phrase('ledger.receiptsGet', { n: get.length })}</h3>
            <Table
              label={phrase('ledger.receiptsGet', { n: get.length })}
              rows={get.slice(0, 200)}
              columns={columns(false)}
              keyOf={(p) => p.contactId}
              empty={phrase('ledger.receiptsNobody')}
            />
          </>
        )}
      </Loaded>
    </Asking>
  );
}
