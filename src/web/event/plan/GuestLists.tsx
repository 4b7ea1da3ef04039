import { chakra } from '@chakra-ui/react';
import { Plus } from 'lucide-react';
import { useState } from 'react';
import type { EventPage } from '#contract/events.ts';
import { type GuestList, guestListsContract } from '#contract/guestLists.ts';
import { inBase64 } from '#web/base64.ts';
import { Button } from '#web/kit/Button.tsx';
import { Rejected, TableOfPeople } from '#web/parts/TableOfPeople.tsx';
import { phrase } from '#web/words/phrase.ts';
import { Asking } from '../../kit/Asking.tsx';
import { FormDialog } from '../../kit/form/FormDialog.tsx';
import { Text, Tick } from '../../kit/form/fields.tsx';
import { prepare } from '../../kit/form/request.ts';
import { useForm } from '../../kit/form/useForm.ts';
import { Loaded, Problems } from '../../kit/notices.tsx';
import { type Column, Table } from '../../kit/Table.tsx';
import { say } from '../../kit/toast.tsx';
import { useAction, useAsk } from '../../parts/ask.ts';
import { Person } from '../../parts/Person.tsx';

/** The guest lists of an event. */
export function GuestLists({ page }: { page: EventPage }) {
  const lists = useAsk('GET /api/events/:id/guest-lists', { params: { id: page.id } });
  const [editing, setEditing] = useState<GuestList | 'new' | null>(null);
  const [openId, setOpen] = useState<string | null>(null);
  const may = page.may.change.includes('registration');
  return (
    <chakra.section marginTop="18px" aria-label={phrase('offers.guestLists')}>
      <chakra.h4 fontSize="15px" fontWeight={600}>
        {phrase('offers.guestLists')}
      </chakra.h4>
      <Loaded of={lists}>
        {(all) => (
          <>
            <ul className="lines">
              {all.map((list) => (
                <li key={list.id} className="spread">
                  <span>
                    <Button look="link" onClick={() => setOpen(list.id)}>
                      {list.name}
                    </Button>{' '}
                    <span className="soft">
                      {[
                        phrase('offers.nPeople', { n: list.people.length }),
                        list.people.some((p) => p.registered) &&
                          phrase('offers.nRegistered', { n: list.people.filter((p) => p.registered).length }),
                        list.free && phrase('offers.listFree'),
                        list.overCapacity && phrase('offers.listOver'),
                      ]
                        .filter(Boolean)
                        .join(' · ')}
                    </span>
                  </span>
                  {may && (
                    <Button look="link" color="soft" onClick={() => setEditing(list)}>
                      {phrase('offers.changeList')}
                    </Button>
                  )}
                </li>
              ))}
            </ul>
            {may && (
              <Button look="plain" onClick={() => setEditing('new')}>
                <Plus size={14} aria-hidden /> {phrase('offers.addList')}
              </Button>
            )}
            {editing && (
              <Edit page={page} list={editing === 'new' ? null : editing} close={() => setEditing(null)} />
            )}
            {all
              .filter((l) => l.id === openId)
              .map((list) => (
                <People key={list.id} list={list} may={may} close={() => setOpen(null)} />
              ))}
          </>
        )}
      </Loaded>
    </chakra.section>
  );
}

