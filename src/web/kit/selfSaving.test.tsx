// @vitest-environment happy-dom
import { act, cleanup, renderHook } from '@testing-library/react';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { useSelfSaving } from './useSelfSaving.ts';

beforeEach(() => {
  vi.useFakeTimers();
});
afterEach(() => {
  cleanup();
  vi.useRealTimers();
});

/** A place that keeps values when it is told to. */
function place() {
  const kept: string[] = [];
  const waiting: { done: () => void; fail: () => void }[] = [];
  const save = (value: string) =>
    new Promise<void>((resolve, reject) => {
      kept.push(value);
      waiting.push({ done: resolve, fail: () => reject(new Error('no network')) });
    });
  return { kept, waiting, save };
}
const later = (ms: number) => act(() => vi.advanceTimersByTimeAsync(ms));

test('the last of several changes is saved, once, a moment after it was made', async () => {
  const { kept, waiting, save } = place();
  const { rerender, result } = renderHook(({ v }) => useSelfSaving(v, save), { initialProps: { v: 'a' } });
  expect(result.current).toBe('saved');
  rerender({ v: 'ab' });
  await later(300);
  rerender({ v: 'abc' });
  expect(result.current).toBe('unsaved');
  await later(590);
  expect(kept).toEqual([]);
  await later(20);
  expect([kept, result.current]).toEqual([['abc'], 'saving']);
  waiting[0]!.done();
  await later(0);
  expect(result.current).toBe('saved');
});

test('what is changed while it saves follows afterwards, never beside it', async () => {
  const { kept, waiting, save } = place();
  const { rerender, result } = renderHook(({ v }) => useSelfSaving(v, save), { initialProps: { v: 'a' } });
  rerender({ v: 'b' });
  await later(600);
  rerender({ v: 'c' });
  await later(2000);
  expect(kept).toEqual(['b']);
  waiting[0]!.done();
  await later(0);
  expect(kept).toEqual(['b', 'c']);
  waiting[1]!.done();
  await later(0);
  expect(result.current).toBe('saved');
});

test('what failed is said, and goes with the next change', async () => {
  const { kept, waiting, save } = place();
  const { rerender, result } = renderHook(({ v }) => useSelfSaving(v, save), { initialProps: { v: 'a' } });
  rerender({ v: 'b' });
  await later(600);
  waiting[0]!.fail();
  await later(0);
  expect(result.current).toBe('failed');
  await later(5000);
  expect(kept).toEqual(['b']);
  rerender({ v: 'bc' });
  await later(600);
  expect(kept).toEqual(['b', 'bc']);
});

test('what cannot be saved waits until it can, and leaving saves at once', async () => {
  const { kept, save } = place();
  const { rerender, unmount } = renderHook(({ v, ready }) => useSelfSaving(v, save, { ready }), {
    initialProps: { v: 'a', ready: true },
  });
  rerender({ v: '', ready: false });
  await later(5000);
  expect(kept).toEqual([]);
  rerender({ v: 'b', ready: true });
  await later(100);
  unmount();
  expect(kept).toEqual(['b']);
});
