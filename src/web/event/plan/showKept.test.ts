// @vitest-environment happy-dom
import { notifyManager, QueryClient, QueryObserver } from '@tanstack/react-query';
import { expect, test } from 'vitest';
import type { EventPage } from '#contract/events.ts';
import { eventKey, showKept } from './showKept.ts';

test('what was kept is on the page before it is let go as typed, and no earlier answer comes in behind it', async () => {
  const client = new QueryClient();
  const before = { version: 1, plan: { codes: [] } } as unknown as EventPage;
  client.setQueryData(eventKey('one'), before);
  let answer: (page: EventPage) => void = () => {};
  const observer = new QueryObserver<EventPage>(client, {
    queryKey: eventKey('one'),
    queryFn: () =>
      new Promise((resolve) => {
        answer = resolve;
      }),
  });
  const seen: number[] = [];
  // As a component listens.
  const stop = observer.subscribe(
    notifyManager.batchCalls(({ data }) => {
      seen.push(data!.plan.codes.length);
    }),
  );
  expect(observer.getCurrentResult().isFetching).toBe(true);
  await showKept(client, 'one', 2, { codes: [{ code: 'EEL-10' }] as never });
  expect(seen.at(-1)).toBe(1);
  answer(before);
  await new Promise((done) => setTimeout(done, 5));
  expect(client.getQueryData<EventPage>(eventKey('one'))).toMatchObject({
    version: 2,
    plan: { codes: [{ code: 'EEL-10' }] },
  });
  stop();
  client.clear();
});
