import { Menu as ChakraMenu, chakra, Portal } from '@chakra-ui/react';
import type { ReactElement } from 'react';

/** One thing a menu offers. */
export interface MenuEntry {
  label: string;
  run: () => void;
  /** The key that does the same. */
  shortcut?: string;
  /** The menu stays open, as where something is switched. */
  stays?: boolean;
}

/** What a button opens: a few things that can be done, by arrows and Enter as well. */
export function Menu({
  trigger,
  heading,
  entries,
  end = false,
}: {
  /** The button. */
  trigger: ReactElement;
  heading?: string;
  entries: readonly MenuEntry[];
  /** Whether it stands under the right end of the button. */
  end?: boolean;
}) {
  const items = entries.map((e, at) => (
    <ChakraMenu.Item key={at} value={String(at)} closeOnSelect={!e.stays} onClick={e.run}>
      {e.label} {e.shortcut && <chakra.kbd marginLeft="8px">{e.shortcut}</chakra.kbd>}
    </ChakraMenu.Item>
  ));
  return (
    <ChakraMenu.Root positioning={{ placement: end ? 'bottom-end' : 'bottom-start' }}>
      <ChakraMenu.Trigger asChild>{trigger}</ChakraMenu.Trigger>
      <Portal>
        <ChakraMenu.Positioner>
          <ChakraMenu.Content>
            {heading ? (
              <ChakraMenu.ItemGroup>
                <ChakraMenu.ItemGroupLabel>{heading}</ChakraMenu.ItemGroupLabel>
                {items}
              </ChakraMenu.ItemGroup>
            ) : (
              items
            )}
          </ChakraMenu.Content>
        </ChakraMenu.Positioner>
      </Portal>
    </ChakraMenu.Root>
  );
}
