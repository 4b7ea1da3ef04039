import { chakra } from '@chakra-ui/react';
import { type KeyboardEvent, type PointerEvent, useRef, useState } from 'react';
import { Group } from './Field.tsx';

/** One end of a grid: a column or a row. */
export interface GridLine {
  key: string;
  /** What stands over or beside it, and what it is called in full. */
  label: string;
  full: string;
}

/** A cell of a grid, by its column and its row. */
export const cellKey = (column: string, row: string): string => `${column} ${row}`;

const Cell = chakra('button', {
  base: {
    display: 'block',
    width: '100%',
    minWidth: '34px',
    height: '26px',
    padding: 0,
    borderRadius: 0,
    border: '1px solid',
    borderColor: 'line',
    background: 'sheet',
    cursor: 'pointer',
    touchAction: 'none',
    '&[aria-pressed=true]': { background: 'verdigris', borderColor: 'verdigris' },
    '&:focus-visible': { outline: '2px solid', outlineColor: 'ink', outlineOffset: '1px', zIndex: 1 },
  },
});
const Line = chakra('button', {
  base: {
    width: '100%',
    padding: '2px 8px 2px 0',
    border: 0,
    background: 'none',
    font: 'inherit',
    fontSize: '14px',
    textAlign: 'inherit',
    cursor: 'pointer',
    color: 'ink',
    whiteSpace: 'nowrap',
    '&:hover': { color: 'verdigris' },
  },
});

const steps: Readonly<Record<string, readonly [column: number, row: number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

/**
 * A grid that is painted: pressed and drawn over with a pointer; or walked with the arrows, painted with Space, and on with Shift and the
 * arrows. What stands over a column, or beside a row, paints all of it.
 */
export function PaintGrid({
  label,
  help,
  error,
  id,
  columns,
  rows,
  painted,
  paint,
}: {
  label: string;
  help?: string;
  error?: string | undefined;
  id?: string;
  columns: readonly GridLine[];
  rows: readonly GridLine[];
  painted: ReadonlySet<string>;
  paint: (keys: readonly string[], on: boolean) => void;
}) {
  const [at, setAt] = useState({ column: 0, row: 0 });
  /** Whether what is drawn over is painted or wiped, while a button is down. */
  const drawing = useRef<boolean | null>(null);
  const cells = useRef(new Map<string, HTMLButtonElement>());
  const keyAt = (column: number, row: number) => cellKey(columns[column]!.key, rows[row]!.key);

  const begin = (e: PointerEvent<HTMLButtonElement>, key: string) => {
    // So that cells beside it hear of a finger that goes on.
    e.currentTarget.releasePointerCapture(e.pointerId);
    drawing.current = !painted.has(key);
    paint([key], drawing.current);
  };
  const over = (e: PointerEvent, key: string) => {
    if (!e.buttons) drawing.current = null;
    else if (drawing.current !== null && painted.has(key) !== drawing.current) paint([key], drawing.current);
  };
  const onKey = (e: KeyboardEvent, column: number, row: number) => {
    const key = keyAt(column, row);
    if (e.key === ' ' || e.key === 'Enter') {
      e.preventDefault();
      paint([key], !painted.has(key));
      return;
    }
    const step = steps[e.key];
    if (!step) return;
    e.preventDefault();
    const to = {
      column: Math.min(columns.length - 1, Math.max(0, column + step[0])),
      row: Math.min(rows.length - 1, Math.max(0, row + step[1])),
    };
    const next = keyAt(to.column, to.row);
    if (e.shiftKey) paint([key, next], painted.has(key));
    setAt(to);
    cells.current.get(next)?.focus();
  };
  const all = (keys: readonly string[]) => paint(keys, !keys.every((key) => painted.has(key)));
  return (
    <Group label={label} {...(help && { help })} error={error} {...(id && { id })}>
      <chakra.div overflowX="auto" maxWidth="100%" onPointerUp={() => (drawing.current = null)}>
        <chakra.table
          aria-label={label}
          width="auto"
          minWidth="0"
          borderSpacing="0"
          borderCollapse="collapse"
          css={{
            '& td, & th': { padding: 0, border: 0, fontWeight: 400 },
            '& th[scope=col]': { minWidth: columns.length > 4 ? '36px' : '96px', textAlign: 'center' },
            '& th[scope=col] button': { padding: '2px' },
            '& th[scope=row]': { textAlign: 'right' },
          }}
        >
          <thead>
            <tr>
              <td />
              {columns.map((c) => (
                <th key={c.key} scope="col">
                  <Line
                    type="button"
                    aria-label={c.full}
                    onClick={() => all(rows.map((r) => cellKey(c.key, r.key)))}
                  >
                    {c.label}
                  </Line>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map((r, row) => (
              <tr key={r.key}>
                <th scope="row">
                  <Line
                    type="button"
                    aria-label={r.full}
                    className="num"
                    onClick={() => all(columns.map((c) => cellKey(c.key, r.key)))}
                  >
                    {r.label}
                  </Line>
                </th>
                {columns.map((c, column) => {
                  const key = cellKey(c.key, r.key);
                  return (
                    <td key={key}>
                      <Cell
                        type="button"
                        ref={(el: HTMLButtonElement | null) => {
                          if (el) cells.current.set(key, el);
                          else cells.current.delete(key);
                        }}
                        aria-pressed={painted.has(key)}
                        aria-label={`${c.full}, ${r.full}`}
                        tabIndex={at.column === column && at.row === row ? 0 : -1}
                        onFocus={() => setAt({ column, row })}
                        onPointerDown={(e) => begin(e, key)}
                        onPointerEnter={(e) => over(e, key)}
                        onKeyDown={(e) => onKey(e, column, row)}
                      />
                    </td>
                  );
                })}
              </tr>
            ))}
          </tbody>
        </chakra.table>
      </chakra.div>
    </Group>
  );
}
