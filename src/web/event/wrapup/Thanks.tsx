import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import type { EventPage } from '#contract/events.ts';
import { type Thanked, thanked, thanksContract } from '#contract/thanks.ts';
import { fieldsOfThanks, problemsInThanks } from '#core/messages/mailing.ts';
import { firstThanks } from '#core/messages/thanksTexts.ts';
import { type Answer, ApiProblem, call } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { Form } from '#web/kit/form/Form.tsx';
import { SeveralOf, Tick } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { Empty, Note } from '#web/kit/Note.tsx';
import { Problems } from '#web/kit/notices.tsx';
import { type Column, Table } from '#web/kit/Table.tsx';
import { say } from '#web/kit/toast.tsx';
import { keptTexts, MessageTexts, textsOf } from '#web/parts/MessageTexts.tsx';
import { useSaying } from '#web/parts/saying.ts';
import { phrase } from '#web/words/phrase.ts';

type Preview = Answer<'POST /api/events/:id/thanks/preview'>;
type Thankee = Preview['people'][number];

const asWords: Readonly<Record<Thanked, string>> = {
  came: phrase('thanks.came'),
  helped: phrase('thanks.helped'),
  gave: phrase('thanks.gave'),
};

/** Thanks and receipts in one run: everything that would go out is seen first, then all of it goes. */
export function Thanks({ page }: { page: EventPage }) {
  const over = ['closed', 'wrapped'].includes(page.state);
  return (
    <>
      <h2>{phrase('thanks.title')}</h2>
      <p className="soft">{phrase('thanks.help')}</p>
      {over ? <Run eventId={page.id} /> : <Empty>{phrase('thanks.notOver')}</Empty>}
    </>
  );
}

function Run({ eventId }: { eventId: string }) {
  const [seen, setSeen] = useState<{ of: string; found: Preview } | null>(null);
  const [looking, setLooking] = useState(false);
  const [problem, setProblem] = useState<ApiProblem | null>(null);
  const form = useForm({
    values: {
      to: ['came', 'helped', 'gave'] as string[],
      receipts: true,
      subject: { ...firstThanks.subject } as { en: string; fr: string },
      preview: { en: '', fr: '' },
      body: { ...firstThanks.body } as { en: string; fr: string },
      formatted: { en: null, fr: null },
      frenchFits: false,
    },
    request: (v) =>
      prepare(thanksContract, 'POST /api/events/:id/thanks', {
        params: { id: eventId },
        body: {
          to: v.to as Thanked[],
          receipts: v.receipts,
          said: keptTexts(v),
          expect: { mails: seen?.found.people.length ?? 0, receipts: receiptsIn(seen?.found) },
        },
      }),
    fieldOf: (path) => path.replace(/^said\./u, ''),
    draft: { name: `thanks ${eventId}`, keeping: 'device' },
    after: ({ mails, receipts }) => {
      setSeen(null);
      say(phrase(receipts ? 'thanks.sentBoth' : 'thanks.sent', { n: mails, m: receipts }));
    },
  });
  const asked = () => ({
    to: form.values.to as Thanked[],
    receipts: form.values.receipts,
    said: keptTexts(form.values),
  });
  const now = JSON.stringify(asked());
  const look = async () => {
    setLooking(true);
    setProblem(null);
    try {
      const found = await call('POST /api/events/:id/thanks/preview', {
        params: { id: eventId },
        body: asked(),
      });
      setSeen({ of: now, found });
    } catch (error) {
      setSeen(null);
      if (error instanceof ApiProblem) setProblem(error);
      else throw error;
    } finally {
      setLooking(false);
    }
  };
  const fits = seen?.of === now ? seen.found : null;
  const receipts = receiptsIn(fits);
  return (
    <>
      <Form
        form={form}
        {...(fits?.people.length
          ? {
              submit: phrase(receipts ? 'thanks.sendBoth' : 'thanks.sendIt', {
                n: fits.people.length,
                m: receipts,
              }),
            }
          : {})}
      >
        <SeveralOf
          form={form}
          name="to"
          label={phrase('thanks.toWhom')}
          choices={thanked.map((t) => ({ value: t, label: asWords[t] }))}
        />
        <Tick form={form} name="receipts" label={phrase('thanks.receipts')} />
        <MessageTexts
          form={textsOf(form)}
          frenchOf=""
          fields={fieldsOfThanks}
          problemsOf={problemsInThanks}
        />
        {seen && !fits && <p className="need">{phrase('thanks.changed')}</p>}
        <Problems of={problem} />
        <p>
          <Button look={fits ? 'normal' : 'main'} disabled={looking} onClick={() => void look()}>
            {phrase('thanks.see')}
          </Button>
        </p>
      </Form>
      {fits && <Seen found={fits} />}
    </>
  );
}

const receiptsIn = (found: Preview | null | undefined): number =>
  found?.people.filter((p) => p.receipt).length ?? 0;

/** Everything that goes out, each as it is read; who gets none, and which receipts are not written. */
function Seen({ found }: { found: Preview }) {
  const [open, setOpen] = useState<string | null>(null);
  const { money } = useSaying();
  const { people, leftOut, noReceipt, thankedBefore } = found;
  const columns: Column<Thankee>[] = [
    {
      id: 'name',
      phone: 'title',
      heading: phrase('thanks.name'),
      sortBy: (p) => p.name.toLowerCase(),
      cell: (p) => <span className="name">{p.name}</span>,
    },
    {
      id: 'as',
      heading: phrase('thanks.as'),
      sortBy: (p) => p.as.join(),
      cell: (p) => p.as.map((a) => asWords[a]).join(', '),
    },
    {
      id: 'receipt',
      heading: phrase('thanks.receipt'),
      sortBy: (p) => p.receipt?.eligible ?? 0,
      cell: (p) =>
        p.receipt &&
        phrase('thanks.receiptFor', {
          number: p.receipt.number,
          amount: money(p.receipt.eligible, p.receipt.currency),
        }),
    },
    {
      id: 'read',
      heading: phrase('thanks.theirs'),
      cell: (p) => (
        <details open={open === p.contactId} onToggle={(e) => e.currentTarget.open && setOpen(p.contactId)}>
          <chakra.summary cursor="pointer" color="verdigris">
            {p.subject}
          </chakra.summary>
          <chakra.p whiteSpace="pre-line" maxWidth="60ch">
            {p.body}
          </chakra.p>
        </details>
      ),
    },
  ];
  return (
    <section>
      <h3>{phrase('thanks.goesOut', { n: people.length, m: receiptsIn(found) })}</h3>
      {thankedBefore > 0 && <Note tone="need">{phrase('thanks.before', { n: thankedBefore })}</Note>}
      <Table
        label={phrase('thanks.title')}
        rows={people}
        columns={columns}
        keyOf={(p) => p.contactId}
        empty={phrase('thanks.nobody')}
      />
      {leftOut.length > 0 && (
        <>
          <h4>{phrase('thanks.leftOut')}</h4>
          <ul className="lines">
            {leftOut.map((l) => (
              <li key={l.why}>
                <b className="num">{l.people}</b> {l.why} <span className="soft">{l.names.join(', ')}</span>
              </li>
            ))}
          </ul>
        </>
      )}
      {noReceipt.length > 0 && (
        <>
          <h4>{phrase('thanks.noReceipt')}</h4>
          <ul className="lines">
            {noReceipt.map((l) => (
              <li key={l.name}>
                <span className="name">{l.name}</span> <span className="soft">{l.why}</span>
              </li>
            ))}
          </ul>
        </>
      )}
    </section>
  );
}