/** What a list is called and gives. */
function Edit({ page, list, close }: { page: EventPage; list: GuestList | null; close: () => void }) {
  const [sure, setSure] = useState(false);
  const form = useForm<{ name: string; free: boolean; overCapacity: boolean }, unknown>({
    values: { name: list?.name ?? '', free: list?.free ?? false, overCapacity: list?.overCapacity ?? false },
    request: (body) =>
      list
        ? prepare(guestListsContract, 'PATCH /api/guest-lists/:id', { params: { id: list.id }, body })
        : prepare(guestListsContract, 'POST /api/events/:id/guest-lists', {
            params: { id: page.id },
            body,
          }),
    after: close,
  });
  const remove = useAction('DELETE /api/guest-lists/:id', () => {
    say(phrase('offers.listRemoved'));
    close();
  });
  return (
    <FormDialog
      form={form}
      close={close}
      title={list ? list.name : phrase('offers.addList')}
      submit={phrase('common.save')}
      beside={
        list && (
          <Button
            look="stop"
            disabled={remove.isPending}
            onClick={() => (sure ? remove.mutate({ params: { id: list.id } }) : setSure(true))}
          >
            {sure ? phrase('offers.removeListSure', { n: list.people.length }) : phrase('offers.removeList')}
          </Button>
        )
      }
    >
      <Problems of={remove.problem} />
      <Text form={form} name="name" label={phrase('common.name')} required />
      <Tick form={form} name="free" label={phrase('offers.listFreeTick')} />
      <Tick form={form} name="overCapacity" label={phrase('offers.listOverTick')} />
    </FormDialog>
  );
}

/** Who is on a list, and a way to put more on it. */
function People({ list, may, close }: { list: GuestList; may: boolean; close: () => void }) {
  const [adding, setAdding] = useState(false);
  const remove = useAction('DELETE /api/guest-lists/:id/people/:person');
  const columns: Column<GuestList['people'][number]>[] = [
    {
      id: 'who',
      heading: phrase('common.who'),
      phone: 'title',
      sortBy: (p) => p.name.toLowerCase(),
      cell: (p) => <Person id={p.contactId} name={p.name} />,
      total: (shown) => phrase('offers.nPeople', { n: shown.length }),
    },
    { id: 'email', heading: phrase('common.email'), phone: 'bare', cell: (p) => p.email ?? '' },
    {
      id: 'registered',
      heading: phrase('common.state'),
      phone: 'bare',
      sortBy: (p) => Number(p.registered),
      cell: (p) => (p.registered ? phrase('common.registered') : ''),
    },
    {
      id: 'remove',
      heading: '',
      phone: 'bare',
      cell: (p) =>
        may ? (
          <Button
            look="link"
            color="soft"
            aria-label={phrase('event.removeNamed', { name: p.name })}
            disabled={remove.isPending}
            onClick={() => remove.mutate({ params: { id: list.id, person: p.id } })}
          >
            {phrase('common.remove')}
          </Button>
        ) : null,
    },
  ];
  return (
    <Asking
      open
      wide
      title={list.name}
      close={close}
      actions={
        may && (
          <Button look="main" onClick={() => setAdding(true)}>
            {phrase('offers.addGuests')}
          </Button>
        )
      }
    >
      <Problems of={remove.problem} />
      <Table
        label={list.name}
        rows={list.people}
        columns={columns}
        keyOf={(p) => p.id}
        empty={phrase('offers.nobodyOnList')}
      />
      {adding && <AddGuests list={list} close={() => setAdding(false)} />}
    </Asking>
  );
}

/** Puts people on a list from a table: pasted, or a file. They are matched with who is on record. */
function AddGuests({ list, close }: { list: GuestList; close: () => void }) {
  const form = useForm({
    values: { table: '' },
    request: ({ table }) =>
      prepare(guestListsContract, 'POST /api/guest-lists/:id/people', {
        params: { id: list.id },
        body: { contactIds: [], content: table.trim() ? inBase64(table) : null },
      }),
    fieldOf: () => 'table',
    after: ({ added, already, rejected }) => {
      say(phrase('offers.guestsAdded', { added, already, rejected: rejected.length }));
      if (rejected.length === 0) close();
      else setRejected(rejected);
    },
  });
  const [rejected, setRejected] = useState<readonly { line: number; why: string }[]>([]);
  return (
    <FormDialog
      form={form}
      close={close}
      title={phrase('offers.addGuests')}
      submit={phrase('offers.putOnList')}
    >
      <TableOfPeople form={form} name="table" put={(table) => form.set({ table })} />
      <Rejected rows={rejected} />
    </FormDialog>
  );
}
