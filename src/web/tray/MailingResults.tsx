import { chakra } from '@chakra-ui/react';
import { followingDays } from '#core/messages/mailing.ts';
import { saidIn } from '#core/messages/said.ts';
import { plainText } from '#core/text/doc.ts';
import { Asking } from '../kit/Asking.tsx';
import { Button } from '../kit/Button.tsx';
import { Facts } from '../kit/Facts.tsx';
import { Loaded, Problems } from '../kit/notices.tsx';
import { say } from '../kit/toast.tsx';
import { Letter } from '../parts/AsSent.tsx';
import { useAction, useAsk } from '../parts/ask.ts';
import { sayCount, useSaying } from '../parts/saying.ts';
import { phrase } from '../words/phrase.ts';

/** What a mailing says, and what came of it; what has not gone out can be stopped. */
export function MailingResults({ id, close }: { id: string; close: () => void }) {
  const mailing = useAsk('GET /api/mailings/:id', { params: { id } });
  const { at } = useSaying();
  const stop = useAction('POST /api/mailings/:id/stop', () => {
    say(phrase('tray.mailingStopped'));
    close();
  });
  const m = mailing.data;
  return (
    <Asking
      open
      wide
      close={close}
      title={m?.name ?? phrase('tray.mailing')}
      actions={
        m && m.planned > 0 ? (
          <Button look="stop" disabled={stop.isPending} onClick={() => stop.mutate({ params: { id } })}>
            {phrase('tray.stopMailing', { count: m.planned })}
          </Button>
        ) : null
      }
    >
      <Problems of={stop.problem} />
      <Loaded of={mailing}>
        {(r) => (
          <>
            <p className="soft num">
              {r.stoppedAt
                ? phrase('tray.mailingStoppedAt', { at: at(r.stoppedAt) })
                : phrase(r.planned && !r.sent ? 'tray.mailingGoes' : 'tray.mailingWent', {
                    at: at(r.goesAt),
                  })}
            </p>
            <Facts
              of={[
                [phrase('common.sent'), sayCount(r.sent)],
                [phrase('tray.toGo'), sayCount(r.planned)],
                [phrase('tray.wroteBack'), sayCount(r.wroteBack)],
                [phrase('tray.bookedAfter', { days: followingDays }), sayCount(r.booked)],
                [phrase('tray.gaveAfter', { days: followingDays }), sayCount(r.gave)],
                [phrase('tray.leftAfter'), sayCount(r.left)],
              ]}
            />
            {r.links.length > 0 && (
              <>
                <chakra.h3 fontSize="16px" marginTop="12px">
                  {phrase('tray.linksFollowed')}
                </chakra.h3>
                <ul>
                  {r.links.map((l) => (
                    <li key={l.url}>
                      <span className="num">{sayCount(l.followed)}</span> {l.url}
                    </li>
                  ))}
                </ul>
                <chakra.p className="soft" fontSize="13.5px">
                  {phrase('tray.linksAreCounted')}
                </chakra.p>
              </>
            )}
            {r.leftOut.map((l) => (
              <p key={l.why} className="soft">
                <span className="num">{sayCount(l.people)}</span>{' '}
                {phrase('contacts.leftOut', { why: l.why, names: l.names.join(', ') })}
                {l.people > l.names.length && ' …'}
              </p>
            ))}
            <chakra.div marginTop="16px">
              {(['en', 'fr'] as const).map((language) => {
                const { subject, body, formatted } = saidIn(r.said, language);
                const text = body || (formatted ? plainText(formatted) : '');
                const french = language === 'fr';
                // Without French, everybody reads the English.
                return french && !r.said.body.fr && !r.said.formatted.fr ? null : (
                  <chakra.section key={language} lang={language} marginBottom="10px">
                    <p className="name">{subject}</p>
                    <Letter>{text}</Letter>
                  </chakra.section>
                );
              })}
            </chakra.div>
          </>
        )}
      </Loaded>
    </Asking>
  );
}
