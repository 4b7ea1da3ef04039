import { useCallback } from 'react';
import type { MessageLinePlan } from '#contract/plan.ts';
import { useAction } from '../../parts/ask.ts';
import { DraftSeen } from '../../parts/lines/DraftSeen.tsx';

/** A line of an event as it is being written. */
export function DraftPreview({ eventId, line }: { eventId: string; line: MessageLinePlan }) {
  const { mutate, ...drawn } = useAction('POST /api/events/:id/lines/preview');
  const draw = useCallback(
    (line: MessageLinePlan, key: string | null) =>
      mutate({ params: { id: eventId }, body: { line, ...(key && { key }) } }),
    [mutate, eventId],
  );
  return <DraftSeen line={line} draw={draw} drawn={drawn} />;
}
