// @vitest-environment happy-dom
import { ChakraProvider } from '@chakra-ui/react';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { cleanup, fireEvent, render, screen, waitFor, within } from '@testing-library/react';
import { type ReactNode, useState } from 'react';
import { createMemoryRouter, Link, RouterProvider } from 'react-router';

import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import { crewContract } from '#contract/crew.ts';
import { system } from '../workSystem.ts';
import { forgetDrafts, keepDraft, keepDraftsOf, readDraft } from './drafts.ts';
import { Form } from './Form.tsx';
import { FormDialog } from './FormDialog.tsx';
import { Count, Text, Tick } from './fields.tsx';
import { prepare } from './request.ts';
import { type FormOptions, useForm } from './useForm.ts';

const values = { role: '', date: '2026-08-08', from: '09:00', to: '13:00', wished: '1', publicSignUp: true };
type Values = typeof values;

/** What was sent, and what is answered next. */
let sent: { body: Record<string, unknown>; key: string | null }[] = [];
let answers: { status: number; body: object }[] = [];

beforeEach(() => {
  sent = [];
  answers = [];
  vi.stubGlobal('fetch', async (_: string, init: RequestInit) => {
    sent.push({
      body: JSON.parse(String(init.body)) as Record<string, unknown>,
      key: (init.headers as Record<string, string>)['idempotency-key'] ?? null,
    });
    const { status, body } = answers.shift() ?? { status: 201, body: { id: 'new' } };
    return new Response(JSON.stringify(body), { status });
  });
});
afterEach(() => {
  cleanup();
  forgetDrafts();
  vi.unstubAllGlobals();
});

const refused = (fields: { path: string; message: string }[]) => ({
  status: 422,
  body: { type: 'about:blank#invalid', title: fields[0]!.message, status: 422, code: 'invalid', fields },
});

const optionsOf = (after: () => void): FormOptions<Values, { id: string }> => ({
  values,
  request: (v) =>
    prepare(crewContract, 'POST /api/events/:id/shifts', {
      params: { id: 'e' },
      body: {
        role: v.role,
        place: '',
        startsLocal: `${v.date}T${v.from}`,
        endsLocal: `${v.date}T${v.to}`,
        wished: Number(v.wished) || 0,
        publicSignUp: v.publicSignUp,
      },
    }),
  fieldOf: (path) => (path === 'startsLocal' ? 'from' : path === 'endsLocal' ? 'to' : path),
  after,
});

function Shift({ after, draft }: { after: () => void; draft?: string }) {
  const form = useForm<Values, { id: string }>({
    ...optionsOf(after),
    ...(draft ? { draft: { name: draft, keeping: 'device' as const } } : {}),
  });
  return (
    <Form form={form} submit="Add">
      <Text form={form} name="role" label="Role" required />
      <Count form={form} name="wished" label="How many" />
      <Text form={form} name="from" label="From" />
      <Tick form={form} name="publicSignUp" label="Anybody" />
    </Form>
  );
}

function InDialog() {
  const [open, setOpen] = useState(true);
  const form = useForm(optionsOf(() => setOpen(false)));
  return open ? (
    <FormDialog form={form} title="Add a shift" submit="Add" close={() => setOpen(false)}>
      <Text form={form} name="role" label="Role" />
    </FormDialog>
  ) : (
    <p>closed</p>
  );
}

const show = (what: ReactNode) => {
  const router = createMemoryRouter([
    {
      path: '/',
      element: (
        <>
          {what}
          <Link to="/elsewhere">Elsewhere</Link>
        </>
      ),
    },
    { path: '/elsewhere', element: <p>elsewhere</p> },
  ]);
  return render(
    <ChakraProvider value={system}>
      <QueryClientProvider client={new QueryClient()}>
        <RouterProvider router={router} />
      </QueryClientProvider>
    </ChakraProvider>,
  );
};
const type = (label: string, value: string) =>
  fireEvent.change(screen.getByLabelText(label), { target: { value } });
const add = () => fireEvent.click(screen.getByRole('button', { name: 'Add' }));

