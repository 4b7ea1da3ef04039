import { Link } from 'react-router';
import { phrase } from '#web/words/phrase.ts';
import type { Column } from '../kit/Table.tsx';
import { Person } from '../parts/Person.tsx';
import { useSaying } from '../parts/saying.ts';

/** What rows of money have in common. */
interface MoneyRow {
  at: string;
  contactId: string | null;
  name: string;
  event: string | null;
  eventId: string | null;
}

/** When it was, whose it is, and of which event. */
export function useMoneyColumns<T extends MoneyRow>(): Record<'date' | 'who' | 'event', Column<T>> {
  const { dayAndYear } = useSaying();
  return {
    date: {
      id: 'date',
      phone: 'bare',
      heading: phrase('common.date'),
      width: '110px',
      sortBy: (r) => r.at,
      cell: (r) => dayAndYear(r.at),
    },
    who: {
      id: 'who',
      phone: 'title',
      heading: phrase('common.who'),
      sortBy: (r) => r.name.toLowerCase(),
      cell: (r) => <Person id={r.contactId} name={r.name} />,
    },
    event: {
      id: 'event',
      phone: 'bare',
      heading: phrase('common.event'),
      sortBy: (r) => r.event ?? '',
      cell: (r) => r.event && <Link to={`/events/${r.eventId}/registration`}>{r.event}</Link>,
    },
  };
}
