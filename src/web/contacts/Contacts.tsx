import { chakra } from '@chakra-ui/react';
import { useDeferredValue, useState } from 'react';
import type { ContactLine } from '#contract/contacts.ts';
import type { ContactFilter } from '#contract/views.ts';
import { everybody, type ListFilter } from '#core/contacts/listing.ts';
import { listedName } from '#core/contacts/names.ts';
import { sayPhone } from '#core/contacts/reach.ts';
import { because, sayReason } from '#core/words/reasons.ts';
import { call } from '#web/api.ts';
import { Button, ButtonLink } from '#web/kit/Button.tsx';
import { Filters } from '../kit/Filters.tsx';
import { Loaded } from '../kit/notices.tsx';
import { type Column, Table } from '../kit/Table.tsx';
import { useAsk, useMe } from '../parts/ask.ts';
import { sayCount, useSaying } from '../parts/saying.ts';
import { useColumns, useInterface } from '../shell/state.ts';
import { AddContact } from './AddContact.tsx';
import { Chosen } from './Chosen.tsx';
import { Views } from './Views.tsx';

const pageSize = 500;

export default function Contacts() {
  const [filter, setFilter] = useState<ListFilter>(everybody);
  const [offset, setOffset] = useState(0);
  const [adding, setAdding] = useState(false);
  const q = useDeferredValue(filter.q.trim());
  const put = (part: Partial<ContactFilter>) => {
    setFilter({ ...filter, ...part });
    setOffset(0);
  };
  const show = useInterface((s) => s.showPerson);
  const country = useMe().data?.organization.country ?? 'CA';
  const me = useMe().data;
  const waiting =
    useAsk('GET /api/pairs', {
      query: { limit: 1 },
      enabled: me?.staff.roles.includes('coordinator') ?? false,
    }).data?.open ?? 0;
  const { dayAndYear } = useSaying();
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const tags = useAsk('GET /api/tags').data ?? [];
  const segments = useAsk('GET /api/segments').data ?? [];
  const { hidden, setHidden } = useColumns();
  const filterQuery = {
    q,
    tag: filter.tag || undefined,
    kind: filter.kind ?? undefined,
    segment: filter.segment ?? undefined,
  };
  const list = useAsk('GET /api/contacts', {
    query: {
      ...filterQuery,
      sort: filter.sort,
      reverse: String(filter.reverse),
      limit: pageSize,
      offset,
    },
  });
  const everyColumn: Column<ContactLine>[] = [
    {
      id: 'name',
      heading: 'Name',
      sortBy: (c) => listedName(c).toLowerCase(),
      cell: (c) => (
        <>
          <span className="name">{listedName(c)}</span>
          {c.kind === 'organization' && <span className="soft"> organization</span>}
          {c.quiet && <span className="late"> {sayReason(because(c.quiet))}</span>}
          {c.moved && <span className="need"> moved away</span>}
        </>
      ),
    },
    { id: 'email', phone: 'bare', heading: 'Email', sortBy: (c) => c.email ?? '', cell: (c) => c.email },
    {
      id: 'phone',
      phone: 'bare',
      heading: 'Telephone',
      cell: (c) => (c.phone ? sayPhone(c.phone, country) : ''),
    },
    {
      id: 'postal',
      phone: 'hidden',
      heading: 'Postal code',
      sortBy: (c) => c.postalCode ?? '',
      cell: (c) => c.postalCode,
    },
    { id: 'tags', phone: 'bare', heading: 'Tags', cell: (c) => c.tags.join(', ') },
    {
      id: 'seen',
      heading: 'Last seen',
      number: true,
      sortBy: (c) => (c.lastSeen ? Date.parse(c.lastSeen) : 0),
      cell: (c) => (c.lastSeen ? dayAndYear(c.lastSeen) : <span className="soft">never</span>),
    },
    {
      id: 'added',
      phone: 'hidden',
      heading: 'Added',
      number: true,
      sortBy: (c) => Date.parse(c.addedAt),
      cell: (c) => dayAndYear(c.addedAt),
    },
  ];
  const columns = everyColumn.filter((c) => !hidden.includes(c.id));
  return (
    <div className="page">
      <div className="spread">
        <h1>Contacts</h1>
        <div className="acts">
          {waiting > 0 && (
            <ButtonLink to="/contacts/review">Who is who: {sayCount(waiting)} to decide</ButtonLink>
          )}
          <ButtonLink to="/import">Bring people in</ButtonLink>
          <Button look="main" data-new title="Add somebody (n)" onClick={() => setAdding(true)}>
            Add somebody
          </Button>
        </div>
      </div>
      <div className="tools">
        <chakra.input
          aria-label="Filter contacts"
          placeholder="Part of a name, email or telephone"
          width="250px"
          value={filter.q}
          onChange={(e) => put({ q: e.target.value })}
        />
        <Filters inUse={[filter.kind, filter.tag, filter.segment].filter(Boolean).length}>
          <chakra.select
            aria-label="People or organizations"
            width="auto"
            value={filter.kind ?? ''}
            onChange={(e) => put({ kind: (e.target.value || null) as ContactFilter['kind'] })}
          >
            <option value="">people and organizations</option>
            <option value="person">people</option>
            <option value="organization">organizations</option>
          </chakra.select>
          {tags.length > 0 && (
            <chakra.select
              aria-label="With the tag"
              width="auto"
              value={filter.tag}
              onChange={(e) => put({ tag: e.target.value })}
            >
              <option value="">any tag</option>
              {tags.map((t) => (
                <option key={t.tag} value={t.tag}>
                  {t.tag} ({t.contacts})
                </option>
              ))}
            </chakra.select>
          )}
          {segments.length > 0 && (
            <chakra.select
              aria-label="In the segment"
              width="auto"
              maxWidth="190px"
              value={filter.segment ?? ''}
              onChange={(e) => put({ segment: e.target.value || null })}
            >
              <option value="">any segment</option>
              {segments.map((g) => (
                <option key={g.id} value={g.id}>
                  {g.name} ({g.count})
                </option>
              ))}
            </chakra.select>
          )}
          <Columns columns={everyColumn.slice(1)} hidden={hidden} setHidden={setHidden} />
        </Filters>
        <span className="soft num">
          {list.data && `${sayCount(list.data.total)} ${list.data.total === 1 ? 'contact' : 'contacts'}`}
        </span>
      </div>
      <Views
        filter={{ ...filter, hidden }}
        open={({ hidden: columnsHidden, ...next }) => {
          setFilter(next);
          setHidden(columnsHidden);
          setOffset(0);
        }}
      >
        {list.data && list.data.total > pageSize && (
          <chakra.span className="acts" marginLeft="auto">
            <Button look="plain" disabled={offset === 0} onClick={() => setOffset(offset - pageSize)}>
              Previous
            </Button>
            <span className="num soft">
              {offset + 1}–{Math.min(offset + pageSize, list.data.total)}
            </span>
            <Button
              look="plain"
              disabled={offset + pageSize >= list.data.total}
              onClick={() => setOffset(offset + pageSize)}
            >
              Next
            </Button>
          </chakra.span>
        )}
      </Views>
      {chosen.size > 0 && (
        <Chosen
          ids={[...chosen]}
          clear={() => setChosen(new Set())}
          all={list.data && list.data.total > chosen.size ? list.data.total : null}
          chooseAll={async () => {
            const found = await call('GET /api/contacts/ids', { query: filterQuery });
            setChosen(new Set(found.ids));
          }}
        />
      )}
      <Loaded of={list}>
        {({ contacts }) => (
          <Table
            label="Contacts"
            rows={contacts}
            columns={columns}
            keyOf={(c) => c.id}
            open={(c) => show(c.id)}
            choosing={{ chosen, choose: setChosen }}
            sorting={{
              by: filter.sort,
              // Those seen last, or added last, come first as usual.
              down: (filter.sort === 'seen' || filter.sort === 'added') !== filter.reverse,
              set: (by) =>
                put({
                  sort: by as ContactFilter['sort'],
                  reverse: by === filter.sort ? !filter.reverse : false,
                }),
            }}
            empty={
              q ? `Nobody is found for “${q}”.` : 'Nobody is here yet. Bring a list in, or add somebody.'
            }
          />
        )}
      </Loaded>
      {adding && <AddContact close={() => setAdding(false)} />}
    </div>
  );
}

/** Which columns the table shows. */
function Columns({
  columns,
  hidden,
  setHidden,
}: {
  columns: readonly Column<ContactLine>[];
  hidden: readonly string[];
  setHidden: (hidden: string[]) => void;
}) {
  return (
    <details className="choose-columns">
      <summary>Columns</summary>
      <div>
        {columns.map((c) => (
          <label key={c.id}>
            <input
              type="checkbox"
              checked={!hidden.includes(c.id)}
              onChange={(e) =>
                setHidden(e.target.checked ? hidden.filter((h) => h !== c.id) : [...hidden, c.id])
              }
            />
            {c.heading}
          </label>
        ))}
      </div>
    </details>
  );
}
