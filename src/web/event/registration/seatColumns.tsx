import { chakra } from '@chakra-ui/react';
import type { AskedColumn, RegistrationRow } from '#contract/seats.ts';
import { fullName, listedName } from '#core/contacts/names.ts';
import { sayPhone } from '#core/contacts/reach.ts';
import { sayAnswer } from '#core/questions/answering.ts';
import { firstOfOrders } from '#core/seats/narrowing.ts';
import type { Column } from '#web/kit/Table.tsx';
import { MoneyBar, Ring, Signature } from '#web/parts/marks.tsx';
import { Person } from '#web/parts/Person.tsx';
import type { useSaying } from '#web/parts/saying.ts';
import { phrase, term } from '#web/words/phrase.ts';

/** An answer on one line; a long one is read whole by pointing at it. */
function Said({ words }: { words: string }) {
  return (
    <chakra.span
      display="inline-block"
      verticalAlign="bottom"
      maxWidth={{ md: '210px' }}
      overflow={{ md: 'hidden' }}
      textOverflow="ellipsis"
      whiteSpace={{ md: 'nowrap' }}
      title={words}
    >
      {words}
    </chakra.span>
  );
}

/** Columns that are there and not seen until somebody wants them. */
export const usuallyHidden = ['email', 'phone', 'buyer', 'arrived', 'order'];

/**
 * The columns of the table of seats, every answer one of its own. What belongs to a whole order stands on the first of its seats that
 * are shown, and is summed there.
 */
export function seatColumns(
  shown: readonly RegistrationRow[],
  questions: readonly AskedColumn[],
  { money, day, at }: Pick<ReturnType<typeof useSaying>, 'money' | 'day' | 'at'>,
  country: string,
): Column<RegistrationRow>[] {
  const firsts = firstOfOrders(shown);
  const once = (rows: readonly RegistrationRow[]) => {
    const first = firstOfOrders(rows);
    return rows.filter((r) => first.has(r.id));
  };
  const some = (has: (r: RegistrationRow) => unknown) => shown.some(has);
  const said = (r: RegistrationRow, q: AskedColumn) => {
    const answer = r.answers[q.id];
    return answer ? sayAnswer(answer.value, answer.file?.name) : '';
  };
  return [
    {
      id: 'who',
      heading: phrase('common.who'),
      sortBy: (r) => listedName(r).toLowerCase(),
      cell: (r) => (
        <>
          <chakra.span whiteSpace="nowrap">
            <Person id={r.contactId} name={listedName(r)} />
          </chakra.span>
          {r.buyer !== fullName(r) && (
            <small className="soft"> {phrase('event.by', { buyer: r.buyer })}</small>
          )}
        </>
      ),
      total: (rows) =>
        `${phrase('event.nSeats', { n: rows.length })}, ${phrase('seats.orders', { n: once(rows).length })}`,
    },
    {
      id: 'order',
      phone: 'hidden',
      heading: phrase('seats.order'),
      number: true,
      sortBy: (r) => r.orderNumber,
      cell: (r) => r.orderNumber,
    },
    {
      id: 'email',
      phone: 'bare',
      heading: phrase('common.email'),
      sortBy: (r) => r.email ?? '',
      cell: (r) => r.email,
    },
    {
      id: 'phone',
      phone: 'bare',
      heading: phrase('common.telephone'),
      cell: (r) => r.phone && <span className="num">{sayPhone(r.phone, country)}</span>,
    },
    {
      id: 'buyer',
      phone: 'hidden',
      heading: phrase('seats.buyer'),
      sortBy: (r) => r.buyer.toLowerCase(),
      cell: (r) => r.buyer,
    },
    {
      id: 'offer',
      phone: 'bare',
      heading: phrase('common.offer'),
      sortBy: (r) => r.offer,
      cell: (r) => <chakra.span whiteSpace="nowrap">{r.offer}</chakra.span>,
    },
    {
      id: 'state',
      phone: 'bare',
      heading: phrase('common.state'),
      sortBy: (r) => r.state,
      cell: (r) =>
        r.attendance && r.attendance !== 'expected' ? (
          <Ring state={r.attendance} />
        ) : (
          <span className={r.state === 'confirmed' ? '' : 'need'}>
            {term(r.state)}
            {r.queuePlace ? ` ${r.queuePlace}` : ''}
          </span>
        ),
    },
    {
      id: 'waiver',
      phone: 'bare',
      heading: phrase('event.waiver'),
      sortBy: (r) => r.waiver,
      cell: (r) => <Signature standing={r.waiver} />,
      total: (rows) => phrase('event.nSigned', { n: rows.filter((r) => r.waiver === 'signed').length }),
    },
    {
      id: 'paid',
      phone: 'bare',
      heading: phrase('event.paid'),
      sortBy: (r) => r.received,
      cell: (r) =>
        firsts.has(r.id) ? (
          <MoneyBar
            received={r.received}
            due={r.due}
            words={phrase('event.receivedOf', { received: money(r.received), due: money(r.due) })}
          />
        ) : (
          <chakra.small className="soft" whiteSpace="nowrap">
            {phrase('seats.withOrder', { order: String(r.orderNumber) })}
          </chakra.small>
        ),
      total: (rows) => {
        const sum = (pick: (r: RegistrationRow) => number) => once(rows).reduce((n, r) => n + pick(r), 0);
        return phrase('seats.inAll', {
          received: money(sum((r) => r.received)),
          due: money(sum((r) => r.due)),
        });
      },
    },
    ...(some((r) => r.extras.length)
      ? [
          {
            id: 'extras',
            phone: 'bare' as const,
            heading: phrase('seats.extras'),
            cell: (r: RegistrationRow) => (firsts.has(r.id) ? r.extras.join('; ') : ''),
          },
        ]
      : []),
    ...(some((r) => r.sessions.length)
      ? [
          {
            id: 'sessions',
            phone: 'hidden' as const,
            heading: phrase('seats.sessions'),
            cell: (r: RegistrationRow) => r.sessions.join('; '),
          },
        ]
      : []),
    ...questions.map(
      (q): Column<RegistrationRow> => ({
        id: q.id,
        phone: 'hidden',
        heading: q.prompt,
        number: q.kind === 'number',
        sortBy: (r) => (q.kind === 'number' ? Number(said(r, q)) || 0 : said(r, q).toLowerCase()),
        cell: (r) => (q.scope === 'attendee' || firsts.has(r.id) ? <Said words={said(r, q)} /> : ''),
      }),
    ),
    ...(some((r) => r.source)
      ? [
          {
            id: 'source',
            phone: 'hidden' as const,
            heading: phrase('seats.source'),
            sortBy: (r: RegistrationRow) => r.source ?? '',
            cell: (r: RegistrationRow) => r.source,
          },
        ]
      : []),
    {
      id: 'arrived',
      phone: 'hidden',
      heading: phrase('seats.arrived'),
      number: true,
      sortBy: (r) => (r.arrivedAt ? Date.parse(r.arrivedAt) : 0),
      cell: (r) => at(r.arrivedAt),
    },
    {
      id: 'since',
      phone: 'hidden',
      heading: phrase('event.since'),
      number: true,
      sortBy: (r) => Date.parse(r.since),
      cell: (r) => <span className="soft">{day(r.since)}</span>,
    },
  ];
}
