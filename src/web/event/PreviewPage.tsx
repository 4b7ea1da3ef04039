import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import type { EventPage } from '#contract/events.ts';
import { phrase } from '#web/words/phrase.ts';
import { Asking } from '../kit/Asking.tsx';
import { Button, ButtonAnchor } from '../kit/Button.tsx';
import { TextField } from '../kit/Field.tsx';
import { ListViews } from '../kit/ListViews.tsx';
import { Loaded, Problems } from '../kit/notices.tsx';
import { say } from '../kit/toast.tsx';
import { useAction, useAsk } from '../parts/ask.ts';

/** The page as the public would see it, on a phone and on a computer, and the link to show it to others. */
export function PreviewPage({ page, close }: { page: EventPage; close: () => void }) {
  const params = { id: page.id };
  const link = useAsk('GET /api/events/:id/preview', { params });
  const make = useAction('POST /api/events/:id/preview');
  const stop = useAction('DELETE /api/events/:id/preview', () => say(phrase('event.previewStopped')));
  const [size, setSize] = useState<'phone' | 'computer'>('phone');
  return (
    <Asking
      open
      wide
      close={close}
      title={phrase('event.preview')}
      actions={
        link.data?.token && (
          <Button look="stop" disabled={stop.isPending} onClick={() => stop.mutate({ params })}>
            {phrase('event.stopPreview')}
          </Button>
        )
      }
    >
      <Problems of={make.problem ?? stop.problem} />
      <Loaded of={link}>
        {({ token }) =>
          token === null ? (
            <>
              <p>{phrase('event.whatAPreviewIs')}</p>
              <Button look="main" disabled={make.isPending} onClick={() => make.mutate({ params })}>
                {phrase('event.makePreview')}
              </Button>
            </>
          ) : (
            <>
              <TextField
                label={phrase('event.previewLink')}
                value={`${location.origin}/p/${token}`}
                set={() => {}}
                readOnly
                help={phrase('event.previewLinkHelp')}
              />
              <chakra.div className="acts" marginBottom="10px">
                <Button
                  onClick={() =>
                    void navigator.clipboard
                      ?.writeText(`${location.origin}/p/${token}`)
                      .then(() => say(phrase('event.linkCopied')))
                  }
                >
                  {phrase('event.copyLink')}
                </Button>
                <ButtonAnchor href={`/p/${token}`} target="_blank" rel="noreferrer">
                  {phrase('event.openPreview')}
                </ButtonAnchor>
                <ListViews
                  label={phrase('event.size')}
                  value={size}
                  set={setSize}
                  views={[
                    { value: 'phone', label: phrase('event.onAPhone') },
                    { value: 'computer', label: phrase('event.onAComputer') },
                  ]}
                />
              </chakra.div>
              <chakra.iframe
                key={size}
                src={`/p/${token}`}
                title={phrase('event.preview')}
                display="block"
                width={size === 'phone' ? '390px' : '100%'}
                maxWidth="100%"
                height="460px"
                margin="0 auto"
                border="1px solid"
                borderColor="rule"
              />
            </>
          )
        }
      </Loaded>
    </Asking>
  );
}
