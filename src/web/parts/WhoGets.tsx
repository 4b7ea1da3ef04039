import { chakra, type SystemStyleObject } from '@chakra-ui/react';
import type { WhoGets as Gets } from '#contract/mailings.ts';
import { Phrase } from '#web/words/Phrase.tsx';
import { phrase } from '#web/words/phrase.ts';
import { AsSent } from './AsSent.tsx';
import { sayCount } from './saying.ts';

const look: SystemStyleObject = {
  marginTop: '10px',
  paddingTop: '8px',
  borderTop: '1px solid var(--line)',
  fontSize: '14px',
  '& details': { marginTop: '6px' },
  '& summary': { cursor: 'pointer', color: 'var(--verdigris)' },
};

/** Who would get what is being written: how many copies go out, who gets none and why, and how the first of them reads it. */
export function WhoGets({ planned, leftOut, sample }: Gets) {
  return (
    <chakra.div css={look} role="status">
      <p>
        <Phrase
          of="contacts.copiesGoOut"
          with={{ count: planned, number: <b className="num">{sayCount(planned)}</b> }}
        />
      </p>
      {leftOut.map((l) => (
        <p key={l.why} className="soft">
          <span className="num">{l.people}</span>{' '}
          {phrase('contacts.leftOut', { why: l.why, names: l.names.join(', ') })}
          {l.people > l.names.length && ' …'}
        </p>
      ))}
      {sample && (sample.subject || sample.body.trim()) && (
        <details>
          <summary>{phrase('contacts.asGetsIt', { name: sample.name })}</summary>
          <AsSent message={{ ...sample, html: sample.html ?? null }} width="390px" />
        </details>
      )}
    </chakra.div>
  );
}
