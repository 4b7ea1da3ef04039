import { chakra } from '@chakra-ui/react';
import { useEffect, useState } from 'react';
import type { Channel } from '#core/messages/channels.ts';
import type { Answer } from '#web/api.ts';
import { Button } from '../../kit/Button.tsx';
import { ChoiceField } from '../../kit/Field.tsx';
import { ListViews } from '../../kit/ListViews.tsx';
import { phrase } from '../../words/phrase.ts';
import { AsSent } from '../AsSent.tsx';

/** Milliseconds without typing after which it is drawn anew. */
const pause = 500;

interface Drawn
  extends Pick<
    Answer<'POST /api/events/:id/lines/preview'>,
    'key' | 'people' | 'subject' | 'text' | 'html'
  > {}

/** A line as it is being written, as one of its people would get it, in their language. */
export function DraftSeen<L extends { channel: Channel }>({
  line,
  draw,
  drawn: { data, problem, isError },
}: {
  line: L;
  /** Asks for it as somebody would get it, the first of them where nobody is named. It stays the same. */
  draw: (line: L, key: string | null) => void;
  drawn: { data: Drawn | undefined; problem: { message: string } | null; isError: boolean };
}) {
  const [open, setOpen] = useState(false);
  const [key, setKey] = useState<string | null>(null);
  const [width, setWidth] = useState<'phone' | 'desk'>('phone');
  const text = JSON.stringify(line);
  useEffect(() => {
    if (!open) return;
    const soon = setTimeout(() => draw(JSON.parse(text) as L, key), pause);
    return () => clearTimeout(soon);
  }, [open, text, key, draw]);
  if (!open)
    return (
      <Button onClick={() => setOpen(true)} look="plain">
        {phrase('messages.seeIt')}
      </Button>
    );
  return (
    <chakra.section aria-label={phrase('messages.asTheyGetIt')} marginTop="8px">
      <chakra.div className="spread" gap="10px" flexWrap="wrap">
        <chakra.div minWidth="220px">
          <ChoiceField
            label={phrase('messages.seenBy')}
            value={data?.key ?? ''}
            set={setKey}
            choices={
              data?.people.length
                ? data.people.map((p) => ({ value: p.key, label: p.name }))
                : [{ value: '', label: phrase('messages.madeUp') }]
            }
          />
        </chakra.div>
        {line.channel === 'email' && (
          <ListViews
            label={phrase('messages.width')}
            value={width}
            set={setWidth}
            views={[
              { value: 'phone', label: phrase('messages.onPhone') },
              { value: 'desk', label: phrase('messages.onDesk') },
            ]}
          />
        )}
      </chakra.div>
      {isError && <p className="late">{problem?.message}</p>}
      {data && !isError && (
        <AsSent message={{ ...data, body: data.text }} width={width === 'phone' ? '390px' : '100%'} />
      )}
    </chakra.section>
  );
}
