import { chakra } from '@chakra-ui/react';
import { useRef } from 'react';
import type { Clearance } from '#contract/clearance.ts';
import { base64Of } from '#web/base64.ts';
import { phrase } from '#web/words/phrase.ts';
import { Button } from '../../kit/Button.tsx';
import { Problems } from '../../kit/notices.tsx';
import { useAction } from '../../parts/ask.ts';
import { useSaying } from '../../parts/saying.ts';

/** The papers approvers read: those their steps want, and whatever else was added. */
export function Papers({
  eventId,
  clearance: c,
  mayPlan,
}: {
  eventId: string;
  clearance: Clearance;
  mayPlan: boolean;
}) {
  const { day } = useSaying();
  const wanted = c.steps.flatMap((s) =>
    s.state === 'not needed' ? [] : s.documents.map((d) => ({ ...d, step: s.step })),
  );
  const missing = wanted.filter((d) => !c.papers.some((p) => p.documentId === d.id));
  const add = useAction('POST /api/events/:id/clearance/papers');
  const remove = useAction('DELETE /api/events/:id/clearance/papers/:paper');
  const keep = useAction('POST /api/files');
  const bring = async (file: File, documentId: string | null, label: string) => {
    const kept = await keep.mutateAsync({ body: { name: file.name, content: await base64Of(file) } });
    add.mutate({ params: { id: eventId }, body: { fileId: kept.id, documentId, label } });
  };
  if (!mayPlan && !c.papers.length && !missing.length) return null;
  return (
    <section aria-label={phrase('clearance.papers')}>
      <chakra.h3 marginTop="18px">{phrase('clearance.papers')}</chakra.h3>
      <Problems of={keep.problem ?? add.problem ?? remove.problem} />
      <ul className="lines">
        {c.papers.map((p) => (
          <li key={p.id}>
            <div className="spread">
              <span>
                <a href={`/api/events/${eventId}/clearance/papers/${p.id}`}>{p.label}</a>{' '}
                <chakra.span className="soft" fontSize="14px">
                  {phrase('clearance.broughtBy', { who: p.broughtBy ?? '', at: day(p.at) })}
                </chakra.span>
              </span>
              {mayPlan && (
                <Button look="link" onClick={() => remove.mutate({ params: { id: eventId, paper: p.id } })}>
                  {phrase('clearance.takeOff')}
                </Button>
              )}
            </div>
          </li>
        ))}
        {missing.map((d) => (
          <li key={d.id}>
            <div className="spread">
              <span className="soft">{phrase('clearance.wanted', { name: d.name, step: d.step })}</span>
              {mayPlan && <Bring label={d.name} bring={(file) => void bring(file, d.id, d.name)} />}
            </div>
          </li>
        ))}
      </ul>
      {mayPlan && (
        <>
          {!c.papers.length && !missing.length && <p className="soft">{phrase('clearance.noPapers')}</p>}
          <Bring bring={(file) => void bring(file, null, '')} />{' '}
          <chakra.span className="soft" fontSize="14px">
            {phrase('clearance.paperHelp')}
          </chakra.span>
        </>
      )}
    </section>
  );
}

function Bring({ bring, label }: { bring: (file: File) => void; label?: string }) {
  const input = useRef<HTMLInputElement>(null);
  const words = phrase('clearance.addPaper');
  return (
    <>
      <chakra.input
        ref={input}
        type="file"
        srOnly
        tabIndex={-1}
        aria-label={label ? `${words}: ${label}` : words}
        onChange={(event) => {
          const file = event.currentTarget.files?.[0];
          if (file) bring(file);
          event.currentTarget.value = '';
        }}
      />
      <Button look="plain" onClick={() => input.current?.click()}>
        {words}
      </Button>
    </>
  );
}
