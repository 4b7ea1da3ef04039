import type { Answer } from '#web/api.ts';
import { Note } from '#web/kit/Note.tsx';
import { phrase } from '#web/words/phrase.ts';

/** Whom a change of a shift concerns, and what speaks against each of them as it will be. */
export function Affected({ on }: { on: Answer<'PUT /api/shifts/:id'>['on'] }) {
  const against = on.filter((p) => p.against.length > 0);
  if (!on.length) return null;
  return (
    <Note tone={against.length ? 'need' : 'know'} role="status">
      <p>{phrase('crew.onItAre', { who: on.map((p) => p.name).join(', ') })}</p>
      {against.map((p) => (
        <p key={p.contactId}>
          <b>{p.name}:</b> {p.against.map((a) => a.text).join('; ')}
        </p>
      ))}
    </Note>
  );
}
