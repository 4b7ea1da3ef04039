import { chakra } from '@chakra-ui/react';
import { type KeyboardEvent, useRef, useState } from 'react';
import { type BankOpen, type BankProposed, type BankSettled, bankContract } from '#contract/bank.ts';
import { sayShortDate } from '#core/time/say.ts';
import { type Answer, ApiProblem } from '#web/api.ts';
import { base64Of } from '#web/base64.ts';
import { Button } from '#web/kit/Button.tsx';
import { FormDialog } from '#web/kit/form/FormDialog.tsx';
import { OneOf, Text } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { say } from '#web/kit/toast.tsx';
import { phrase } from '#web/words/phrase.ts';
import { Empty, Note } from '../kit/Note.tsx';
import { Loaded, Problems } from '../kit/notices.tsx';
import { type Column, Table } from '../kit/Table.tsx';
import { useAction, useAsk } from '../parts/ask.ts';
import { useSaying } from '../parts/saying.ts';

type Brought = Answer<'POST /api/bank/files'>;

/** Files of the bank: each line is found among what is ours, with why, and settled one after the other by keyboard. */
export function Bank() {
  const bank = useAsk('GET /api/bank');
  return (
    <>
      <Bring />
      <Loaded of={bank}>
        {({ open, settled, all, done }) => (
          <>
            {all > 0 && (
              <p className="soft">{phrase('ledger.bankDone', { done: String(done), all: String(all) })}</p>
            )}
            {all === 0 ? (
              <Empty>{phrase('ledger.bankNothing')}</Empty>
            ) : open.length ? (
              <Lines lines={open} />
            ) : (
              <Empty>{phrase('ledger.bankAllSettled')}</Empty>
            )}
            {settled.length > 0 && <Settled settled={settled} />}
          </>
        )}
      </Loaded>
    </>
  );
}

/** Brings a file in; where its days can be read either way, asks how they are written. */
function Bring() {
  const input = useRef<HTMLInputElement>(null);
  const [asked, setAsked] = useState<{ fileName: string; content: string } | null>(null);
  const [brought, setBrought] = useState<Brought | null>(null);
  const bring = useAction('POST /api/bank/files', (answer) => {
    setAsked(null);
    setBrought(answer);
    say(phrase('ledger.bankBrought', { n: answer.brought, known: String(answer.known) }));
  });
  const send = (file: { fileName: string; content: string }, dates: 'day first' | 'month first' | null) =>
    bring.mutate(
      { body: { ...file, dates } },
      {
        onError: (error) => {
          if (error instanceof ApiProblem && error.fields.dates) setAsked(file);
        },
      },
    );
  return (
    <>
      <div className="tools">
        <Button look="main" disabled={bring.isPending} onClick={() => input.current?.click()}>
          {phrase('ledger.bankBring')}
        </Button>
        <input
          ref={input}
          type="file"
          accept=".csv,.txt,.tsv,text/csv"
          hidden
          aria-label={phrase('ledger.bankBring')}
          onChange={async (e) => {
            const [file] = e.target.files ?? [];
            e.target.value = '';
            if (file) send({ fileName: file.name, content: await base64Of(file) }, null);
          }}
        />
      </div>
      {asked ? (
        <Note tone="need" marginTop="12px" role="alert">
          <p>{phrase('ledger.bankDates', { file: asked.fileName })}</p>
          <Button onClick={() => send(asked, 'day first')}>{phrase('ledger.bankDayFirst')}</Button>{' '}
          <Button onClick={() => send(asked, 'month first')}>{phrase('ledger.bankMonthFirst')}</Button>
        </Note>
      ) : (
        <Problems of={bring.problem} />
      )}
      {brought && brought.unread.length > 0 && (
        <Note tone="need" marginTop="12px">
          {phrase('ledger.bankUnread', {
            n: brought.unread.length,
            lines: brought.unread.map((u) => u.line).join(', '),
          })}
        </Note>
      )}
    </>
  );
}

const sayReason = (r: BankProposed['reasons'][number]): string => {
  switch (r.of) {
    case 'same amount':
      return phrase('ledger.reasonSameAmount');
    case 'days apart':
      return r.days === 0
        ? phrase('ledger.reasonSameDay')
        : phrase('ledger.reasonDays', { n: Math.abs(r.days) });
    case 'name in it':
      return phrase('ledger.reasonName');
    case 'number in it':
      return phrase('ledger.reasonNumber');
    case 'adds up':
      return phrase('ledger.reasonAddsUp', { n: String(r.count) });
  }
};

