import { Dialog, Portal } from '@chakra-ui/react';
import { type ReactNode, useState } from 'react';
import { Button } from '#web/kit/Button.tsx';
import { useKitWords } from './words.ts';

/** A dialog with a title, its contents and its actions. Escape and a click beside it close it. */
export function Asking({
  open,
  close,
  title,
  children,
  actions,
  wide = false,
  dirty = false,
  discard,
  closeWords,
}: {
  open: boolean;
  close: () => void;
  title: string;
  children: ReactNode;
  actions: ReactNode;
  wide?: boolean;
  /** Something was typed that would be lost: closing asks first. */
  dirty?: boolean;
  discard?: () => void;
  /** What the button says that closes it. */
  closeWords?: string;
}) {
  const words = useKitWords();
  const [leaving, setLeaving] = useState(false);
  const leave = () => (dirty ? setLeaving(true) : close());
  return (
    <Dialog.Root open={open} onOpenChange={(d) => !d.open && leave()} lazyMount unmountOnExit>
      <Portal>
        <Dialog.Backdrop />
        <Dialog.Positioner>
          <Dialog.Content maxWidth={wide ? '760px' : '480px'}>
            <Dialog.Title>{title}</Dialog.Title>
            {children}
            {leaving ? (
              <div className="acts asked" role="alert">
                <span>
                  {words.leaveTitle} {words.leaveText}
                </span>
                <Button
                  look="stop"
                  onClick={() => {
                    discard?.();
                    close();
                  }}
                >
                  {words.leave}
                </Button>
                <Button onClick={() => setLeaving(false)}>{words.stay}</Button>
              </div>
            ) : (
              <div className="acts asked">
                {actions}
                <Button look="plain" onClick={leave}>
                  {closeWords ?? (dirty ? words.cancel : words.close)}
                </Button>
              </div>
            )}
          </Dialog.Content>
        </Dialog.Positioner>
      </Portal>
    </Dialog.Root>
  );
}
