// @vitest-environment happy-dom
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { renderHook, waitFor } from '@testing-library/react';
import type { ReactNode } from 'react';
import { expect, test } from 'vitest';
import { useTold } from './useTold.ts';

test('what is put together while nothing is asked is not asked later on', async () => {
  const client = new QueryClient();
  const wrapper = ({ children }: { children: ReactNode }) => (
    <QueryClientProvider client={client}>{children}</QueryClientProvider>
  );
  const asked: unknown[] = [];
  const { result, rerender } = renderHook(
    ({ fields, resting }: { fields: string[]; resting: boolean }) =>
      useTold(
        ['carry'],
        { fields },
        async (body) => {
          asked.push(body);
          return body.fields.length;
        },
        resting,
      ),
    { wrapper, initialProps: { fields: [] as string[], resting: true } },
  );
  rerender({ fields: ['capacity'], resting: false });
  expect(result.current.busy).toBe(true);
  await waitFor(() => expect(result.current).toMatchObject({ told: 1, busy: false }));
  expect(asked).toEqual([{ fields: ['capacity'] }]);
  // While it is being saved, what was told stays in sight.
  rerender({ fields: ['capacity'], resting: true });
  expect(result.current.told).toBe(1);
});
