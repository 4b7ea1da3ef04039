// @vitest-environment happy-dom
import { ChakraProvider } from '@chakra-ui/react';
import { cleanup, fireEvent, render, screen, waitFor } from '@testing-library/react';
import { useState } from 'react';
import { afterEach, expect, test } from 'vitest';
import { system } from '../../kit/workSystem.ts';
import { ChoicesField, MomentField } from './entries.tsx';

afterEach(cleanup);

function Choices() {
  const [value, set] = useState(['on foot']);
  return (
    <ChakraProvider value={system}>
      <ChoicesField label="Choices" value={value} set={set} />
      <output>{JSON.stringify(value)}</output>
    </ChakraProvider>
  );
}

test('choices are a list: Enter begins the next, blanks stay until they are written, commas are letters', async () => {
  render(<Choices />);
  const said = () => screen.getByRole('status').textContent;
  fireEvent.keyDown(screen.getByLabelText('Choice 1'), { key: 'Enter' });
  expect(said()).toBe('["on foot",""]');
  await waitFor(() => expect(document.activeElement).toBe(screen.getByLabelText('Choice 2')));
  fireEvent.change(screen.getByLabelText('Choice 2'), { target: { value: 'by bus, or train' } });
  expect(said()).toBe('["on foot","by bus, or train"]');
  fireEvent.click(screen.getByRole('button', { name: 'Add a choice' }));
  expect(said()).toBe('["on foot","by bus, or train",""]');
  fireEvent.click(screen.getByRole('button', { name: 'Remove on foot' }));
  expect(said()).toBe('["by bus, or train",""]');
});

function Moment({ ends }: { ends: boolean }) {
  const [value, set] = useState<string | null>(null);
  return (
    <ChakraProvider value={system}>
      <MomentField label="Until" ends={ends} value={value} set={set} error={undefined} />
      <output>{value ?? 'none'}</output>
    </ChakraProvider>
  );
}

test.each([
  [true, '2026-08-01T23:59'],
  [false, '2026-08-01T00:00'],
])('a date alone is a moment: what ends (%s) does so at %s', (ends, moment) => {
  render(<Moment ends={ends} />);
  fireEvent.change(screen.getByLabelText('Until'), { target: { value: '2026-08-01' } });
  expect(screen.getByRole('status').textContent).toBe(moment);
  fireEvent.change(screen.getByLabelText('Until, at'), { target: { value: '18:30' } });
  expect(screen.getByRole('status').textContent).toBe('2026-08-01T18:30');
  fireEvent.change(screen.getByLabelText('Until'), { target: { value: '' } });
  expect(screen.getByRole('status').textContent).toBe('none');
});
