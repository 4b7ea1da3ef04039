import { useDeferredValue, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { sayShortDate } from '#core/time/say.ts';
import { useAsk } from '../parts/ask.ts';
import { useInterface, useRecent } from './state.ts';

/** Finds people and events from anywhere; arrows and Enter choose. */
export function SearchBox() {
  const [text, setText] = useState('');
  const [open, setOpen] = useState(false);
  const [at, setAt] = useState(0);
  const q = useDeferredValue(text.trim());
  const show = useInterface((s) => s.showPerson);
  const { people: recent, remember } = useRecent();
  const navigate = useNavigate();
  const box = useRef<HTMLInputElement>(null);
  const found = useAsk('GET /api/search', { query: { q }, enabled: q.length > 0 }).data;
  const hits =
    q && found
      ? [
          ...found.contacts.map((c) => ({
            kind: 'person' as const,
            id: c.id,
            label: `${c.given} ${c.family}`.trim(),
            more: c.email ?? c.phone ?? '',
          })),
          ...found.events.map((e) => ({
            kind: 'event' as const,
            id: e.id,
            label: e.title,
            more: e.startsLocal ? `${sayShortDate(e.startsLocal)} ${e.startsLocal.slice(0, 4)}` : e.state,
          })),
        ]
      : q
        ? []
        : recent.map((p) => ({ kind: 'recent' as const, ...p }));
  const choose = (hit: (typeof hits)[number] | undefined) => {
    if (!hit) return;
    setOpen(false);
    setText('');
    box.current?.blur();
    if (hit.kind === 'person' || hit.kind === 'recent') {
      remember({ id: hit.id, label: hit.label, more: hit.more });
      show(hit.id);
    } else navigate(`/events/${hit.id}/plan`);
  };
  return (
    <search className="find">
      <input
        id="search"
        ref={box}
        value={text}
        placeholder="Find anyone or anything"
        aria-label="Find anyone or anything"
        title="Search (/)"
        role="combobox"
        aria-expanded={open && hits.length > 0}
        aria-controls="found"
        aria-activedescendant={hits[at] ? `hit-${at}` : undefined}
        autoComplete="off"
        onChange={(e) => {
          setText(e.target.value);
          setOpen(true);
          setAt(0);
        }}
        onFocus={() => setOpen(true)}
        onBlur={() => setTimeout(() => setOpen(false), 150)}
        onKeyDown={(e) => {
          if (e.key === 'ArrowDown') setAt((n) => Math.min(hits.length - 1, n + 1));
          else if (e.key === 'ArrowUp') setAt((n) => Math.max(0, n - 1));
          else if (e.key === 'Enter') choose(hits[at]);
          else if (e.key === 'Escape') box.current?.blur();
          else return;
          e.preventDefault();
        }}
      />
      <kbd>/</kbd>
      {open && (q || hits.length > 0) && (
        <div className="found" id="found" role="listbox" aria-label="Found" tabIndex={-1}>
          {q && hits.length === 0 && (
            <div className="head">{found ? `Nobody and nothing found for “${q}”.` : 'Looking …'}</div>
          )}
          {hits.map((hit, n) => (
            <div key={hit.id}>
              {(n === 0 || hits[n - 1]!.kind !== hit.kind) && (
                <div className="head">
                  {hit.kind === 'person' ? 'People' : hit.kind === 'recent' ? 'Opened last' : 'Events'}
                </div>
              )}
              <button
                type="button"
                role="option"
                id={`hit-${n}`}
                aria-selected={n === at}
                tabIndex={-1}
                onMouseDown={(e) => e.preventDefault()}
                onClick={() => choose(hit)}
              >
                <span className="name">{hit.label}</span>
                <span className="soft num">{hit.more}</span>
              </button>
            </div>
          ))}
        </div>
      )}
    </search>
  );
}
