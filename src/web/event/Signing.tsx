import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import type { Answer } from '#web/api.ts';
import { Asking } from '#web/kit/Asking.tsx';
import { Button } from '#web/kit/Button.tsx';
import { Loaded, Problems } from '#web/kit/notices.tsx';
import { type Column, Table } from '#web/kit/Table.tsx';
import { say } from '#web/kit/toast.tsx';
import { useAction, useAsk } from '#web/parts/ask.ts';
import { Signature } from '#web/parts/marks.tsx';
import { Person } from '#web/parts/Person.tsx';
import { useSaying } from '#web/parts/saying.ts';
import { phrase } from '#web/words/phrase.ts';

type Row = Answer<'GET /api/events/:id/signing'>['rows'][number];

/** Who has signed at an event and who has not, when they were last asked, and asking them now. Not there where nothing is signed. */
export function SigningList({ eventId, may }: { eventId: string; may: boolean }) {
  const signing = useAsk('GET /api/events/:id/signing', { params: { id: eventId } });
  return (
    <Loaded of={signing}>
      {({ waivers, rows }) =>
        waivers.length > 0 && <Listed eventId={eventId} waivers={waivers} rows={rows} may={may} />
      }
    </Loaded>
  );
}

function Listed({
  eventId,
  waivers,
  rows,
  may,
}: {
  eventId: string;
  waivers: Answer<'GET /api/events/:id/signing'>['waivers'];
  rows: readonly Row[];
  may: boolean;
}) {
  const { at } = useSaying();
  const [chosen, choose] = useState<ReadonlySet<string>>(new Set());
  const [asking, setAsking] = useState(false);
  const [all, setAll] = useState(false);
  const open = rows.filter((r) => r.toSign.length > 0);
  const shown = all ? rows : open;
  // Whom nobody chose among them is asked with the others.
  const asked = open.filter((r) => r.reachable && (chosen.size === 0 || chosen.has(r.key)));
  const ask = useAction('POST /api/events/:id/signing/reminders', ({ asked: letters }) => {
    setAsking(false);
    choose(new Set());
    say(phrase('waivers.askedNow', { letters }));
  });
  const title = (id: string) => waivers.find((w) => w.id === id)?.title ?? '';
  const columns: Column<Row>[] = [
    {
      id: 'name',
      phone: 'title',
      heading: phrase('waivers.participant'),
      sortBy: (r) => r.name.toLowerCase(),
      cell: (r) =>
        r.contactId && r.name ? (
          <Person id={r.contactId} name={r.name} />
        ) : (
          <span className="soft">{r.name || phrase('waivers.notNamed')}</span>
        ),
    },
    {
      id: 'part',
      phone: 'bare',
      heading: phrase('waivers.part'),
      sortBy: (r) => r.part,
      cell: (r) => phrase(r.part === 'crew' ? 'waivers.partCrew' : 'waivers.partSeat'),
    },
    {
      id: 'standing',
      phone: 'bare',
      heading: phrase('waivers.signature'),
      sortBy: (r) => r.standing,
      cell: (r) => (
        <>
          <Signature standing={r.standing} />
          {r.toSign.length > 0 && waivers.length > 1 && (
            <span className="soft"> {r.toSign.map(title).join(', ')}</span>
          )}
          {r.partly.length > 0 && <span className="soft"> {phrase('waivers.oneOfTwo')}</span>}
        </>
      ),
    },
    {
      id: 'asked',
      heading: phrase('waivers.lastAsked'),
      sortBy: (r) => r.lastAsked ?? '',
      cell: (r) =>
        r.toSign.length > 0 && (
          <span className="num">
            {r.lastAsked
              ? at(r.lastAsked)
              : r.reachable
                ? phrase('waivers.neverAsked')
                : phrase('waivers.noAddress')}
          </span>
        ),
    },
  ];
  return (
    <chakra.section marginTop="18px">
      <div className="spread">
        <h3>{phrase('waivers.signedOf', { signed: rows.length - open.length, all: rows.length })}</h3>
        <span className="acts">
          {rows.length > open.length && (
            <Button look="plain" onClick={() => setAll(!all)}>
              {phrase(all ? 'waivers.onlyMissing' : 'waivers.showAll')}
            </Button>
          )}
          {may && asked.length > 0 && (
            <Button onClick={() => setAsking(true)}>
              {phrase('waivers.askNow', { count: asked.length })}
            </Button>
          )}
        </span>
      </div>
      <Table
        label={phrase('waivers.whatIsSigned')}
        rows={shown}
        columns={columns}
        keyOf={(r) => r.key}
        {...(may && { choosing: { chosen, choose } })}
        empty={phrase('waivers.allSigned')}
      />
      <Asking
        open={asking}
        close={() => setAsking(false)}
        title={phrase('waivers.askTitle')}
        actions={
          <Button
            look="main"
            disabled={ask.isPending}
            onClick={() => ask.mutate({ params: { id: eventId }, body: { keys: asked.map((r) => r.key) } })}
          >
            {phrase('waivers.askNow', { count: asked.length })}
          </Button>
        }
      >
        <Problems of={ask.problem} />
        <p>{phrase('waivers.askSays', { count: asked.length })}</p>
        {open.length > asked.length && chosen.size === 0 && (
          <p className="soft">{phrase('waivers.askNotReached', { count: open.length - asked.length })}</p>
        )}
      </Asking>
    </chakra.section>
  );
}
