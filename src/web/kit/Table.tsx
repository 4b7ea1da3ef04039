import { chakra } from '@chakra-ui/react';
import {
  createSortedRowModel,
  rowSortingFeature,
  sortFn_alphanumeric,
  sortFn_basic,
  sortFn_text,
  tableFeatures,
  useTable,
} from '@tanstack/react-table';
import { useVirtualizer } from '@tanstack/react-virtual';
import { type ReactNode, useMemo, useRef, useState } from 'react';
import { Empty } from '#web/kit/Note.tsx';
import { placed } from '#web/kit/placed.ts';

/** One column: its heading, what it sorts by and what it shows. */
export interface Column<T> {
  id: string;
  heading: string;
  sortBy?: (row: T) => string | number;
  cell: (row: T) => ReactNode;
  number?: boolean;
  width?: string;
  /**
   * On a phone every row is a few lines: this one leads, is shown without its heading, or is left out. Without one that leads it
   * is the first.
   */
  phone?: 'title' | 'bare' | 'hidden';
}

const features = tableFeatures({
  rowSortingFeature,
  sortedRowModel: createSortedRowModel(),
  sortFns: { alphanumeric: sortFn_alphanumeric, basic: sortFn_basic, text: sortFn_text },
});
/** Rows past which only those in sight are drawn, and how high one is before it was measured. */
const virtualFrom = 250;
const rowHeight = 31;

/** Sorting done by whoever gives the rows, as where only a part of them is shown. */
export interface Sorting {
  /** The column sorted by. */
  by: string;
  down: boolean;
  set: (by: string) => void;
}

/** Which rows are chosen, by key. */
export interface Choosing {
  chosen: ReadonlySet<string>;
  choose: (keys: ReadonlySet<string>) => void;
}

