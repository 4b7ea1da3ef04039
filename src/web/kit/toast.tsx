import { Toaster as ChakraToaster, createToaster, Toast } from '@chakra-ui/react';
import { useKitWords } from './words.ts';

const toaster = createToaster({ placement: 'bottom', pauseOnPageIdle: true, max: 3 });

/** Says shortly what was done, with a way back where there is one. */
export function say(title: string, undo?: { label: string; run: () => void }): void {
  toaster.create({
    title,
    duration: undo ? 9000 : 4000,
    ...(undo ? { action: { label: undo.label, onClick: undo.run } } : {}),
  });
}

export function Toasts() {
  return (
    <ChakraToaster toaster={toaster} aria-label={useKitWords().notices}>
      {(toast) => (
        <Toast.Root>
          <Toast.Title>{toast.title}</Toast.Title>
          {toast.action && (
            <Toast.ActionTrigger whiteSpace="nowrap" flexShrink={0}>
              {toast.action.label}
            </Toast.ActionTrigger>
          )}
        </Toast.Root>
      )}
    </ChakraToaster>
  );
}
