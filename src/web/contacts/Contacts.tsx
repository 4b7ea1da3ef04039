import { chakra } from '@chakra-ui/react';
import { useDeferredValue, useState } from 'react';
import type { ContactLine } from '#contract/contacts.ts';
import type { ContactFilter } from '#contract/views.ts';
import { contactKinds, contactOrders, type ListFilter } from '#core/contacts/listing.ts';
import { listedName } from '#core/contacts/names.ts';
import { sayPhone } from '#core/contacts/reach.ts';
import { because, sayReason } from '#core/words/reasons.ts';
import { call } from '#web/api.ts';
import { Button, ButtonLink } from '#web/kit/Button.tsx';
import { InlineChoice, InlineText } from '#web/kit/Inline.tsx';
import { phrase } from '#web/words/phrase.ts';
import { useArranged } from '../kit/arranging.ts';
import { Filters } from '../kit/Filters.tsx';
import { NothingFound } from '../kit/NothingFound.tsx';
import { Loaded } from '../kit/notices.tsx';
import { Paging } from '../kit/Paging.tsx';
import { type Column, Table } from '../kit/Table.tsx';
import { TableColumns } from '../kit/TableColumns.tsx';
import { useAddress } from '../kit/useAddress.ts';
import { useAsk, useMe } from '../parts/ask.ts';
import { useSaying } from '../parts/saying.ts';
import { useInterface } from '../shell/state.ts';
import { AddContact } from './AddContact.tsx';
import { Chosen } from './Chosen.tsx';
import { Views } from './Views.tsx';

const pageSize = 500;
const usuallyHidden = ['added'];
/** The list as it is before anything is said, as it stands in the address. */
const usual = { q: '', tag: '', kind: '', segment: '', sort: 'name', reverse: '', from: '' };