/** A real table: sticky heading, sorting, rows by keyboard (j, k, x, Enter), totals; drawn in part when it is long. */
export function Table<T>({
  rows,
  columns,
  keyOf,
  open,
  total,
  label,
  empty,
  height,
  choosing,
  sorting,
}: {
  rows: readonly T[];
  columns: readonly Column<T>[];
  keyOf: (row: T) => string;
  open?: (row: T) => void;
  total?: readonly ReactNode[];
  label: string;
  empty: ReactNode;
  height?: string;
  choosing?: Choosing;
  sorting?: Sorting;
}) {
  const frame = useRef<HTMLDivElement>(null);
  const [chosen, setChosen] = useState<number | null>(null);
  const defs = useMemo(
    () =>
      columns.map((c) => ({
        id: c.id,
        header: c.heading,
        accessorFn: (row: T) => c.sortBy?.(row) ?? '',
        enableSorting: Boolean(c.sortBy),
        sortFn: c.number ? ('basic' as const) : ('text' as const),
      })),
    [columns],
  );
  const table = useTable({ features, columns: defs as never, data: rows as T[] as never });
  const sorted = table.getRowModel().rows as unknown as { original: T; id: string }[];
  const virtual = useVirtualizer({
    count: sorted.length,
    getScrollElement: () => frame.current,
    estimateSize: () => rowHeight,
    overscan: 20,
    enabled: sorted.length > virtualFrom,
  });
  const leads = columns.some((c) => c.phone === 'title');
  const partly = sorted.length > virtualFrom;
  const inSight = partly ? virtual.getVirtualItems() : [];
  const drawn = partly ? inSight.map((v) => v.index) : sorted.map((_, at) => at);
  const before = inSight[0]?.start ?? 0;
  const after = partly ? virtual.getTotalSize() - (inSight.at(-1)?.end ?? 0) : 0;
  const toggle = (keys: readonly string[], on: boolean) => {
    const next = new Set(choosing!.chosen);
    for (const key of keys)
      if (on) next.add(key);
      else next.delete(key);
    choosing!.choose(next);
  };
  const allChosen = choosing && rows.length > 0 && rows.every((r) => choosing.chosen.has(keyOf(r)));
  if (rows.length === 0) return <Empty as="div">{empty}</Empty>;
  const headers = table.getHeaderGroups()[0]!.headers as unknown as {
    id: string;
    column: { getCanSort(): boolean; getIsSorted(): false | 'asc' | 'desc'; toggleSorting(): void };
  }[];
  return (
    <section
      className="table data"
      ref={frame}
      aria-label={label}
      style={placed(height ? { maxHeight: height } : {})}
      // Rows are walked by keyboard from here.
      // biome-ignore lint/a11y/noNoninteractiveTabindex: a scrolling region has to take the focus to be scrolled by keyboard
      tabIndex={0}
      onKeyDown={(e) => {
        if (e.target !== e.currentTarget) return;
        const step =
          e.key === 'j' || e.key === 'ArrowDown' ? 1 : e.key === 'k' || e.key === 'ArrowUp' ? -1 : 0;
        if (step) {
          e.preventDefault();
          setChosen((at) => Math.min(sorted.length - 1, Math.max(0, (at ?? -1) + step)));
          if (partly) virtual.scrollToIndex(Math.max(0, (chosen ?? -1) + step));
        } else if (e.key === 'Enter' && chosen !== null && open) open(sorted[chosen]!.original);
        else if (e.key === 'x' && chosen !== null && choosing) {
          const key = keyOf(sorted[chosen]!.original);
          toggle([key], !choosing.chosen.has(key));
        }
      }}
    >
      <table>
        <thead>
          <tr>
            {choosing && (
              <chakra.th width="30px">
                <input
                  type="checkbox"
                  aria-label="Choose all shown"
                  checked={Boolean(allChosen)}
                  onChange={(e) => toggle(rows.map(keyOf), e.target.checked)}
                />
              </chakra.th>
            )}
            {headers.map((header) => {
              const column = columns.find((c) => c.id === header.id)!;
              const order = sorting
                ? sorting.by === header.id && (sorting.down ? 'desc' : 'asc')
                : header.column.getIsSorted();
              return (
                <th
                  key={header.id}
                  className={column.number ? 'n' : ''}
                  style={placed({ width: column.width })}
                  aria-sort={order === 'asc' ? 'ascending' : order === 'desc' ? 'descending' : undefined}
                >
                  {header.column.getCanSort() ? (
                    <button
                      type="button"
                      onClick={() => (sorting ? sorting.set(header.id) : header.column.toggleSorting())}
                    >
                      {column.heading}
                      {order === 'asc' ? ' ↑' : order === 'desc' ? ' ↓' : ''}
                    </button>
                  ) : (
                    column.heading
                  )}
                </th>
              );
            })}
          </tr>
        </thead>
        <tbody>
          {before > 0 && <tr style={placed({ height: before })} aria-hidden="true" />}
          {drawn.map((at) => {
            const row = sorted[at]!.original;
            return (
              <tr
                key={keyOf(row)}
                ref={partly ? virtual.measureElement : undefined}
                data-index={at}
                className={open ? 'to' : ''}
                aria-selected={chosen === at}
                onClick={(e) => {
                  if ((e.target as HTMLElement).closest('button, a, input')) return;
                  setChosen(at);
                  open?.(row);
                }}
              >
                {choosing && (
                  <td>
                    <input
                      type="checkbox"
                      aria-label="Choose (x)"
                      title="Choose (x)"
                      checked={choosing.chosen.has(keyOf(row))}
                      onChange={(e) => toggle([keyOf(row)], e.target.checked)}
                    />
                  </td>
                )}
                {columns.map((c, place) => (
                  <td
                    key={c.id}
                    className={c.number ? 'n' : ''}
                    data-phone={c.phone ?? (place === 0 && !leads ? 'title' : 'labelled')}
                    data-label={c.heading}
                  >
                    {c.cell(row)}
                  </td>
                ))}
              </tr>
            );
          })}
          {after > 0 && <tr style={placed({ height: after })} aria-hidden="true" />}
        </tbody>
        {total && (
          <tfoot>
            <tr>
              {choosing && <td />}
              {total.map((cell, at) => (
                <td key={columns[at]!.id} className={columns[at]!.number ? 'n' : ''}>
                  {cell}
                </td>
              ))}
            </tr>
          </tfoot>
        )}
      </table>
    </section>
  );
}
