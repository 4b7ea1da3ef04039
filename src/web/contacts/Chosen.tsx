import { useState } from 'react';
import { addressOf } from '#web/api.ts';
import { useAsk, useDo } from '../parts/ask.ts';
import { Problems } from '../parts/notices.tsx';
import { say } from '../parts/toast.tsx';

/** What can be done with several contacts at once. */
export function Chosen({ ids, clear }: { ids: readonly string[]; clear: () => void }) {
  const [tag, setTag] = useState('');
  const tags = useAsk('GET /api/tags').data ?? [];
  const undo = useDo('POST /api/tags', () => say('As it was before.'));
  const change = useDo('POST /api/tags');
  const run = (remove: boolean) => {
    const clean = tag.trim().toLowerCase();
    change.mutate(
      { body: { tag: clean, ids: [...ids], remove } },
      {
        onSuccess: ({ changed }) => {
          setTag('');
          say(
            changed.length === 0
              ? remove
                ? `None of them has “${clean}”.`
                : `All of them have “${clean}” already.`
              : `“${clean}” ${remove ? 'taken off' : 'added to'} ${changed.length} ${changed.length === 1 ? 'contact' : 'contacts'}.`,
            changed.length
              ? {
                  label: 'Undo',
                  run: () => undo.mutate({ body: { tag: clean, ids: changed, remove: !remove } }),
                }
              : undefined,
          );
        },
      },
    );
  };
  const query = { ids: ids.join(',') };
  return (
    <div className="chosen">
      <b className="num">{ids.length} chosen</b>
      <input
        list="tags"
        value={tag}
        placeholder="a tag"
        aria-label="Tag"
        style={{ width: 150 }}
        onChange={(e) => setTag(e.target.value)}
        onKeyDown={(e) => e.key === 'Enter' && tag.trim() && run(false)}
      />
      <datalist id="tags">
        {tags.map((t) => (
          <option key={t.tag} value={t.tag} />
        ))}
      </datalist>
      <button
        type="button"
        className="btn"
        disabled={!tag.trim() || change.isPending}
        onClick={() => run(false)}
      >
        Add the tag
      </button>
      <button
        type="button"
        className="btn plain"
        disabled={!tag.trim() || change.isPending}
        onClick={() => run(true)}
      >
        Take it off
      </button>
      <a href={addressOf('GET /api/contacts.csv', {}, query)}>CSV</a>
      <a href={addressOf('GET /api/contacts.vcf', {}, query)}>vCard</a>
      <button type="button" className="btn plain" onClick={clear}>
        Choose nobody
      </button>
      <Problems of={change.problem} />
    </div>
  );
}
