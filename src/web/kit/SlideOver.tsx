import { Drawer, Portal } from '@chakra-ui/react';
import type { ReactNode } from 'react';

/** Something looked at beside the page, without losing the place. Escape and a click beside it close it. */
export function SlideOver({
  open,
  close,
  label,
  children,
}: {
  open: boolean;
  close: () => void;
  label: string;
  children: ReactNode;
}) {
  return (
    <Drawer.Root open={open} onOpenChange={(d) => !d.open && close()} placement="end" lazyMount unmountOnExit>
      <Portal>
        <Drawer.Backdrop />
        <Drawer.Positioner>
          <Drawer.Content aria-label={label}>{children}</Drawer.Content>
        </Drawer.Positioner>
      </Portal>
    </Drawer.Root>
  );
}
