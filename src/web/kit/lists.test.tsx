// @vitest-environment happy-dom
import { ChakraProvider } from '@chakra-ui/react';
import { cleanup, fireEvent, render, screen, waitFor, within } from '@testing-library/react';
import fc from 'fast-check';
import { useState } from 'react';
import { MemoryRouter, useLocation, useNavigate } from 'react-router';
import { afterEach, describe, expect, test } from 'vitest';
import { between, inOrder, moved } from './arranging.ts';
import { ListViews } from './ListViews.tsx';
import { NothingFound } from './NothingFound.tsx';
import { Paging } from './Paging.tsx';
import { type Column, Table } from './Table.tsx';
import { TableColumns } from './TableColumns.tsx';
import { useAddress } from './useAddress.ts';
import { system } from './workSystem.ts';

afterEach(() => {
  cleanup();
  localStorage.clear();
});

const ids = fc.uniqueArray(fc.string({ minLength: 1, maxLength: 4 }), { minLength: 1, maxLength: 8 });
const columnsOf = (names: readonly string[]) => names.map((id) => ({ id }));

describe('arranging', () => {
  test('every column stays, once, and the first where it is, whatever order is kept', () => {
    fc.assert(
      fc.property(ids, fc.array(fc.string({ maxLength: 4 }), { maxLength: 12 }), (names, order) => {
        const arranged = inOrder(columnsOf(names), [...new Set([...order, ...names.slice(2).reverse()])]);
        expect(arranged.map((c) => c.id).sort()).toEqual([...names].sort());
        expect(arranged[0]!.id).toBe(names[0]);
      }),
    );
  });

  test('those that are named come in that order, new ones after them', () => {
    expect(inOrder(columnsOf(['a', 'b', 'c', 'd']), ['d', 'b']).map((c) => c.id)).toEqual([
      'a',
      'd',
      'b',
      'c',
    ]);
  });

  test('a column moves by one, and not past the ends', () => {
    expect(moved(['a', 'b', 'c'], 'b', -1)).toEqual(['b', 'a', 'c']);
    expect(moved(['a', 'b', 'c'], 'b', 1)).toEqual(['a', 'c', 'b']);
    expect(moved(['a', 'b', 'c'], 'a', -1)).toEqual(['a', 'b', 'c']);
    expect(moved(['a', 'b'], 'x', 1)).toEqual(['a', 'b']);
  });

  test('a choice with shift takes both ends and all between, from either side', () => {
    fc.assert(
      fc.property(ids, fc.nat(), fc.nat(), (keys, x, y) => {
        const [from, to] = [keys[x % keys.length]!, keys[y % keys.length]!];
        const taken = between(keys, from, to);
        expect(taken).toEqual(between(keys, to, from));
        expect(taken).toHaveLength(Math.abs(keys.indexOf(from) - keys.indexOf(to)) + 1);
        expect(taken).toContain(from);
        expect(taken).toContain(to);
      }),
    );
    expect(between(['a', 'b'], null, 'b')).toEqual(['b']);
    expect(between(['a', 'b'], 'gone', 'b')).toEqual(['b']);
  });
});

interface Row {
  id: string;
  seats: number;
}
const rows: Row[] = ['a', 'b', 'c', 'd'].map((id, seats) => ({ id, seats }));
const columns: Column<Row>[] = [
  { id: 'name', heading: 'Name', cell: (r) => r.id },
  { id: 'seats', heading: 'Seats', cell: (r) => r.seats },
  { id: 'twice', heading: 'Twice', cell: (r) => r.seats * 2 },
];
function Parties() {
  const [chosen, choose] = useState<ReadonlySet<string>>(new Set());
  return (
    <ChakraProvider value={system}>
      <TableColumns name="parties" columns={columns} />
      <Table
        name="parties"
        rows={rows}
        columns={columns}
        keyOf={(r) => r.id}
        label="Parties"
        empty="Nobody yet."
        choosing={{ chosen, choose }}
      />
      <output>{[...chosen].sort().join()}</output>
    </ChakraProvider>
  );
}
const headings = () => screen.getAllByRole('columnheader').map((h) => h.textContent);

