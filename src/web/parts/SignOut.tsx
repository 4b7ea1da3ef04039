import { useQueryClient } from '@tanstack/react-query';
import { useNavigate } from 'react-router';
import { Button } from '#web/kit/Button.tsx';
import { phrase } from '#web/words/phrase.ts';
import { forgetDrafts } from '../kit/form/drafts.ts';
import { useRecent } from '../shell/state.ts';
import { useAction } from './ask.ts';

/** Ends the session on this device and forgets what it showed. */
export function useSignOut(): () => void {
  const navigate = useNavigate();
  const client = useQueryClient();
  const signOut = useAction('POST /api/sign-out', () => {
    client.clear();
    // Whose records were looked at is nobody's business who signs in next.
    useRecent.getState().forget();
    forgetDrafts();
    // Nor is the list that was taken along from a door.
    void import('../door/taken.ts').then(({ letGo }) => letGo());
    navigate('/sign-in', { replace: true });
  });
  return () => signOut.mutate({});
}

export function SignOut() {
  const signOut = useSignOut();
  return (
    <Button look="plain" onClick={signOut}>
      {phrase('common.signOut')}
    </Button>
  );
}
