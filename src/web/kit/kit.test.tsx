// @vitest-environment happy-dom
import { ChakraProvider } from '@chakra-ui/react';
import { cleanup, fireEvent, render, screen, waitFor, within } from '@testing-library/react';
import { type ReactNode, useState } from 'react';
import { Link, MemoryRouter, Route, Routes } from 'react-router';
import { afterEach, describe, expect, test, vi } from 'vitest';
import { ApiProblem } from '#web/api.ts';
import { Asking } from './Asking.tsx';
import { Boundary } from './Boundary.tsx';
import { Button, ButtonLink } from './Button.tsx';
import { ChoiceField, TextField } from './Field.tsx';
import { Menu } from './Menu.tsx';
import { Loaded, Problems } from './notices.tsx';
import { placed } from './placed.ts';
import { type Column, Table } from './Table.tsx';
import { system } from './workSystem.ts';

afterEach(cleanup);
const shown = (children: ReactNode) =>
  render(
    <MemoryRouter>
      <ChakraProvider value={system}>{children}</ChakraProvider>
    </MemoryRouter>,
  );

function Form({ error }: { error?: string }) {
  const [name, setName] = useState('');
  const [kind, setKind] = useState('');
  return (
    <>
      <TextField label="Name" help="As on the door list." value={name} set={setName} error={error} />
      <ChoiceField
        label="Kind"
        empty="any"
        value={kind}
        set={setKind}
        choices={[{ value: 'a', label: 'A kind' }]}
      />
      <output>{`${name}/${kind}`}</output>
    </>
  );
}

function WithDialog() {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button onClick={() => setOpen(true)}>Ask</Button>
      <Asking open={open} close={() => setOpen(false)} title="Call off?" actions={<Button>Yes</Button>}>
        <p>It cannot be undone.</p>
      </Asking>
    </>
  );
}

interface Row {
  id: string;
  name: string;
  seats: number;
}
const columns: Column<Row>[] = [
  {
    id: 'name',
    heading: 'Name',
    sortBy: (r) => r.name,
    cell: (r) => r.name,
    total: (r) => `${r.length} parties`,
  },
  {
    id: 'seats',
    heading: 'Seats',
    number: true,
    sortBy: (r) => r.seats,
    cell: (r) => r.seats,
    total: (r) => r.reduce((n, x) => n + x.seats, 0),
  },
];
const rows: Row[] = [
  { id: 'b', name: 'Bo', seats: 2 },
  { id: 'a', name: 'Aud', seats: 10 },
  { id: 'c', name: 'Cai', seats: 1 },
];
const opened: string[] = [];
function WithTable({ of = rows }: { of?: Row[] }) {
  const [chosen, choose] = useState<ReadonlySet<string>>(new Set());
  return (
    <>
      <Table
        rows={of}
        columns={columns}
        keyOf={(r) => r.id}
        label="Parties"
        empty="Nobody yet."
        open={(r) => opened.push(r.id)}
        choosing={{ chosen, choose }}
      />
      <output>{[...chosen].sort().join()}</output>
    </>
  );
}

describe('buttons', () => {
  test('never send a form unless they are asked to, and do nothing while disabled', () => {
    let sent = 0;
    let done = 0;
    shown(
      <form
        onSubmit={(e) => {
          e.preventDefault();
          sent += 1;
        }}
      >
        <Button onClick={() => (done += 1)}>Look</Button>
        <Button disabled onClick={() => (done += 1)}>
          Not now
        </Button>
        <Button type="submit">Send</Button>
      </form>,
    );
    fireEvent.click(screen.getByRole('button', { name: 'Look' }));
    fireEvent.click(screen.getByRole('button', { name: 'Not now' }));
    expect([sent, done]).toEqual([0, 1]);
    fireEvent.click(screen.getByRole('button', { name: 'Send' }));
    expect(sent).toBe(1);
  });

  test('each look is another class, and a link stays a link', () => {
    shown(
      <>
        <Button>One</Button>
        <Button look="main">Two</Button>
        <Button look="stop">Three</Button>
        <ButtonLink to="/there">Four</ButtonLink>
      </>,
    );
    const looks = screen.getAllByRole('button').map((b) => b.className);
    expect(new Set(looks).size).toBe(3);
    expect(screen.getByRole('link', { name: 'Four' }).getAttribute('href')).toBe('/there');
  });
});

