import { Combobox, chakra, createListCollection, type SystemStyleObject } from '@chakra-ui/react';
import { useDeferredValue, useMemo, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { sayShortDate } from '#core/time/say.ts';
import { phrase, term } from '#web/words/phrase.ts';
import { useAsk, useMe } from '../parts/ask.ts';
import { useInterface, useRecent } from './state.ts';

const findLook: SystemStyleObject = {
  marginLeft: 'auto',
  width: '240px',
  position: 'relative',
  '& input': { fontSize: '14px', padding: '4px 30px 4px 9px' },
  '& kbd': { position: 'absolute', right: '7px', top: '6px' },
  '@media (max-width: 900px)': {
    flex: 1,
    width: 'auto',
    minWidth: 0,
    '& kbd': { display: 'none' },
  },
};

type Kind = 'person' | 'recent' | 'event' | 'again';
interface Hit {
  kind: Kind;
  id: string;
  label: string;
  more: string;
}
const headings: Record<Kind, string> = {
  person: phrase('common.people'),
  recent: phrase('shell.openedLast'),
  event: phrase('common.events'),
  again: phrase('season.planItAgain'),
};

/** Finds people and events from anywhere; before anything is typed it has the people opened last. */
export function SearchBox() {
  const [text, setText] = useState('');
  const [open, setOpen] = useState(false);
  const q = useDeferredValue(text.trim());
  const show = useInterface((s) => s.showPerson);
  const plans = useMe().data?.staff.roles.some((r) => r === 'coordinator' || r === 'unit lead') ?? false;
  const { people: recent, remember } = useRecent();
  const navigate = useNavigate();
  const box = useRef<HTMLInputElement>(null);
  const found = useAsk('GET /api/search', { query: { q }, enabled: q.length > 0 }).data;
  const collection = useMemo(() => {
    const hits: Hit[] = q
      ? [
          ...(found?.contacts ?? []).map(
            (c): Hit => ({
              kind: 'person',
              id: c.id,
              label: `${c.given} ${c.family}`.trim(),
              more: c.email ?? c.phone ?? '',
            }),
          ),
          ...(found?.events ?? []).map(
            (e): Hit => ({
              kind: 'event',
              id: e.id,
              label: e.title,
              more: e.startsLocal
                ? `${sayShortDate(e.startsLocal)} ${e.startsLocal.slice(0, 4)}`
                : term(e.state),
            }),
          ),
          // The newest of each title, for whoever plans.
          ...(plans ? (found?.events ?? []) : [])
            .filter((e, at, all) => all.findIndex((x) => x.title === e.title) === at)
            .slice(0, 3)
            .map(
              (e): Hit => ({
                kind: 'again',
                id: e.id,
                label: phrase('season.planAgain', { title: e.title }),
                more: '',
              }),
            ),
        ]
      : recent.map((p): Hit => ({ kind: 'recent', ...p }));
    return createListCollection({
      items: hits,
      itemToString: (h) => h.label,
      itemToValue: (h) => `${h.kind}-${h.id}`,
      groupBy: (h) => h.kind,
    });
  }, [q, found, recent, plans]);
  const choose = (hit: Hit | undefined) => {
    if (!hit) return;
    setOpen(false);
    setText('');
    if (hit.kind === 'again') navigate(`/season?again=${hit.id}`);
    else if (hit.kind === 'event') navigate(`/events/${hit.id}/plan`);
    else {
      remember({ id: hit.id, label: hit.label, more: hit.more });
      show(hit.id);
    }
  };
  return (
    <chakra.search css={findLook}>
      <Combobox.Root
        collection={collection}
        open={open && (q !== '' || collection.size > 0)}
        onOpenChange={(d) => setOpen(d.open)}
        inputValue={text}
        onInputValueChange={(d) => d.reason === 'input-change' && setText(d.inputValue)}
        value={[]}
        onValueChange={(d) => choose(d.items[0])}
        selectionBehavior="preserve"
        inputBehavior="autohighlight"
        openOnClick
        ids={{ input: 'search' }}
        positioning={{ placement: 'bottom-end', sameWidth: false, overflowPadding: 8 }}
      >
        <Combobox.Control>
          <Combobox.Input
            ref={box}
            placeholder={phrase('shell.findAnyoneOrAnything')}
            aria-label={phrase('shell.findAnyoneOrAnything')}
            title={phrase('shell.search')}
            onFocus={() => setOpen(true)}
            onKeyDown={(e) => {
              // The key that leads here leads nowhere else; one that leaves goes on to the page, where keys are heard.
              if (e.key === '/' && !text) {
                e.preventDefault();
                setOpen(true);
              } else if (e.key === 'Escape' && !open) box.current?.blur();
            }}
          />
        </Combobox.Control>
        <kbd>/</kbd>
        <Combobox.Positioner>
          <Combobox.Content
            aria-label={phrase('shell.found')}
            width={{ base: 'min(360px, calc(100vw - 24px))', lg: '400px' }}
            maxHeight="70vh"
          >
            {q && collection.size === 0 && (
              <Combobox.Empty>
                {found ? phrase('shell.nobodyAndNothingFound', { q }) : phrase('shell.looking')}
              </Combobox.Empty>
            )}
            {collection.group().map(([kind, hits]) => (
              <Combobox.ItemGroup key={kind}>
                <Combobox.ItemGroupLabel color="soft" fontSize="small" padding="4px 12px 2px">
                  {headings[kind as Kind]}
                </Combobox.ItemGroupLabel>
                {hits.map((hit) => (
                  <Combobox.Item key={hit.id} item={hit} flexWrap="wrap" rowGap="0">
                    <span className="name">{hit.label}</span>
                    <chakra.span color="soft" textStyle="figures" overflowWrap="anywhere">
                      {hit.more}
                    </chakra.span>
                  </Combobox.Item>
                ))}
              </Combobox.ItemGroup>
            ))}
          </Combobox.Content>
        </Combobox.Positioner>
      </Combobox.Root>
    </chakra.search>
  );
}
