import { describe, expect, test } from 'vitest';
import { Turns } from '#server/http/turns.ts';

/** Work that ends when it is told to. */
function works() {
  const ends: (() => void)[] = [];
  const began: string[] = [];
  return {
    began,
    work: (name: string) => () =>
      new Promise<string>((resolve) => {
        began.push(name);
        ends.push(() => resolve(name));
      }),
    end: async () => {
      ends.shift()!();
      await new Promise((resolve) => setImmediate(resolve));
    },
  };
}
const here = () => false;

describe('turns', () => {
  test('a caller who asks a lot waits behind themselves, others do not', async () => {
    const turns = new Turns({ atOnce: 2, waiting: 10 });
    const { began, work, end } = works();
    const done = ['a1', 'a2', 'a3', 'a4'].map((n) => turns.take('a', here, work(n)));
    const other = turns.take('b', here, work('b1'));
    expect(began).toEqual(['a1', 'a2', 'b1']);
    await end();
    expect(began).toEqual(['a1', 'a2', 'b1', 'a3']);
    for (let n = 0; n < 4; n += 1) await end();
    expect(await Promise.all([...done, other])).toEqual(['a1', 'a2', 'a3', 'a4', 'b1']);
  });

  test('what nobody waits for any more is left, and what fails gives its turn on', async () => {
    const turns = new Turns({ atOnce: 1, waiting: 10 });
    const { began, work, end } = works();
    let left = false;
    const failing = turns.take('a', here, async () => {
      await Promise.resolve();
      throw new Error('failed');
    });
    const gone = turns.take('a', () => left, work('gone'));
    const last = turns.take('a', here, work('last'));
    left = true;
    await expect(failing).rejects.toThrow('failed');
    expect(await gone).toBeUndefined();
    expect(began).toEqual(['last']);
    await end();
    expect(await last).toBe('last');
  });

  test('a line has an end', async () => {
    const turns = new Turns({ atOnce: 1, waiting: 1 });
    const { work, end } = works();
    const first = turns.take('a', here, work('1'));
    const second = turns.take('a', here, work('2'));
    await expect(turns.take('a', here, work('3'))).rejects.toMatchObject({ status: 429 });
    await end();
    await end();
    expect(await Promise.all([first, second])).toEqual(['1', '2']);
    // Nothing is left over: the next one begins at once.
    const again = turns.take('a', here, work('4'));
    await end();
    expect(await again).toBe('4');
  });
});
