import { chakra, Input } from '@chakra-ui/react';
import type { EventPage } from '#contract/events.ts';
import { type Source, seatsContract } from '#contract/seats.ts';
import { Asking } from '#web/kit/Asking.tsx';
import { Button } from '#web/kit/Button.tsx';
import { Form } from '#web/kit/form/Form.tsx';
import { Text } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { Loaded, Problems } from '#web/kit/notices.tsx';
import { type Column, Table } from '#web/kit/Table.tsx';
import { say } from '#web/kit/toast.tsx';
import { useAction, useAsk } from '#web/parts/ask.ts';
import { phrase } from '#web/words/phrase.ts';

type Row = Pick<Source, 'name' | 'stopped' | 'seen' | 'begun' | 'orders' | 'seats'> & {
  id: string;
  link: string | null;
};

/** The links that were given out, and who came through which, from looking at the page to a seat. */
export function Sources({ page, close }: { page: EventPage; close: () => void }) {
  const params = { id: page.id };
  const sources = useAsk('GET /api/events/:id/sources', { params });
  const change = page.may.change.includes('registration');
  const stop = useAction('DELETE /api/events/:id/sources/:source');
  const form = useForm({
    values: { name: '' },
    request: (body) => prepare(seatsContract, 'POST /api/events/:id/sources', { params, body }),
    after: ({ link }) => copy(link, phrase('seats.sourceMade')),
    again: true,
  });
  const copy = (link: string, words: string) =>
    navigator.clipboard?.writeText(link).then(
      () => say(words),
      () => say(link),
    );
  const columns: Column<Row>[] = [
    {
      id: 'name',
      heading: phrase('seats.sourceName'),
      cell: (s) => (
        <>
          <span className="name">{s.name}</span>
          {s.stopped && <small className="soft"> {phrase('seats.stopped')}</small>}
          {s.link && (
            <chakra.span
              display="flex"
              flexWrap="wrap"
              gap="2px 10px"
              alignItems="center"
              whiteSpace="nowrap"
            >
              <Input
                readOnly
                aria-label={s.name}
                value={s.link}
                fontSize="13px"
                padding="2px 4px"
                flex="1 1 220px"
                minWidth="0"
                onFocus={(e) => e.target.select()}
              />
              <Button look="link" onClick={() => copy(s.link!, phrase('seats.copied'))}>
                {phrase('seats.copyLink')}
              </Button>
              {change && !s.stopped && (
                <Button
                  look="link"
                  color="soft"
                  disabled={stop.isPending}
                  onClick={() => stop.mutate({ params: { ...params, source: s.id } })}
                >
                  {phrase('seats.stopSource')}
                </Button>
              )}
            </chakra.span>
          )}
        </>
      ),
      total: () => phrase('seats.allLinks'),
    },
    ...(
      [
        ['seen', phrase('seats.seen')],
        ['begun', phrase('seats.begun')],
        ['orders', phrase('seats.booked')],
        ['seats', phrase('seats.seatsNow')],
      ] as const
    ).map(
      ([id, heading]): Column<Row> => ({
        id,
        heading,
        number: true,
        cell: (s) => s[id],
        total: (rows) => rows.reduce((sum, r) => sum + r[id], 0),
      }),
    ),
  ];
  return (
    <Asking open wide close={close} title={phrase('seats.sources')} actions={null}>
      <p className="soft">{phrase('seats.sourcesHelp')}</p>
      <Loaded of={sources}>
        {(found) => (
          <Table
            label={phrase('seats.sources')}
            rows={[
              ...found.sources,
              { id: 'others', link: null, name: phrase('seats.otherWays'), stopped: false, ...found.others },
            ]}
            columns={columns}
            keyOf={(s) => s.id}
            empty={phrase('seats.noSources')}
          />
        )}
      </Loaded>
      <Problems of={stop.problem} />
      {change && (
        <Form form={form} submit={phrase('seats.makeSource')}>
          <Text
            form={form}
            name="name"
            label={phrase('seats.sourceName')}
            placeholder={phrase('seats.sourcePlaceholder')}
            required
          />
        </Form>
      )}
    </Asking>
  );
}
