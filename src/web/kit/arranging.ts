import { create } from 'zustand';
import { persist } from 'zustand/middleware';

/** How somebody has arranged a table: which columns, in which order, how wide. */
export interface Arrangement {
  /** Ids of columns in their order; those not named follow in the usual order. */
  order: readonly string[];
  hidden: readonly string[];
  /** In pixels. */
  widths: Readonly<Record<string, number>>;
}

/** The least width of a column, in pixels. */
export const leastWidth = 48;

const asUsual = (hidden: readonly string[]): Arrangement => ({ order: [], hidden, widths: {} });

/** Arrangements by the name of the table, kept on the device. */
const useArrangements = create<{
  by: Readonly<Record<string, Arrangement>>;
  put(name: string, arrangement: Arrangement | null): void;
}>()(
  persist(
    (set) => ({
      by: {},
      put: (name, arrangement) =>
        set(({ by }) => {
          const { [name]: _, ...rest } = by;
          return { by: arrangement ? { ...rest, [name]: arrangement } : rest };
        }),
    }),
    { name: 'acolyte-tables' },
  ),
);

/** How a table is arranged on this device, and how that is changed. */
export function useArranged(name: string, usuallyHidden: readonly string[] = []) {
  const kept = useArrangements((s) => s.by[name]);
  const store = useArrangements((s) => s.put);
  const now = kept ?? asUsual(usuallyHidden);
  return {
    ...now,
    changed: kept !== undefined,
    put: (part: Partial<Arrangement>) => store(name, { ...now, ...part }),
    reset: () => store(name, null),
  };
}

/** Columns in their order. The first says what a row is about and stays where it is. */
export function inOrder<C extends { id: string }>(columns: readonly C[], order: readonly string[]): C[] {
  const [first, ...rest] = columns;
  if (!first) return [];
  const named = order.flatMap((id) => rest.filter((c) => c.id === id));
  return [first, ...named, ...rest.filter((c) => !named.includes(c))];
}

/** The order after a column was moved by so many places, within those that move. */
export function moved(ids: readonly string[], id: string, by: number): string[] {
  const at = ids.indexOf(id);
  const to = Math.max(0, Math.min(ids.length - 1, at + by));
  const rest = ids.filter((i) => i !== id);
  return at < 0 ? [...ids] : [...rest.slice(0, to), id, ...rest.slice(to)];
}

/** The keys between two rows, both of them too, as they stand: what a choice with shift takes. */
export function between(keys: readonly string[], from: string | null, to: string): string[] {
  const start = from === null ? -1 : keys.indexOf(from);
  const end = keys.indexOf(to);
  if (start < 0 || end < 0) return [to];
  return keys.slice(Math.min(start, end), Math.max(start, end) + 1);
}
