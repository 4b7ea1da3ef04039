import { Dialog, Portal } from '@chakra-ui/react';
import type { ReactNode } from 'react';

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
    <Dialog.Root
      open={open}
      onOpenChange={(d) => !d.open && close()}
      placement="top"
      motionPreset="none"
      lazyMount
      unmountOnExit
    >
      <Portal>
        <Dialog.Backdrop style={{ background: 'rgb(0 0 0 / 0.28)' }} />
        <Dialog.Positioner>
          <Dialog.Content
            style={{
              background: 'var(--sheet)',
              color: 'var(--ink)',
              border: '1px solid var(--rule)',
              borderRadius: 3,
              padding: '18px 22px',
              marginTop: '9vh',
              maxWidth: wide ? 760 : 480,
              width: '100%',
              boxShadow: 'none',
            }}
          >
            <Dialog.Title asChild>
              <h2 style={{ marginBottom: 10 }}>{title}</h2>
            </Dialog.Title>
            {children}
            <div className="acts asked">
              {actions}
              <button type="button" className="btn plain" onClick={close}>
                Close
              </button>
            </div>
          </Dialog.Content>
        </Dialog.Positioner>
      </Portal>
    </Dialog.Root>
  );
}