describe('a form', () => {
  test('says everything that is wrong at once, beside the fields and above them, and begins at the first', async () => {
    show(<Shift after={() => {}} />);
    type('How many', 'none');
    type('From', '25:00');
    add();
    const summary = await screen.findByRole('alert');
    expect(within(summary).getByText('3 things to correct')).toBeTruthy();
    // In the order they stand, not in that of the contract.
    expect(
      within(summary)
        .getAllByRole('link')
        .map((a) => a.textContent?.split(':')[0]),
    ).toEqual(['Role', 'How many', 'From']);
    const role = screen.getByLabelText('Role');
    expect(role.getAttribute('aria-invalid')).toBe('true');
    const described = document.getElementById(role.getAttribute('aria-describedby')!)!;
    expect(described.textContent).toBe('Name the role.');
    await waitFor(() => expect(document.activeElement).toBe(role));
    // A time has no field of its own name in the request; the problem stands where it was typed all the same.
    expect(screen.getByLabelText('From').getAttribute('aria-invalid')).toBe('true');
    fireEvent.click(within(summary).getByText(/^How many/u));
    expect(document.activeElement).toBe(screen.getByLabelText('How many'));
    expect(sent).toEqual([]);
  });

  test('what was corrected is no longer said to be wrong, while it is typed', async () => {
    show(<Shift after={() => {}} />);
    add();
    await screen.findByRole('alert');
    type('Role', 'Kitchen');
    await waitFor(() => expect(screen.queryByRole('alert')).toBeNull());
  });

  test('clicked twice it is sent once; sent again after a failure it is the same request', async () => {
    const after = vi.fn();
    answers = [{ status: 500, body: { title: 'Nothing was changed.', code: 'failed', status: 500 } }];
    show(<Shift after={after} />);
    type('Role', 'Kitchen');
    add();
    add();
    expect(await screen.findByText('Nothing was changed.')).toBeTruthy();
    expect(sent).toHaveLength(1);
    add();
    await waitFor(() => expect(after).toHaveBeenCalledTimes(1));
    expect(sent).toHaveLength(2);
    expect(sent[0]!.key).toBe(sent[1]!.key);
  });

  test('other contents are another request', async () => {
    answers = [{ status: 500, body: { title: 'Nothing was changed.', code: 'failed', status: 500 } }];
    const after = vi.fn();
    show(<Shift after={after} />);
    type('Role', 'Kitchen');
    add();
    await screen.findByText('Nothing was changed.');
    type('Role', 'First aid');
    add();
    await waitFor(() => expect(after).toHaveBeenCalled());
    expect(sent[0]!.key).not.toBe(sent[1]!.key);
  });

  test('what the server finds stands beside its field, by its path', async () => {
    answers = [
      refused([
        { path: 'endsLocal', message: 'It ends before it begins.' },
        { path: 'role', message: 'There is such a shift.' },
      ]),
    ];
    show(<Shift after={() => {}} />);
    type('Role', 'Kitchen');
    add();
    const role = screen.getByLabelText('Role');
    await waitFor(() => expect(role.getAttribute('aria-invalid')).toBe('true'));
    // A field that does not stand in the form is said all the same.
    expect(screen.getByRole('alert').textContent).toContain('It ends before it begins.');
    expect(document.activeElement).toBe(role);
  });

  test('a field in it is ticked by its words', async () => {
    show(<Shift after={() => {}} />);
    type('Role', 'Kitchen');
    fireEvent.click(screen.getByLabelText('Anybody'));
    add();
    await waitFor(() => expect(sent[0]?.body.publicSignUp).toBe(false));
  });
});

