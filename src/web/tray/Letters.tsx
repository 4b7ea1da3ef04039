import { chakra } from '@chakra-ui/react';
import { useEffect, useState } from 'react';
import { type LetterText, lettersContract } from '#contract/letters.ts';
import { problemsInLetter, sayLetter } from '#core/messages/letters.ts';
import type { Answer } from '#web/api.ts';
import { phrase } from '#web/words/phrase.ts';
import { Button } from '../kit/Button.tsx';
import { FormDialog } from '../kit/form/FormDialog.tsx';
import { prepare } from '../kit/form/request.ts';
import { useForm } from '../kit/form/useForm.ts';
import { ListViews } from '../kit/ListViews.tsx';
import { Loaded, Problems } from '../kit/notices.tsx';
import { type Column, Table } from '../kit/Table.tsx';
import { say } from '../kit/toast.tsx';
import { AsSent } from '../parts/AsSent.tsx';
import { useAction, useAsk } from '../parts/ask.ts';
import { keptTexts, MessageTexts, type TextValues, typedTexts } from '../parts/MessageTexts.tsx';
import { useSaying } from '../parts/saying.ts';

type Row = Answer<'GET /api/letters'>[number];
type Known = Answer<'GET /api/letters/:kind'>;
type Kind = Row['kind'];

/** The letters that go out by themselves when something happened, and what the organization says in them. */
export function Letters() {
  const letters = useAsk('GET /api/letters');
  const [open, setOpen] = useState<Kind | null>(null);
  const { at } = useSaying();
  const columns: Column<Row>[] = [
    {
      id: 'kind',
      phone: 'title',
      heading: phrase('tray.letter'),
      width: '340px',
      sortBy: (l) => l.kind,
      cell: (l) => <span className="name">{sayLetter(l.kind)}</span>,
    },
    {
      id: 'subject',
      phone: 'bare',
      heading: phrase('common.subject'),
      sortBy: (l) => l.subject,
      cell: (l) => l.subject,
    },
    {
      id: 'own',
      phone: 'bare',
      heading: phrase('tray.written'),
      width: '280px',
      sortBy: (l) => l.setAt ?? '',
      cell: (l) => (
        <chakra.span color={l.lags ? 'ochre' : 'soft'}>
          {l.lags
            ? phrase('tray.letterLags')
            : l.own
              ? phrase('tray.writtenBy', { by: l.setBy, at: at(l.setAt) })
              : phrase('tray.firstText')}
        </chakra.span>
      ),
    },
  ];
  return (
    <Loaded of={letters}>
      {(rows) => (
        <>
          <p className="soft">{phrase('tray.lettersAbout')}</p>
          <Table
            label={phrase('tray.letters')}
            name="letters"
            rows={rows}
            columns={columns}
            keyOf={(l) => l.kind}
            open={(l) => setOpen(l.kind)}
            empty=""
          />
          {open && <Open kind={open} close={() => setOpen(null)} />}
        </>
      )}
    </Loaded>
  );
}

function Open({ kind, close }: { kind: Kind; close: () => void }) {
  const known = useAsk('GET /api/letters/:kind', { params: { kind } });
  return (
    <Loaded of={known}>
      {(k) => k.kind === kind && <LetterForm key={k.version} known={k} close={close} />}
    </Loaded>
  );
}

function LetterForm({ known, close }: { known: Known; close: () => void }) {
  const { kind, version } = known;
  const params = { kind };
  const { at } = useSaying();
  const done = () => {
    say(phrase('tray.letterKept'));
    close();
  };
  const saidNow = (v: TextValues): LetterText => keptTexts(v, known.said);
  const form = useForm({
    values: typedTexts(known.said),
    request: (v) =>
      prepare(lettersContract, 'PUT /api/letters/:kind', { params, body: { version, said: saidNow(v) } }),
    fieldOf: (path) => path.replace(/^said\./u, ''),
    after: done,
  });
  const back = useAction('PUT /api/letters/:kind', done);
  return (
    <FormDialog form={form} wide title={sayLetter(kind)} submit={phrase('common.save')} close={close}>
      <Problems of={back.problem} />
      <p className="soft">{phrase('tray.fromThenOn')}</p>
      <MessageTexts
        form={form}
        frenchOf={known.said.frenchOf}
        fields={known.fields}
        problemsOf={(text) => problemsInLetter(text, kind)}
      />
      <Preview kind={kind} said={saidNow(form.values)} />
      {known.before.length > 0 && (
        <chakra.details marginTop="14px">
          <chakra.summary cursor="pointer" color="verdigris">
            {phrase('tray.letterBefore')}
          </chakra.summary>
          <ul className="lines">
            {known.before.map((v) => (
              <li key={v.version} className="spread">
                <span>
                  {v.said ? v.said.subject.en : phrase('tray.firstText')}{' '}
                  <small className="soft">{phrase('tray.writtenBy', { by: v.setBy, at: at(v.setAt) })}</small>
                </span>
                {v.version !== version && (
                  <Button look="plain" onClick={() => form.set(typedTexts(v.said ?? known.first))}>
                    {phrase('tray.takeThis')}
                  </Button>
                )}
              </li>
            ))}
          </ul>
        </chakra.details>
      )}
      {known.own && (
        <chakra.div marginTop="10px">
          <Button
            look="plain"
            disabled={back.isPending}
            onClick={() => back.mutate({ params, body: { version, said: null } })}
          >
            {phrase('tray.backToFirst')}
          </Button>
        </chakra.div>
      )}
    </FormDialog>
  );
}

/** Milliseconds without typing after which it is drawn anew. */
const pause = 500;

/** A letter as it is being written, as somebody made up would get it, in either language. */
function Preview({ kind, said }: { kind: Kind; said: LetterText }) {
  const [open, setOpen] = useState(false);
  const [language, setLanguage] = useState<'en' | 'fr'>('en');
  const { mutate, data, problem } = useAction('POST /api/letters/:kind/preview');
  const text = JSON.stringify(said);
  useEffect(() => {
    if (!open) return;
    const soon = setTimeout(
      () => mutate({ params: { kind }, body: { said: JSON.parse(text) as LetterText, language } }),
      pause,
    );
    return () => clearTimeout(soon);
  }, [open, text, language, kind, mutate]);
  if (!open)
    return (
      <Button look="plain" onClick={() => setOpen(true)}>
        {phrase('messages.seeIt')}
      </Button>
    );
  return (
    <chakra.section aria-label={phrase('messages.asTheyGetIt')} marginTop="8px">
      <ListViews
        label={phrase('tray.language')}
        value={language}
        set={setLanguage}
        views={[
          { value: 'en', label: phrase('tray.english') },
          { value: 'fr', label: phrase('tray.french') },
        ]}
      />
      {problem ? <p className="late">{problem.message}</p> : data && <AsSent message={data} width="390px" />}
    </chakra.section>
  );
}
