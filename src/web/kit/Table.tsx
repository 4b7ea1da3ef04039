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
import { type PointerEvent, type ReactNode, useMemo, useRef, useState } from 'react';
import { Empty } from '#web/kit/Note.tsx';
import { placed } from '#web/kit/placed.ts';
import { between, inOrder, leastWidth, useArranged } from './arranging.ts';
import { RowTick } from './Choosing.tsx';
import { useKitWords } from './words.ts';

/** One column: its heading, what it sorts by and what it shows. */
export interface Column<T> {
  id: string;
  heading: string;
  sortBy?: (row: T) => string | number;
  cell: (row: T) => ReactNode;
  number?: boolean;
  width?: string;
  /** What stands under the column, of the rows that are shown. */
  total?: (rows: readonly T[]) => ReactNode;
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

/**
 * A real table: sticky heading, sorting, rows by keyboard (j, k, x, shift and x, Enter), totals; drawn in part when it is long.
 * One with a name keeps its columns, their order and their widths on the device.
 */
export function Table<T>({
  rows,
  columns: everyColumn,
  name,
  usuallyHidden = [],
  keyOf,
  open,
  label,
  empty,
  height,
  choosing,
  sorting,
}: {
  rows: readonly T[];
  columns: readonly Column<T>[];
  name?: string;
  usuallyHidden?: readonly string[];
  keyOf: (row: T) => string;
  open?: (row: T) => void;
  label: string;
  empty: ReactNode;
  height?: string;
  choosing?: Choosing;
  sorting?: Sorting;
}) {
  const frame = useRef<HTMLDivElement>(null);
  const words = useKitWords();
  const [at, setAt] = useState<number | null>(null);
  // Where a choice with shift begins.
  const [from, setFrom] = useState<string | null>(null);
  const { order, hidden, widths, put } = useArranged(name ?? '', usuallyHidden);
  const columns = useMemo(
    () => (name ? inOrder(everyColumn, order).filter((c) => !hidden.includes(c.id)) : everyColumn),
    [name, everyColumn, order, hidden],
  );
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
  const onPhone = (c: Column<T>, at: number) => c.phone ?? (at === 0 && !leads ? 'title' : 'labelled');
  const partly = sorted.length > virtualFrom;
  const inSight = partly ? virtual.getVirtualItems() : [];
  const drawn = partly ? inSight.map((v) => v.index) : sorted.map((_, at) => at);
  const before = inSight[0]?.start ?? 0;
  const after = partly ? virtual.getTotalSize() - (inSight.at(-1)?.end ?? 0) : 0;
  const choose = (keys: readonly string[], on: boolean) => {
    const next = new Set(choosing!.chosen);
    for (const key of keys)
      if (on) next.add(key);
      else next.delete(key);
    choosing!.choose(next);
  };
  /** Chooses a row or lets it go; with shift all of them up to it. */
  const toggle = (key: string, shift: boolean) => {
    const on = !choosing!.chosen.has(key);
    const keys = sorted.map((r) => keyOf(r.original));
    choose(shift ? between(keys, from, key) : [key], on);
    setFrom(key);
  };
  /** Drags the edge of a column. All widths are settled first, so that the others stay as they are. */
  const drag = (id: string) => (e: PointerEvent<HTMLElement>) => {
    const handle = e.currentTarget;
    const heads = [...frame.current!.querySelectorAll<HTMLElement>('th[data-column]')];
    const settled = Object.fromEntries(heads.map((h) => [h.dataset.column!, h.offsetWidth]));
    const begin = e.clientX;
    handle.setPointerCapture(e.pointerId);
    const move = (to: globalThis.PointerEvent) =>
      put({ widths: { ...settled, [id]: Math.max(leastWidth, settled[id]! + to.clientX - begin) } });
    const end = () => {
      handle.removeEventListener('pointermove', move);
      handle.removeEventListener('pointerup', end);
      handle.removeEventListener('pointercancel', end);
    };
    handle.addEventListener('pointermove', move);
    handle.addEventListener('pointerup', end);
    handle.addEventListener('pointercancel', end);
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
      data-table={name}
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
          setAt((now) => Math.min(sorted.length - 1, Math.max(0, (now ?? -1) + step)));
          if (partly) virtual.scrollToIndex(Math.max(0, (at ?? -1) + step));
        } else if (e.key === 'Enter' && at !== null && open) open(sorted[at]!.original);
        else if (e.key.toLowerCase() === 'x' && at !== null && choosing)
          toggle(keyOf(sorted[at]!.original), e.shiftKey);
      }}
    >
      <table className={Object.keys(widths).length ? 'arranged' : undefined}>
        <thead>
          <tr>
            {choosing && (
              <chakra.th width="30px">
                <RowTick
                  aria-label={words.chooseAll}
                  checked={Boolean(allChosen)}
                  onChange={(e) => choose(rows.map(keyOf), e.target.checked)}
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
                  data-column={column.id}
                  data-phone={column.phone}
                  style={placed({ width: widths[column.id] ?? column.width })}
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
                  {name && (
                    <chakra.span
                      aria-hidden="true"
                      hideBelow="md"
                      className="edge"
                      onPointerDown={drag(column.id)}
                      onDoubleClick={() => put({ widths: {} })}
                    />
                  )}
                </th>
              );
            })}
          </tr>
        </thead>
        <tbody>
          {before > 0 && <tr style={placed({ height: before })} aria-hidden="true" />}
          {drawn.map((place) => {
            const row = sorted[place]!.original;
            return (
              <tr
                key={keyOf(row)}
                ref={partly ? virtual.measureElement : undefined}
                data-index={place}
                className={open ? 'to' : ''}
                aria-selected={place === at}
                onClick={(e) => {
                  if ((e.target as HTMLElement).closest('button, a, input')) return;
                  setAt(place);
                  open?.(row);
                }}
              >
                {choosing && (
                  <td>
                    <RowTick
                      aria-label={words.chooseRow}
                      title={words.chooseRow}
                      checked={choosing.chosen.has(keyOf(row))}
                      onChange={(e) => toggle(keyOf(row), (e.nativeEvent as MouseEvent).shiftKey)}
                    />
                  </td>
                )}
                {columns.map((c, column) => (
                  <td
                    key={c.id}
                    className={c.number ? 'n' : ''}
                    data-phone={onPhone(c, column)}
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
        {columns.some((c) => c.total) && (
          <tfoot>
            <tr>
              {choosing && <td />}
              {columns.map((c, column) => (
                <td
                  key={c.id}
                  className={c.number ? 'n' : ''}
                  data-phone={onPhone(c, column)}
                  data-label={c.heading}
                >
                  {c.total?.(rows)}
                </td>
              ))}
            </tr>
          </tfoot>
        )}
      </table>
    </section>
  );
}
