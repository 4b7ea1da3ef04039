import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { askAnewAfter } from '#web/topics.ts';
import { putMark, sendWaiting, setOffline, useOutbox } from './outbox.ts';

/** Seconds between tries to send what waits. */
const everySeconds = 5;

/** Sends what waits on this device as long as a door is open: at once, when the network comes back, and every so often. */
export function useSending(): void {
  const client = useQueryClient();
  useEffect(() => {
    const go = () => {
      const { marks, requests } = useOutbox.getState();
      if ([...marks, ...requests].some((m) => m.refused === null && !('stopped' in m)))
        void sendWaiting().then(() => askAnewAfter(client, 'POST /api/registrations/:id/attendance'));
    };
    const lost = () => setOffline(true);
    const back = () =>
      void sendWaiting().then(() => askAnewAfter(client, 'POST /api/registrations/:id/attendance'));
    void sendWaiting();
    const timer = setInterval(go, everySeconds * 1000);
    window.addEventListener('online', back);
    window.addEventListener('offline', lost);
    return () => {
      clearInterval(timer);
      window.removeEventListener('online', back);
      window.removeEventListener('offline', lost);
    };
  }, [client]);
}

/** A door: of an event, or of one of its sessions. */
export interface DoorAt {
  eventId: string;
  sessionId: string | null;
}

/** Marks one person at this door; answers the id of the mark where it counts. `refused` says why the server did not take the last one. */
export function useMark({ eventId, sessionId }: DoorAt) {
  const client = useQueryClient();
  const [pending, setPending] = useState(false);
  const [refused, setRefused] = useState<string | null>(null);
  const mark = async (
    of: { registrationId: string; name: string; undo: string[] },
    state: 'expected' | 'arrived' | 'left',
    despite = '',
    handedTo = '',
  ): Promise<string | null> => {
    setPending(true);
    const { undo, ...who } = of;
    const { id, refused: why } = await putMark({
      eventId,
      ...who,
      state,
      despite,
      sessionId,
      handedTo,
      undoes: state === 'expected' ? undo : [],
    });
    setRefused(why);
    setPending(false);
    void askAnewAfter(client, 'POST /api/registrations/:id/attendance');
    return why === null ? id : null;
  };
  return { mark, pending, refused, clear: () => setRefused(null) };
}
