import { useEffect } from 'react';
import { useBlocker } from 'react-router';
import { Asking } from './Asking.tsx';
import { Button } from './Button.tsx';
import { useKitWords } from './words.ts';

/** Asks before a page is left on which something was typed that would be lost; also where the tab is closed. */
export function Leaving({ loses }: { loses: () => boolean }) {
  const words = useKitWords();
  const blocker = useBlocker(
    ({ currentLocation, nextLocation }) => currentLocation.pathname !== nextLocation.pathname && loses(),
  );
  useEffect(() => {
    const stay = (e: BeforeUnloadEvent) => {
      if (loses()) e.preventDefault();
    };
    addEventListener('beforeunload', stay);
    return () => removeEventListener('beforeunload', stay);
  }, [loses]);
  if (blocker.state !== 'blocked') return null;
  return (
    <Asking
      open
      title={words.leaveTitle}
      close={() => blocker.reset()}
      closeWords={words.stay}
      actions={
        <Button look="stop" onClick={() => blocker.proceed()}>
          {words.leave}
        </Button>
      }
    >
      <p>{words.leaveText}</p>
    </Asking>
  );
}
