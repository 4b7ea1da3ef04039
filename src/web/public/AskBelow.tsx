import { chakra } from '@chakra-ui/react';
import { type ReactNode, Suspense, useState } from 'react';
import { Say, Soft } from './parts.tsx';

/** A form that comes when it is opened, below what it is about, and gives way to thanks once it was sent. */
export function AskBelow({
  title,
  about,
  thanks,
  form,
}: {
  title: string;
  /** What comes of it. */
  about?: string;
  thanks: string;
  /** Drawn once opened: most who read a page ask nothing, and need not load how. */
  form: (done: () => void) => ReactNode;
}) {
  const [opened, setOpened] = useState(false);
  const [sent, setSent] = useState(false);
  if (sent)
    return (
      <Say tone="good" role="status">
        {thanks}
      </Say>
    );
  return (
    <details onToggle={(e) => e.currentTarget.open && setOpened(true)}>
      <chakra.summary cursor="pointer" color="verdigris" marginBottom="8px">
        {title}
      </chakra.summary>
      {about && <Soft marginBottom="8px">{about}</Soft>}
      {opened && <Suspense>{form(() => setSent(true))}</Suspense>}
    </details>
  );
}
