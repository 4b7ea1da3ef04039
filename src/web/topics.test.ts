import { QueryClient, QueryObserver } from '@tanstack/react-query';
import { expect, test } from 'vitest';
import { everything } from '#contract/index.ts';
import { staffTopics } from '#contract/staffTopics.ts';
import { alsoTopics, changesOf, readsOf, topics } from '#contract/topics.ts';
import { about } from './about.ts';
import type { Key } from './api.ts';
import { askAnew, askAnewAfter, makeAsking } from './topics.ts';

alsoTopics(staffTopics);

/** A page that shows the answers of some endpoints, and how often each was asked. */
function page(keys: readonly Key[], own: readonly string[] = []) {
  const client = new QueryClient();
  const asked: string[] = [];
  const stops = [...keys, ...own].map((key) =>
    new QueryObserver(client, {
      queryKey: [key],
      queryFn: async () => {
        asked.push(key);
        return key;
      },
      ...(own.includes(key) ? {} : { meta: about(key as Key) }),
      staleTime: Number.POSITIVE_INFINITY,
    }).subscribe(() => {}),
  );
  return {
    client,
    asked,
    stop: () => {
      for (const stop of stops) stop();
    },
  };
}
const settled = () => new Promise((resolve) => setTimeout(resolve, 0));

test('a change asks what is about it, and nothing else', async () => {
  const shown = page(['GET /api/events/:id', 'GET /api/choices', 'GET /api/me', 'GET /api/contacts']);
  await settled();
  shown.asked.length = 0;
  await askAnewAfter(shown.client, 'PATCH /api/events/:id');
  expect(shown.asked.sort()).toEqual(['GET /api/contacts', 'GET /api/events/:id']);
  shown.asked.length = 0;
  await askAnewAfter(shown.client, 'POST /api/units');
  expect(shown.asked.sort()).toEqual(['GET /api/choices', 'GET /api/me']);
  shown.asked.length = 0;
  await askAnewAfter(shown.client, 'POST /api/segments/count');
  expect(shown.asked).toEqual([]);
  shown.stop();
});

test('what says nothing of itself is always asked', async () => {
  const shown = page(['GET /api/me'], ['what if']);
  await settled();
  shown.asked.length = 0;
  await askAnew(shown.client, ['crew']);
  expect(shown.asked).toEqual(['what if']);
  shown.stop();
});

test('what changed while it was being asked is shown in the end; many signs at once make one more round', async () => {
  const client = new QueryClient();
  let there = 'planned';
  let asked = 0;
  const answers: (() => void)[] = [];
  const key = 'GET /api/events/:id/messages';
  const observer = new QueryObserver(client, {
    queryKey: [key],
    queryFn: () => {
      asked += 1;
      // Read now, answered later: as over a slow network.
      const read = there;
      return new Promise<string>((resolve) => answers.push(() => resolve(read)));
    },
    meta: about(key),
    staleTime: Number.POSITIVE_INFINITY,
  });
  const stop = observer.subscribe(() => {});
  const answer = async () => {
    for (const give of answers.splice(0)) give();
    await settled();
  };
  await settled();
  await answer();
  const changed = makeAsking(client, ['messages']);
  changed();
  await settled();
  // It is read before the change, and its answer comes after the sign.
  there = 'sent';
  for (let n = 0; n < 20; n += 1) changed();
  await answer();
  await answer();
  expect(observer.getCurrentResult().data).toBe('sent');
  expect(asked).toBe(3);
  // The last round is over: a sign begins the next.
  there = 'read';
  changed();
  await settled();
  await answer();
  expect(observer.getCurrentResult().data).toBe('read');
  expect(asked).toBe(4);
  stop();
});

test('every answer that is shown is about something, and every topic is about something that changes', () => {
  // Files, streams and what is asked once are never asked anew.
  const once =
    /\/stream$|\/files\/:file$|\/papers\/:paper$|\.(?:csv|vcf|ics|pdf|json)$|^GET \/api\/(?:backups\/:name|contacts\/ids|contacts\/:id\/photo|signatures\/:id\/scan|invitations|password-resets|public\/frame|public\/propose|public\/pictures)/u;
  for (const key of Object.keys(everything))
    if (key.startsWith('GET ') && !once.test(key))
      expect([key, readsOf(key as Key)]).toEqual([key, expect.arrayContaining([expect.any(String)])]);
  const keys = Object.keys(everything) as Key[];
  const changed = new Set(keys.flatMap(changesOf));
  const read = new Set(keys.flatMap(readsOf));
  expect([...topics].filter((t) => !changed.has(t) || !read.has(t))).toEqual([]);
});