describe('fields', () => {
  test('that cannot be changed are seen, disabled, with why', () => {
    const field = { label: 'Fixed', help: 'It is used.', value: 'a', set: () => {}, disabled: true };
    shown(
      <>
        <TextField {...field} label="Text" />
        <ChoiceField {...field} choices={[{ value: 'a', label: 'A kind' }]} />
      </>,
    );
    for (const name of ['Text', 'Fixed'])
      expect(screen.getByLabelText<HTMLInputElement>(name).disabled, name).toBe(true);
  });

  test('are found by their label, say what is typed, and are described by help and by what is wrong', () => {
    const { rerender } = shown(<Form />);
    const name = screen.getByLabelText('Name');
    fireEvent.change(name, { target: { value: 'Ida' } });
    fireEvent.change(screen.getByLabelText('Kind'), { target: { value: 'a' } });
    expect(screen.getByRole('status').textContent).toBe('Ida/a');
    const described = () => document.getElementById(name.getAttribute('aria-describedby')!)!.textContent;
    expect(described()).toBe('As on the door list.');
    expect(name.getAttribute('aria-invalid')).toBe('false');
    rerender(
      <MemoryRouter>
        <ChakraProvider value={system}>
          <Form error="Give a name." />
        </ChakraProvider>
      </MemoryRouter>,
    );
    expect(described()).toBe('Give a name.As on the door list.');
    expect(name.getAttribute('aria-invalid')).toBe('true');
    // No two things on the page go by one id.
    const ids = [...document.querySelectorAll('[id]')].map((e) => e.id);
    expect(new Set(ids).size).toBe(ids.length);
  });
});

describe('a dialog', () => {
  test('has its title for a name, and is closed by Escape and by its button', async () => {
    shown(<WithDialog />);
    for (const leave of ['escape', 'button'] as const) {
      fireEvent.click(screen.getByRole('button', { name: 'Ask' }));
      const dialog = await screen.findByRole('dialog', { name: 'Call off?' });
      expect(within(dialog).getByText('It cannot be undone.')).toBeTruthy();
      if (leave === 'escape') fireEvent.keyDown(dialog, { key: 'Escape' });
      else fireEvent.click(within(dialog).getByRole('button', { name: 'Close' }));
      await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    }
  });
});

describe('a table', () => {
  test('totals stand under their columns, also where rows can be chosen', () => {
    shown(<WithTable />);
    const [header, ...others] = screen.getAllByRole('row');
    const cells = (row: HTMLElement) => row.querySelectorAll('th, td').length;
    expect(cells(others.at(-1)!)).toBe(cells(header!));
  });
  const names = () =>
    screen
      .getAllByRole('row')
      .slice(1, -1)
      .map((r) => within(r).getAllByRole('cell')[1]!.textContent);

  test('is sorted by its headings, numbers as numbers, and says by which', () => {
    shown(<WithTable />);
    expect(names()).toEqual(['Bo', 'Aud', 'Cai']);
    fireEvent.click(screen.getByRole('button', { name: /^Name/u }));
    expect(names()).toEqual(['Aud', 'Bo', 'Cai']);
    expect(screen.getByRole('columnheader', { name: /Name/u }).getAttribute('aria-sort')).toBe('ascending');
    const bySeats = { ascending: ['Cai', 'Bo', 'Aud'], descending: ['Aud', 'Bo', 'Cai'] } as const;
    const orders: string[] = [];
    for (let n = 0; n < 2; n += 1) {
      fireEvent.click(screen.getByRole('button', { name: /^Seats/u }));
      const order = screen.getByRole('columnheader', { name: /Seats/u }).getAttribute('aria-sort');
      expect(names()).toEqual(bySeats[order as keyof typeof bySeats]);
      orders.push(order!);
    }
    expect(orders.sort()).toEqual(['ascending', 'descending']);
  });

  test('is walked with j and k, a row opened by Enter and chosen by x; all shown are chosen at once', () => {
    opened.length = 0;
    shown(<WithTable />);
    const table = screen.getByRole('region', { name: 'Parties' });
    for (const key of ['j', 'j', 'k', 'Enter', 'j', 'x']) fireEvent.keyDown(table, { key });
    expect(opened).toEqual(['b']);
    expect(screen.getByRole('status').textContent).toBe('a');
    fireEvent.click(screen.getByRole('checkbox', { name: 'Choose all shown' }));
    expect(screen.getByRole('status').textContent).toBe('a,b,c');
    fireEvent.click(screen.getByText('Cai'));
    expect(opened).toEqual(['b', 'c']);
  });

  test('without rows it says so; on a phone one column leads, and others say what they are', () => {
    const { unmount } = shown(<WithTable of={[]} />);
    expect(screen.getByText('Nobody yet.')).toBeTruthy();
    unmount();
    shown(<WithTable />);
    const cells = within(screen.getAllByRole('row')[1]!).getAllByRole('cell');
    expect(cells.map((c) => [c.dataset.phone, c.dataset.label])).toEqual([
      [undefined, undefined],
      ['title', 'Name'],
      ['labelled', 'Seats'],
    ]);
  });
});