export default function Contacts() {
  const [address, setAddress] = useAddress(usual);
  const filter: ListFilter = {
    q: address.q,
    tag: address.tag,
    kind: contactKinds.find((k) => k === address.kind) ?? null,
    segment: address.segment || null,
    sort: contactOrders.find((o) => o === address.sort) ?? 'name',
    reverse: address.reverse === 'yes',
  };
  const offset = Math.max(0, Number(address.from) || 0);
  const [adding, setAdding] = useState(false);
  const q = useDeferredValue(filter.q.trim());
  const put = (part: Partial<ListFilter>) => {
    const next = { ...filter, ...part };
    setAddress(
      {
        ...next,
        kind: next.kind ?? '',
        segment: next.segment ?? '',
        reverse: next.reverse ? 'yes' : '',
        from: '',
      },
      { typed: 'q' in part },
    );
  };
  const show = useInterface((s) => s.showPerson);
  const country = useMe().data?.organization.country ?? 'CA';
  const me = useMe().data;
  const helpers = me?.staff.roles.some((r) => r === 'coordinator' || r === 'crew lead');
  const waiting =
    useAsk('GET /api/pairs', {
      query: { limit: 1 },
      enabled: me?.staff.roles.includes('coordinator') ?? false,
    }).data?.open ?? 0;
  const { dayAndYear } = useSaying();
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const tags = useAsk('GET /api/tags').data ?? [];
  const segments = useAsk('GET /api/segments').data ?? [];
  const arranged = useArranged('contacts', usuallyHidden);
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
  const columns: Column<ContactLine>[] = [
    {
      id: 'name',
      heading: phrase('common.name'),
      sortBy: (c) => listedName(c).toLowerCase(),
      cell: (c) => (
        <>
          <span className="name">{listedName(c)}</span>
          {c.kind === 'organization' && <span className="soft"> {phrase('contacts.organization')}</span>}
          {c.quiet && <span className="late"> {sayReason(because(c.quiet))}</span>}
          {c.moved && <span className="need"> {phrase('contacts.movedAway')}</span>}
        </>
      ),
    },
    {
      id: 'email',
      phone: 'bare',
      heading: phrase('common.email'),
      sortBy: (c) => c.email ?? '',
      cell: (c) => c.email,
    },
    {
      id: 'phone',
      phone: 'bare',
      heading: phrase('common.telephone'),
      cell: (c) => c.phone && <chakra.span whiteSpace="nowrap">{sayPhone(c.phone, country)}</chakra.span>,
    },
    {
      id: 'postal',
      phone: 'hidden',
      heading: phrase('contacts.postalCode'),
      sortBy: (c) => c.postalCode ?? '',
      cell: (c) => c.postalCode,
    },
    { id: 'tags', phone: 'bare', heading: phrase('contacts.tags'), cell: (c) => c.tags.join(', ') },
    {
      id: 'seen',
      heading: phrase('contacts.lastSeen'),
      number: true,
      sortBy: (c) => (c.lastSeen ? Date.parse(c.lastSeen) : 0),
      cell: (c) =>
        c.lastSeen ? dayAndYear(c.lastSeen) : <span className="soft">{phrase('contacts.never')}</span>,
    },
    {
      id: 'added',
      phone: 'hidden',
      heading: phrase('common.added'),
      number: true,
      sortBy: (c) => Date.parse(c.addedAt),
      cell: (c) => dayAndYear(c.addedAt),
    },
  ];
  // What can be let go of where nobody is found.
  const ways = [
    filter.q && { label: phrase('contacts.withoutWords', { q: filter.q }), run: () => put({ q: '' }) },
    filter.tag && { label: phrase('contacts.withAnyTag'), run: () => put({ tag: '' }) },
    filter.segment && { label: phrase('contacts.inAnySegment'), run: () => put({ segment: null }) },
    filter.kind && { label: phrase('contacts.ofBothKinds'), run: () => put({ kind: null }) },
  ].filter((way) => way !== '' && way !== null);
  return (
    <div className="page">
      <div className="spread">
        <h1>{phrase('common.contacts')}</h1>
        <div className="acts">
          {waiting > 0 && (
            <ButtonLink to="/contacts/review">{phrase('contacts.whoIsWhoTo', { waiting })}</ButtonLink>
          )}
          {helpers && <ButtonLink to="/volunteers">{phrase('applying.title')}</ButtonLink>}
          <ButtonLink to="/import">{phrase('common.importContacts')}</ButtonLink>
          <Button look="main" data-new title={phrase('common.addSomebodyN')} onClick={() => setAdding(true)}>
            {phrase('contacts.addSomebody')}
          </Button>
        </div>
      </div>
      <div className="tools">
        <InlineText
          label={phrase('contacts.filterContacts')}
          placeholder={phrase('common.partOfAName')}
          width="250px"
          value={filter.q}
          set={(q) => put({ q })}
        />
        <Filters inUse={[filter.kind, filter.tag, filter.segment].filter(Boolean).length}>
          <InlineChoice
            label={phrase('contacts.peopleOrOrganizations')}
            value={filter.kind ?? ''}
            set={(kind) => put({ kind: (kind || null) as ContactFilter['kind'] })}
            empty={phrase('contacts.peopleAndOrganizations')}
            choices={[
              { value: 'person', label: phrase('contacts.people') },
              { value: 'organization', label: phrase('contacts.organizations') },
            ]}
          />
          {tags.length > 0 && (
            <InlineChoice
              label={phrase('contacts.withTheTag')}
              value={filter.tag}
              set={(tag) => put({ tag })}
              empty={phrase('contacts.anyTag')}
              choices={tags.map((t) => ({ value: t.tag, label: `${t.tag} (${t.contacts})` }))}
            />
          )}
          {segments.length > 0 && (
            <InlineChoice
              label={phrase('contacts.inTheSegment')}
              maxWidth="190px"
              value={filter.segment ?? ''}
              set={(segment) => put({ segment: segment || null })}
              empty={phrase('contacts.anySegment')}
              choices={segments.map((g) => ({ value: g.id, label: `${g.name} (${g.count})` }))}
            />
          )}
          <TableColumns name="contacts" columns={columns} usuallyHidden={usuallyHidden} />
        </Filters>
        <span className="soft num">{list.data && phrase('contacts.nContacts', { n: list.data.total })}</span>
      </div>
      <Views
        filter={{ ...filter, hidden: [...arranged.hidden] }}
        open={({ hidden: columnsHidden, ...next }) => {
          put(next);
          arranged.put({ hidden: columnsHidden });
        }}
      />
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
          <>
            <Table
              label={phrase('common.contacts')}
              name="contacts"
              usuallyHidden={usuallyHidden}
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
                ways.length > 0 ? (
                  <NothingFound ways={ways}>
                    {q ? phrase('contacts.nobodyIsFoundFor', { q }) : phrase('contacts.nobodyIsFound')}
                  </NothingFound>
                ) : (
                  phrase('contacts.nobodyIsHereYet')
                )
              }
            />
            <Paging
              offset={offset}
              size={pageSize}
              shown={contacts.length}
              total={list.data?.total ?? 0}
              set={(to) => setAddress({ from: to ? String(to) : '' })}
            />
          </>
        )}
      </Loaded>
      {adding && <AddContact close={() => setAdding(false)} />}
    </div>
  );
}