describe('a table with a name', () => {
  test('shows the columns somebody chose, in their order, also the next time, and goes back to the usual', async () => {
    render(<Parties />);
    fireEvent.click(screen.getByRole('button', { name: 'Columns' }));
    const within_ = within(await screen.findByRole('dialog', { name: 'Columns' }));
    fireEvent.click(within_.getByRole('button', { name: 'Move Twice to the left' }));
    expect(headings()).toEqual(['', 'Name', 'Twice', 'Seats']);
    fireEvent.click(within_.getByRole('checkbox', { name: 'Seats' }));
    await waitFor(() => expect(headings()).toEqual(['', 'Name', 'Twice']));
    cleanup();
    render(<Parties />);
    expect(headings()).toEqual(['', 'Name', 'Twice']);
    fireEvent.click(screen.getByRole('button', { name: 'Columns' }));
    fireEvent.click(await screen.findByRole('button', { name: 'Back to the usual columns' }));
    expect(headings()).toEqual(['', 'Name', 'Seats', 'Twice']);
  });

  test('a width is kept', async () => {
    render(<Parties />);
    fireEvent.click(screen.getByRole('button', { name: 'Columns' }));
    fireEvent.click(await screen.findByRole('button', { name: 'Make Seats wider' }));
    cleanup();
    render(<Parties />);
    // Nothing has a width in this document, so the least one counts.
    expect(screen.getByRole('columnheader', { name: 'Seats' }).style.width).toBe('48px');
  });

  test('with shift all rows up to the one are chosen, by click and by key', () => {
    render(<Parties />);
    const boxes = screen.getAllByRole('checkbox', { name: 'Choose (x)' });
    fireEvent.click(boxes[0]!);
    fireEvent.click(boxes[2]!, { shiftKey: true });
    expect(screen.getByRole('status').textContent).toBe('a,b,c');
    const table = screen.getByRole('region', { name: 'Parties' });
    for (let down = 0; down < 4; down += 1) fireEvent.keyDown(table, { key: 'j' });
    fireEvent.keyDown(table, { key: 'X', shiftKey: true });
    expect(screen.getByRole('status').textContent).toBe('a,b,c,d');
  });
});

const usual = { show: 'coming', q: '' };
function Address() {
  const [now, put] = useAddress(usual);
  const { search } = useLocation();
  const navigate = useNavigate();
  return (
    <>
      <output>{`${search} ${now.show} ${now.q}`}</output>
      <button type="button" onClick={() => put({ show: 'past' })}>
        past
      </button>
      <button type="button" onClick={() => put({ q: 'fen' }, { typed: true })}>
        type
      </button>
      <button type="button" onClick={() => put({ show: 'coming' })}>
        coming
      </button>
      <button type="button" onClick={() => navigate(-1)}>
        back
      </button>
    </>
  );
}

describe('what is shown stands in the address', () => {
  test('without what is usual; a choice is a step to go back from, typing is not', () => {
    render(
      <MemoryRouter initialEntries={['/season']}>
        <Address />
      </MemoryRouter>,
    );
    const says = () => screen.getByRole('status').textContent;
    const press = (name: string) => fireEvent.click(screen.getByRole('button', { name }));
    expect(says()).toBe(' coming ');
    press('past');
    press('type');
    expect(says()).toBe('?show=past&q=fen past fen');
    press('coming');
    expect(says()).toBe('?q=fen coming fen');
    press('back');
    expect(says()).toBe('?show=past&q=fen past fen');
    press('back');
    expect(says()).toBe(' coming ');
  });
});

describe('long and empty lists', () => {
  test('the parts of a list say where one is and end at its ends', () => {
    const went: number[] = [];
    const page = (offset: number) => (
      <ChakraProvider value={system}>
        <Paging offset={offset} size={100} shown={50} total={250} set={(to) => went.push(to)} />
      </ChakraProvider>
    );
    const { rerender, container } = render(page(200));
    expect(container.textContent).toContain('201 to 250 of 250');
    expect(screen.getByRole('button', { name: 'Next' })).toHaveProperty('disabled', true);
    fireEvent.click(screen.getByRole('button', { name: 'Previous' }));
    rerender(page(0));
    fireEvent.click(screen.getByRole('button', { name: 'Next' }));
    expect(went).toEqual([100, 100]);
  });

  test('a list that fits has no parts', () => {
    render(
      <ChakraProvider value={system}>
        <Paging offset={0} size={100} shown={50} total={50} set={() => {}} />
      </ChakraProvider>,
    );
    expect(screen.queryByRole('navigation')).toBeNull();
  });

  test('where nothing is found, each way to see more is one button', () => {
    let all = 0;
    render(
      <ChakraProvider value={system}>
        <NothingFound ways={[{ label: 'Show all', run: () => (all += 1) }]}>Nobody found.</NothingFound>
      </ChakraProvider>,
    );
    fireEvent.click(screen.getByRole('button', { name: 'Show all' }));
    expect(all).toBe(1);
  });

  test('the view that is shown is pressed', () => {
    const set: string[] = [];
    render(
      <ChakraProvider value={system}>
        <ListViews
          label="Show"
          value="past"
          set={(v) => set.push(v)}
          views={[
            { value: 'coming', label: 'Coming', count: 1200 },
            { value: 'past', label: 'Past' },
          ]}
        />
      </ChakraProvider>,
    );
    expect(screen.getByRole('button', { name: 'Past' }).getAttribute('aria-pressed')).toBe('true');
    fireEvent.click(screen.getByRole('button', { name: 'Coming 1,200' }));
    expect(set).toEqual(['coming']);
  });
});
