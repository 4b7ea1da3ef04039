import { useDeferredValue, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import type { ContactLine } from '#contract/contacts.ts';
import { listedName } from '#core/contacts/names.ts';
import { sayPhone } from '#core/contacts/reach.ts';
import { Asking } from '../parts/Asking.tsx';
import { useAsk, useDo, useMe } from '../parts/ask.ts';
import { Asked, Problems } from '../parts/notices.tsx';
import { nobody, PersonFields } from '../parts/PersonFields.tsx';
import { useSaying } from '../parts/saying.ts';
import { type Column, Table } from '../parts/Table.tsx';
import { say } from '../parts/toast.tsx';
import { useInterface } from '../shell/state.ts';

const pageSize = 500;

export default function Contacts() {
  const [typed, setTyped] = useState('');
  const [offset, setOffset] = useState(0);
  const [adding, setAdding] = useState(false);
  const q = useDeferredValue(typed.trim());
  const show = useInterface((s) => s.showPerson);
  const country = useMe().data?.organization.country ?? 'CA';
  const me = useMe().data;
  const waiting =
    useAsk('GET /api/pairs', {
      query: { limit: 1 },
      enabled: me?.staff.roles.includes('coordinator') ?? false,
    }).data?.open ?? 0;
  const { dayAndYear } = useSaying();
  const list = useAsk('GET /api/contacts', { query: { q, limit: pageSize, offset } });
  const columns: Column<ContactLine>[] = [
    {
      id: 'name',
      heading: 'Name',
      sortBy: (c) => listedName(c).toLowerCase(),
      cell: (c) => <span className="name">{listedName(c)}</span>,
    },
    { id: 'email', heading: 'Email', sortBy: (c) => c.email ?? '', cell: (c) => c.email },
    { id: 'phone', heading: 'Telephone', cell: (c) => (c.phone ? sayPhone(c.phone, country) : '') },
    { id: 'postal', heading: 'Postal code', sortBy: (c) => c.postalCode ?? '', cell: (c) => c.postalCode },
    {
      id: 'seen',
      heading: 'Last seen',
      number: true,
      sortBy: (c) => (c.lastSeen ? Date.parse(c.lastSeen) : 0),
      cell: (c) => (c.lastSeen ? dayAndYear(c.lastSeen) : <span className="soft">never</span>),
    },
  ];
  return (
    <div className="page">
      <div className="spread">
        <h1>Contacts</h1>
        <div className="acts">
          {waiting > 0 && (
            <Link className="btn" to="/contacts/review">
              Who is who: {waiting} to decide
            </Link>
          )}
          <Link className="btn" to="/import">
            Bring people in
          </Link>
          <button type="button" className="btn primary" data-new onClick={() => setAdding(true)}>
            Add somebody
          </button>
        </div>
      </div>
      <div className="tools">
        <input
          aria-label="Filter contacts"
          placeholder="Part of a name, email or telephone"
          style={{ width: 300 }}
          value={typed}
          onChange={(e) => {
            setTyped(e.target.value);
            setOffset(0);
          }}
        />
        <span className="soft num">
          {list.data &&
            `${list.data.total.toLocaleString('en')} ${list.data.total === 1 ? 'person' : 'people'}`}
        </span>
        {list.data && list.data.total > pageSize && (
          <span className="acts" style={{ marginLeft: 'auto' }}>
            <button
              type="button"
              className="btn plain"
              disabled={offset === 0}
              onClick={() => setOffset(offset - pageSize)}
            >
              Back
            </button>
            <span className="num soft">
              {offset + 1}–{Math.min(offset + pageSize, list.data.total)}
            </span>
            <button
              type="button"
              className="btn plain"
              disabled={offset + pageSize >= list.data.total}
              onClick={() => setOffset(offset + pageSize)}
            >
              On
            </button>
          </span>
        )}
      </div>
      <Asked of={list}>
        {({ contacts }) => (
          <Table
            label="Contacts"
            rows={contacts}
            columns={columns}
            keyOf={(c) => c.id}
            open={(c) => show(c.id)}
            empty={
              q ? `Nobody is found for “${q}”.` : 'Nobody is here yet. Bring a list in, or add somebody.'
            }
          />
        )}
      </Asked>
      {adding && <Add close={() => setAdding(false)} />}
    </div>
  );
}

function Add({ close }: { close: () => void }) {
  const navigate = useNavigate();
  const [form, setForm] = useState(nobody);
  const add = useDo('POST /api/contacts', ({ id, existed }) => {
    say(existed ? 'This person is known already' : 'Added');
    navigate(`/contacts/${id}`);
  });
  const wrong = add.problem?.fields ?? {};
  return (
    <Asking
      open
      close={close}
      title="Add somebody"
      actions={
        <button
          type="button"
          className="btn primary"
          disabled={add.isPending}
          onClick={() => add.mutate({ body: form })}
        >
          Add
        </button>
      }
    >
      <Problems of={add.problem} />
      <PersonFields value={form} set={(part) => setForm({ ...form, ...part })} wrong={wrong} />
    </Asking>
  );
}