describe('leaving the page', () => {
  const leave = () => fireEvent.click(screen.getByText('Elsewhere'));
  test('asks where something was typed that would be lost', async () => {
    show(<Shift after={() => {}} />);
    type('Role', 'Kitchen');
    leave();
    const dialog = await screen.findByRole('dialog', { name: 'Discard what you typed?' });
    fireEvent.click(within(dialog).getByRole('button', { name: 'Keep editing' }));
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    expect((screen.getByLabelText('Role') as HTMLInputElement).value).toBe('Kitchen');
    leave();
    fireEvent.click(await screen.findByRole('button', { name: 'Discard' }));
    expect(await screen.findByText('elsewhere')).toBeTruthy();
  });
  test('does not ask where nothing was typed, where a draft is kept, or where it was sent', async () => {
    const untouched = show(<Shift after={() => {}} />);
    leave();
    expect(await screen.findByText('elsewhere')).toBeTruthy();
    untouched.unmount();
    const kept = show(<Shift after={() => {}} draft="shift" />);
    type('Role', 'Kitchen');
    leave();
    expect(await screen.findByText('elsewhere')).toBeTruthy();
    kept.unmount();
    // It is left by what follows once it was sent.
    show(<Shift after={leave} />);
    type('Role', 'Kitchen');
    add();
    expect(await screen.findByText('elsewhere')).toBeTruthy();
  });
});

describe('drafts', () => {
  test('what was typed is there again, can be discarded, and is gone once it was sent', async () => {
    const first = show(<Shift after={() => {}} draft="shift" />);
    type('Role', 'Kitchen');
    await waitFor(() => expect(readDraft<Values>('shift', 'device')?.role).toBe('Kitchen'));
    first.unmount();
    const second = show(<Shift after={() => {}} draft="shift" />);
    expect((screen.getByLabelText('Role') as HTMLInputElement).value).toBe('Kitchen');
    fireEvent.click(screen.getByRole('button', { name: 'Start over' }));
    expect((screen.getByLabelText('Role') as HTMLInputElement).value).toBe('');
    expect(readDraft('shift', 'device')).toBeNull();
    second.unmount();
    const after = vi.fn();
    show(<Shift after={after} draft="shift" />);
    type('Role', 'First aid');
    add();
    await waitFor(() => expect(after).toHaveBeenCalled());
    await waitFor(() => expect(readDraft('shift', 'device')).toBeNull());
  });

  test('who signs in finds their own drafts, and nobody else’s', () => {
    keepDraftsOf('odalys@brackenmere.example');
    keepDraft('a', 'device', { x: 1 });
    keepDraftsOf('odalys@brackenmere.example');
    expect(readDraft('a', 'device')).toEqual({ x: 1 });
    keepDraftsOf('piers@brackenmere.example');
    expect(readDraft('a', 'device')).toBeNull();
  });

  test('after a week, or when somebody signs out, nothing is kept', () => {
    vi.useFakeTimers();
    keepDraft('a', 'device', { x: 1 });
    keepDraft('b', 'tab', { x: 2 });
    vi.setSystemTime(Date.now() + 6 * 86_400_000);
    expect(readDraft('a', 'device')).toEqual({ x: 1 });
    vi.setSystemTime(Date.now() + 2 * 86_400_000);
    expect(readDraft('a', 'device')).toBeNull();
    vi.useRealTimers();
    keepDraft('a', 'device', { x: 1 });
    localStorage.setItem('else', 'kept');
    forgetDrafts();
    expect([readDraft('a', 'device'), readDraft('b', 'tab'), localStorage.getItem('else')]).toEqual([
      null,
      null,
      'kept',
    ]);
    localStorage.removeItem('else');
  });
});

describe('a dialog', () => {
  test('asks before what was typed is discarded, and closes at once where nothing was', async () => {
    show(<InDialog />);
    const dialog = await screen.findByRole('dialog');
    type('Role', 'Kitchen');
    fireEvent.click(within(dialog).getByRole('button', { name: 'Cancel' }));
    expect(await within(dialog).findByText(/Discard what you typed/u)).toBeTruthy();
    fireEvent.click(within(dialog).getByRole('button', { name: 'Keep editing' }));
    expect((screen.getByLabelText('Role') as HTMLInputElement).value).toBe('Kitchen');
    fireEvent.click(within(dialog).getByRole('button', { name: 'Cancel' }));
    fireEvent.click(await within(dialog).findByRole('button', { name: 'Discard' }));
    expect(await screen.findByText('closed')).toBeTruthy();
  });
});
