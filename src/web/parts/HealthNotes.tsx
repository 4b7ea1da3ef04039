import { Loaded } from '../kit/notices.tsx';
import { useAsk } from './ask.ts';

/** What has to be known about the health of somebody who is registered; that it was read is written down. */
export function HealthNotes({ registrationId }: { registrationId: string }) {
  const care = useAsk('GET /api/registrations/:id/care', { params: { id: registrationId } });
  return (
    <Loaded of={care}>
      {({ notes }) => (
        <>
          {notes.map((n) => (
            <p key={n} className="need">
              {n}
            </p>
          ))}
        </>
      )}
    </Loaded>
  );
}
