import { chakra, Popover, Portal } from '@chakra-ui/react';
import { ArrowDown, ArrowUp, Minus, Plus } from 'lucide-react';
import { inOrder, leastWidth, moved, useArranged } from './arranging.ts';
import { Button } from './Button.tsx';
import { Tick } from './Choosing.tsx';
import { useKitWords } from './words.ts';

/** Which columns of a table are shown and in which order; how it is arranged is kept on the device. */
export function TableColumns({
  name,
  columns,
  usuallyHidden = [],
}: {
  name: string;
  columns: readonly { id: string; heading: string }[];
  usuallyHidden?: readonly string[];
}) {
  const words = useKitWords();
  const { order, hidden, widths, changed, put, reset } = useArranged(name, usuallyHidden);
  // One without a heading holds what can be done with a row: it stays.
  const movable = inOrder(columns, order)
    .slice(1)
    .filter((c) => c.heading);
  const ids = movable.map((c) => c.id);
  const widen = (id: string, by: number) => {
    const shown = document.querySelector<HTMLElement>(`[data-table="${name}"] th[data-column="${id}"]`);
    if (shown) put({ widths: { ...widths, [id]: Math.max(leastWidth, shown.offsetWidth + by) } });
  };
  return (
    <Popover.Root positioning={{ placement: 'bottom-start' }} lazyMount unmountOnExit>
      <Popover.Trigger asChild>
        <Button look="plain" hideBelow="md">
          {words.columns}
        </Button>
      </Popover.Trigger>
      <Portal>
        <Popover.Positioner>
          <Popover.Content aria-label={words.columns}>
            {movable.map((c, at) => (
              <chakra.div key={c.id} display="flex" gap="4px" alignItems="center">
                <chakra.span flex="1" minWidth="150px">
                  <Tick
                    checked={!hidden.includes(c.id)}
                    set={(shown) =>
                      put({ hidden: shown ? hidden.filter((h) => h !== c.id) : [...hidden, c.id] })
                    }
                  >
                    {c.heading}
                  </Tick>
                </chakra.span>
                {(
                  [
                    [words.earlier(c.heading), ArrowUp, at === 0, () => put({ order: moved(ids, c.id, -1) })],
                    [
                      words.later(c.heading),
                      ArrowDown,
                      at === movable.length - 1,
                      () => put({ order: moved(ids, c.id, 1) }),
                    ],
                    [words.narrower(c.heading), Minus, hidden.includes(c.id), () => widen(c.id, -16)],
                    [words.wider(c.heading), Plus, hidden.includes(c.id), () => widen(c.id, 16)],
                  ] as const
                ).map(([label, Icon, off, run]) => (
                  <Button
                    key={label}
                    look="plain"
                    aria-label={label}
                    title={label}
                    disabled={off}
                    onClick={run}
                  >
                    <Icon size={14} aria-hidden />
                  </Button>
                ))}
              </chakra.div>
            ))}
            <Button look="plain" disabled={!changed} onClick={reset}>
              {words.asUsual}
            </Button>
          </Popover.Content>
        </Popover.Positioner>
      </Portal>
    </Popover.Root>
  );
}