/** What a proposal would be. */
function sayProposal({ kind, of }: BankProposed): string {
  const [first] = of;
  if (!first) return '';
  if (of.length > 1)
    return phrase('ledger.bankTogether', { n: of.length, names: of.map((o) => o.name).join(', ') });
  const params = { name: first.name, number: first.number, day: sayShortDate(first.on) };
  if (kind === 'payout') return phrase('ledger.bankPayout', params);
  if (kind === 'transfer') return phrase('ledger.bankTransfer', params);
  if (kind === 'owed') return phrase('ledger.bankOwed', params);
  if (kind === 'cost') return phrase('ledger.bankCost', params);
  return phrase('ledger.bankHand', params);
}

function Lines({ lines }: { lines: BankOpen[] }) {
  const { figure } = useSaying();
  const [at, setAt] = useState(0);
  const [saying, setSaying] = useState<BankOpen | null>(null);
  const list = useRef<HTMLUListElement>(null);
  const settle = useAction('POST /api/bank/lines/:id/settle');
  const go = (to: number) => {
    const next = Math.max(0, Math.min(lines.length - 1, to));
    setAt(next);
    list.current?.querySelectorAll<HTMLElement>('[data-line]')[next]?.focus();
  };
  const take = (line: BankOpen, n: number) => {
    const p = line.proposals[n];
    if (p && !settle.isPending)
      settle.mutate(
        { params: { id: line.id }, body: { how: p.kind, ids: p.ids } },
        { onSuccess: () => go(at) },
      );
  };
  const press = (e: KeyboardEvent, line: BankOpen) => {
    // Only from the line itself: its buttons have keys of their own.
    if (e.target !== e.currentTarget) return;
    if (e.key === 'ArrowDown') go(at + 1);
    else if (e.key === 'ArrowUp') go(at - 1);
    else if (e.key === 'Enter') take(line, 0);
    else if (/^[1-5]$/u.test(e.key)) take(line, Number(e.key) - 1);
    else return;
    e.preventDefault();
  };
  return (
    <>
      <chakra.h2 marginTop="14px">{phrase('ledger.bankOpen')}</chakra.h2>
      <chakra.p className="soft" display={{ base: 'none', md: 'block' }}>
        {phrase('ledger.bankKeys')}
      </chakra.p>
      <Problems of={settle.problem} />
      <chakra.ul
        ref={list}
        listStyleType="none"
        margin="0"
        padding="0"
        aria-label={phrase('ledger.bankOpen')}
      >
        {lines.map((line, n) => (
          <chakra.li
            key={line.id}
            data-line=""
            tabIndex={n === Math.min(at, lines.length - 1) ? 0 : -1}
            onFocus={(e) => e.target === e.currentTarget && setAt(n)}
            onKeyDown={(e) => press(e, line)}
            padding="10px 8px"
            borderBottom="1px solid"
            borderColor="line"
          >
            <chakra.div display="flex" gap="12px" alignItems="baseline" flexWrap="wrap">
              <chakra.span width="80px">{sayShortDate(line.on)}</chakra.span>
              <chakra.b className="num" width="96px" textAlign="right" fontWeight="600">
                {figure(line.amount, line.currency)}
              </chakra.b>
              <chakra.span flex="1" minWidth="200px">
                {line.words}
              </chakra.span>
              <Button look="link" onClick={() => setSaying(line)}>
                {phrase('ledger.bankSay')}
              </Button>
            </chakra.div>
            {line.twice && (
              <chakra.p color="ochre" paddingLeft={{ base: 0, md: '188px' }}>
                {phrase('ledger.bankTwice')}
              </chakra.p>
            )}
            {line.proposals.map((p, which) => (
              <chakra.div
                key={`${p.kind} ${p.ids.join(' ')}`}
                display="flex"
                gap="12px"
                alignItems="baseline"
                flexWrap="wrap"
                paddingLeft={{ base: 0, md: '179px' }}
                marginTop="4px"
              >
                <span className="soft num">{which + 1}</span>
                <chakra.span flex="1" minWidth="220px">
                  {sayProposal(p)}
                  <span className="soft">{`: ${p.reasons.map(sayReason).join(', ')}`}</span>
                </chakra.span>
                <Button
                  look={which === 0 ? 'normal' : 'link'}
                  aria-label={`${phrase('ledger.bankTake')}: ${sayProposal(p)}`}
                  onClick={() => take(line, which)}
                >
                  {phrase('ledger.bankTake')}
                </Button>
              </chakra.div>
            ))}
            {line.proposals.length === 0 && (
              <chakra.p className="soft" paddingLeft={{ base: 0, md: '188px' }} marginTop="4px">
                {phrase('ledger.bankNoProposal')}
              </chakra.p>
            )}
          </chakra.li>
        ))}
      </chakra.ul>
      {saying && <SayLine line={saying} close={() => setSaying(null)} />}
    </>
  );
}

