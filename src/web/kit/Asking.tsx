import { Dialog, Portal } from '@chakra-ui/react';
import type { ReactNode } from 'react';
import { Button } from '#web/kit/Button.tsx';

/** A dialog with a title, its contents and its actions. Escape and a click beside it close it. */
export function Asking({
  open,
  close,
  title,
  children,
  actions,
  wide = false,
}: {
  open: boolean;
  close: () => void;
  title: string;
  children: ReactNode;
  actions: ReactNode;
  wide?: boolean;
}) {
  return (
    <Dialog.Root open={open} onOpenChange={(d) => !d.open && close()} lazyMount unmountOnExit>
      <Portal>
        <Dialog.Backdrop />
        <Dialog.Positioner>
          <Dialog.Content maxWidth={wide ? '760px' : '480px'}>
            <Dialog.Title>{title}</Dialog.Title>
            {children}
            <div className="acts asked">
              {actions}
              <Button look="plain" onClick={close}>
                Close
              </Button>
            </div>
          </Dialog.Content>
        </Dialog.Positioner>
      </Portal>
    </Dialog.Root>
  );
}
