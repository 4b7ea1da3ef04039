import { chakra, type SystemStyleObject } from '@chakra-ui/react';
import { useState } from 'react';
import { InlineText } from '#web/kit/Inline.tsx';
import { phrase } from '#web/words/phrase.ts';
import { Button } from '../kit/Button.tsx';
import { useAction, useAsk, useMayChangeContacts } from '../parts/ask.ts';

const tagLook: SystemStyleObject = {
  border: '1px solid var(--rule)',
  borderRadius: '3px',
  padding: '0 6px',
  '& button': {
    font: 'inherit',
    border: 0,
    background: 'none',
    color: 'var(--soft)',
    cursor: 'pointer',
    padding: '0 0 0 5px',
  },
};
const tagsLook: SystemStyleObject = {
  marginTop: '6px',
  display: 'flex',
  flexWrap: 'wrap',
  gap: '4px 8px',
  alignItems: 'center',
  fontSize: '13.5px',
};

/** The tags of one contact, added and taken off in place. */
export function Tags({ id, tags }: { id: string; tags: readonly string[] }) {
  const may = useMayChangeContacts();
  const [typed, setTyped] = useState<string | null>(null);
  const known = useAsk('GET /api/tags', { enabled: typed !== null }).data ?? [];
  const change = useAction('POST /api/tags', () => setTyped(null));
  const put = (tag: string, remove: boolean) => change.mutate({ body: { tag, ids: [id], remove } });
  return (
    <chakra.p css={tagsLook}>
      {tags.map((t) => (
        <chakra.span key={t} css={tagLook}>
          {t}
          {may && (
            <button
              type="button"
              aria-label={phrase('contacts.takeOffTheTag', { t })}
              onClick={() => put(t, true)}
            >
              ×
            </button>
          )}
        </chakra.span>
      ))}
      {!may ? null : typed === null ? (
        <Button look="link" onClick={() => setTyped('')}>
          {phrase('contacts.addATag')}
        </Button>
      ) : (
        <>
          <InlineText
            // The field was asked for just now.
            autoFocus
            list="known-tags"
            label={phrase('contacts.newTag')}
            value={typed}
            width="140px"
            padding="2px 6px"
            set={setTyped}
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
    </chakra.p>
  );
}
