import { Toaster as ChakraToaster, createToaster, Toast } from '@chakra-ui/react';

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
    <ChakraToaster toaster={toaster}>
      {(toast) => (
        <Toast.Root
          style={{
            background: 'var(--ink)',
            color: 'var(--paper)',
            borderRadius: 3,
            padding: '8px 14px',
            fontSize: 14,
            boxShadow: 'none',
            width: 'fit-content',
            maxWidth: 620,
            display: 'flex',
            gap: 14,
            alignItems: 'center',
          }}
        >
          <Toast.Title style={{ fontWeight: 400 }}>{toast.title}</Toast.Title>
          {toast.action && (
            <Toast.ActionTrigger asChild>
              <button type="button" className="link" style={{ textDecoration: 'underline' }}>
                {toast.action.label}
              </button>
            </Toast.ActionTrigger>
          )}
        </Toast.Root>
      )}
    </ChakraToaster>
  );
}