/** Says what a line is that nothing of ours is. */
function SayLine({ line, close }: { line: BankOpen; close: () => void }) {
  const { money } = useSaying();
  const form = useForm({
    values: {
      how: (line.amount < 0 ? 'fee' : 'unexplained') as 'fee' | 'unexplained' | 'elsewhere',
      said: '',
    },
    request: (body) =>
      prepare(bankContract, 'POST /api/bank/lines/:id/settle', { params: { id: line.id }, body }),
    after: () => {
      say(phrase('common.recorded'));
      close();
    },
  });
  return (
    <FormDialog
      form={form}
      close={close}
      title={phrase('ledger.bankSayTitle', {
        amount: money(line.amount, line.currency),
        day: sayShortDate(line.on),
      })}
      submit={phrase('common.save')}
    >
      <p className="soft">{line.words}</p>
      <OneOf
        form={form}
        name="how"
        label={phrase('ledger.whatHappened')}
        choices={[
          ...(line.amount < 0 ? [{ value: 'fee', label: phrase('ledger.bankFee') }] : []),
          { value: 'unexplained', label: phrase('ledger.bankUnexplained') },
          { value: 'elsewhere', label: phrase('ledger.bankElsewhere') },
        ]}
      />
      <Text form={form} name="said" label={phrase('ledger.bankSaid')} required autoFocus />
    </FormDialog>
  );
}

const hows: Record<BankSettled['how'], string> = {
  payout: phrase('ledger.payout'),
  transfer: phrase('ledger.byTransfer'),
  hand: phrase('ledger.accountCash'),
  owed: phrase('ledger.owed'),
  cost: phrase('ledger.spentFor'),
  fee: phrase('ledger.bankFee'),
  unexplained: phrase('ledger.bankUnexplained'),
  elsewhere: phrase('ledger.bankElsewhere'),
};

function Settled({ settled }: { settled: BankSettled[] }) {
  const { figure } = useSaying();
  const undo = useAction('POST /api/bank/lines/:id/undo');
  const columns: Column<BankSettled>[] = [
    {
      id: 'date',
      phone: 'bare',
      heading: phrase('common.date'),
      width: '110px',
      cell: (l) => sayShortDate(l.on),
    },
    { id: 'words', phone: 'title', heading: phrase('ledger.reference'), cell: (l) => l.words },
    {
      id: 'how',
      phone: 'bare',
      heading: phrase('ledger.bankHow'),
      cell: (l) => [hows[l.how], l.said].filter(Boolean).join(': '),
    },
    {
      id: 'amount',
      heading: phrase('ledger.amount'),
      number: true,
      cell: (l) => figure(l.amount, l.currency),
    },
    {
      id: 'undo',
      phone: 'bare',
      heading: '',
      width: '100px',
      cell: (l) => (
        <Button
          look="link"
          aria-label={phrase('ledger.bankUndoOf', { words: l.words })}
          onClick={() => undo.mutate({ params: { id: l.id } })}
        >
          {phrase('ledger.bankUndo')}
        </Button>
      ),
    },
  ];
  return (
    <>
      <chakra.h2 marginTop="24px">{phrase('ledger.bankSettled')}</chakra.h2>
      <Problems of={undo.problem} />
      <Table
        label={phrase('ledger.bankSettled')}
        rows={settled}
        columns={columns}
        keyOf={(l) => l.id}
        empty={phrase('ledger.bankNothing')}
      />
    </>
  );
}
