import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { Button } from '../kit/Button.tsx';
import { useAction, useAsk, useMayChangeContacts } from '../parts/ask.ts';

/** The tags of one contact, added and taken off in place. */
export function Tags({ id, tags }: { id: string; tags: readonly string[] }) {
  const may = useMayChangeContacts();
  const [typed, setTyped] = useState<string | null>(null);
  const known = useAsk('GET /api/tags', { enabled: typed !== null }).data ?? [];
  const change = useAction('POST /api/tags', () => setTyped(null));
  const put = (tag: string, remove: boolean) => change.mutate({ body: { tag, ids: [id], remove } });
  return (
    <p className="tags">
      {tags.map((t) => (
        <span key={t} className="tag">
          {t}
          {may && (
            <button type="button" aria-label={`Take off the tag ${t}`} onClick={() => put(t, true)}>
              ×
            </button>
          )}
        </span>
      ))}
      {!may ? null : typed === null ? (
        <Button look="link" onClick={() => setTyped('')}>
          Add a tag
        </Button>
      ) : (
        <>
          <chakra.input
            // The field was asked for just now.
            autoFocus
            list="known-tags"
            aria-label="New tag"
            value={typed}
            width="140px"
            padding="2px 6px"
            onChange={(e) => setTyped(e.target.value)}
            onBlur={() => !typed && setTyped(null)}
            onKeyDown={(e) => {
              if (e.key === 'Enter' && typed.trim()) put(typed, false);
              else if (e.key === 'Escape') setTyped(null);
              else return;
              e.preventDefault();
              e.stopPropagation();
            }}
          />
          <datalist id="known-tags">
            {known.map((t) => (
              <option key={t.tag} value={t.tag} />
            ))}
          </datalist>
        </>
      )}
    </p>
  );
}