describe('what was asked for', () => {
  test('is waited for, shown, or said to have failed with a way to try again', () => {
    let again = 0;
    const of = (data: string | undefined, error: unknown) => ({ data, error, refetch: () => (again += 1) });
    const page = (data: string | undefined, error: unknown) => (
      <Loaded of={of(data, error)}>{(text) => <p>{text}</p>}</Loaded>
    );
    const { unmount } = shown(page(undefined, null));
    expect(screen.getByRole('status', { name: /^One moment/u })).toBeTruthy();
    unmount();
    const failed = shown(page(undefined, new Error('away')));
    fireEvent.click(screen.getByRole('button', { name: 'Try again' }));
    expect(again).toBe(1);
    failed.unmount();
    shown(page('here', null));
    expect(screen.getByText('here')).toBeTruthy();
  });

  test('problems of a form are summed up, each once', () => {
    const problem = new ApiProblem({
      type: 'about:blank#invalid',
      title: 'Give a name.',
      status: 422,
      code: 'invalid',
      fields: [
        { path: 'given', message: 'Give a name.' },
        { path: 'family', message: 'Give a name.' },
        { path: 'email', message: 'This is not an email address.' },
      ],
    } as never);
    shown(<Problems of={problem} />);
    const said = within(screen.getByRole('alert')).getAllByRole('listitem');
    expect(said.map((l) => l.textContent)).toEqual(['Give a name.', 'This is not an email address.']);
  });
});

test('computed geometry goes through as it is', () => {
  expect(placed({ left: '12%', width: 30 })).toEqual({ left: '12%', width: 30 });
});

test('a menu offers its things by name, does the one that is chosen, and closes unless it is a switch', async () => {
  const done: string[] = [];
  shown(
    <Menu
      trigger={<Button>More</Button>}
      entries={[
        { label: 'Account', run: () => done.push('account') },
        { label: 'Theme', run: () => done.push('theme'), stays: true },
      ]}
    />,
  );
  fireEvent.click(screen.getByRole('button', { name: 'More' }));
  fireEvent.click(await screen.findByRole('menuitem', { name: 'Theme' }));
  expect(screen.getByRole('menuitem', { name: 'Theme' })).toBeTruthy();
  fireEvent.click(screen.getByRole('menuitem', { name: 'Account' }));
  expect(done).toEqual(['theme', 'account']);
});

function Broken(): ReactNode {
  throw new Error('no such thing');
}

describe('a page that goes wrong', () => {
  const pages = (
    <MemoryRouter initialEntries={['/broken']}>
      <ChakraProvider value={system}>
        <Link to="/whole">Elsewhere</Link>
        <Boundary>
          <Routes>
            <Route path="/broken" element={<Broken />} />
            <Route path="/whole" element={<p>All is well</p>} />
          </Routes>
        </Boundary>
      </ChakraProvider>
    </MemoryRouter>
  );

  test('says so in its place, and leaves the others', async () => {
    const silent = vi.spyOn(console, 'error').mockImplementation(() => {});
    render(pages);
    expect((await screen.findByRole('alert')).textContent).toContain('What was saved is safe');
    expect(screen.getByRole('button', { name: 'Try again' })).toBeTruthy();
    fireEvent.click(screen.getByRole('link', { name: 'Elsewhere' }));
    expect((await screen.findByText('All is well')).isConnected).toBe(true);
    expect(screen.queryByRole('alert')).toBeNull();
    silent.mockRestore();
  });
});
