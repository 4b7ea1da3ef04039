import type { Answer } from '#web/api.ts';
import { Loaded } from '../kit/notices.tsx';
import { type Column, Table } from '../kit/Table.tsx';
import { useAsk } from '../parts/ask.ts';
import { useSaying } from '../parts/saying.ts';

type Mailing = Answer<'GET /api/mailings'>[number];

/** Messages written to many at once, with what became of their copies. */
export function Mailings() {
  const mailings = useAsk('GET /api/mailings', { everyMs: 10_000 });
  const { at } = useSaying();
  const count = (id: string, heading: string, of: (m: Mailing) => number): Column<Mailing> => ({
    id,
    heading,
    number: true,
    sortBy: of,
    cell: of,
  });
  const columns: Column<Mailing>[] = [
    { id: 'at', heading: 'Written', width: '150px', sortBy: (m) => m.at, cell: (m) => at(m.at) },
    {
      id: 'name',
      heading: 'Name',
      sortBy: (m) => m.name,
      cell: (m) => <span className="name">{m.name}</span>,
    },
    { id: 'subject', heading: 'Subject', sortBy: (m) => m.subject, cell: (m) => m.subject },
    { id: 'topic', heading: 'About', sortBy: (m) => m.topic, cell: (m) => m.topic },
    { id: 'by', heading: 'By', sortBy: (m) => m.by ?? '', cell: (m) => m.by },
    count('planned', 'To go', (m) => m.planned),
    count('sent', 'Sent', (m) => m.sent),
    count('failed', 'Failed', (m) => m.failed),
    count('held', 'Left out', (m) => m.heldBack),
  ];
  return (
    <Loaded of={mailings}>
      {(rows) => (
        <Table
          label="Written to many"
          rows={rows}
          columns={columns}
          keyOf={(m) => m.id}
          empty="Nothing was written to many yet. Choose people in the contacts, or open a segment, and write to them."
        />
      )}
    </Loaded>
  );
}
