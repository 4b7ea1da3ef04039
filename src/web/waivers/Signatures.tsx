import { chakra } from '@chakra-ui/react';
import { useDeferredValue, useState } from 'react';
import { type SignatureRow, waiversContract } from '#contract/waivers.ts';
import { sayShortDate } from '#core/time/say.ts';
import { wallOf } from '#core/time/wallTime.ts';
import { type Answer, addressOf } from '#web/api.ts';
import { Button, ButtonAnchor } from '#web/kit/Button.tsx';
import { TextField } from '#web/kit/Field.tsx';
import { FormDialog } from '#web/kit/form/FormDialog.tsx';
import { LongText } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { Chip } from '#web/kit/ListViews.tsx';
import { Loaded } from '#web/kit/notices.tsx';
import { type Column, Table } from '#web/kit/Table.tsx';
import { say } from '#web/kit/toast.tsx';
import { useAsk } from '#web/parts/ask.ts';
import { Person } from '#web/parts/Person.tsx';
import { useSaying } from '#web/parts/saying.ts';
import { phrase } from '#web/words/phrase.ts';
import { PaperForm } from './PaperForm.tsx';

type Waiver = Answer<'GET /api/waivers/:id'>;
const states = ['valid', 'expired', 'superseded', 'revoked'] as const;
const stateWords = {
  valid: phrase('waivers.state-valid'),
  expired: phrase('waivers.state-expired'),
  superseded: phrase('waivers.state-superseded'),
  revoked: phrase('waivers.state-revoked'),
} as const;
const wayWords = {
  link: phrase('waivers.way-link'),
  page: phrase('waivers.way-page'),
  door: phrase('waivers.way-door'),
  paper: phrase('waivers.way-paper'),
} as const;

/** Who signed a waiver: found by name, narrowed by state, a page at a time; what can be done with each. */
export function Signatures({ waiver }: { waiver: Waiver }) {
  const [q, setQ] = useState('');
  const [state, setState] = useState<(typeof states)[number] | null>(null);
  const [before, setBefore] = useState<string[]>([]);
  const [paper, setPaper] = useState(false);
  const asked = useDeferredValue(q.trim());
  return (
    <>
      <chakra.div display="flex" flexWrap="wrap" gap="8px 14px" alignItems="end" marginBottom="10px">
        <chakra.div width="220px">
          <TextField
            label={phrase('waivers.search')}
            value={q}
            set={(typed) => {
              setQ(typed);
              setBefore([]);
            }}
          />
        </chakra.div>
        <chakra.div display="flex" flexWrap="wrap" gap="6px" paddingBottom="8px">
          {[null, ...states].map((s) => (
            <Chip
              key={s ?? 'all'}
              aria-pressed={state === s}
              onClick={() => {
                setState(s);
                setBefore([]);
              }}
            >
              {s ? stateWords[s] : phrase('waivers.allStates')}
            </Chip>
          ))}
        </chakra.div>
        <chakra.div className="acts" marginLeft="auto" paddingBottom="8px">
          <Button onClick={() => setPaper(true)}>{phrase('waivers.paper')}</Button>
          <ButtonAnchor href={addressOf('GET /api/waivers/:id/signatures.csv', { id: waiver.id })}>
            {phrase('waivers.csv')}
          </ButtonAnchor>
        </chakra.div>
      </chakra.div>
      {/* Each further page stands below the one before. */}
      {[undefined, ...before].map((from, at) => (
        <Part
          key={`${asked} ${state} ${from ?? ''}`}
          waiver={waiver}
          asked={{ q: asked, state, before: from }}
          more={at === before.length ? (to) => setBefore((all) => [...all, to]) : null}
        />
      ))}
      {paper && <PaperForm waiver={waiver} close={() => setPaper(false)} />}
    </>
  );
}

function Part({
  waiver,
  asked,
  more,
}: {
  waiver: Waiver;
  asked: { q: string; state: (typeof states)[number] | null; before: string | undefined };
  more: ((before: string) => void) | null;
}) {
  const { q, state, before } = asked;
  const { zone } = useSaying();
  const [revoking, setRevoking] = useState<SignatureRow | null>(null);
  const found = useAsk('GET /api/waivers/:id/signatures', {
    params: { id: waiver.id },
    query: { q, ...(state && { state }), ...(before && { before }) },
  });
  const columns: Column<SignatureRow>[] = [
    {
      id: 'participant',
      phone: 'title',
      heading: phrase('waivers.participant'),
      cell: (s) =>
        s.contactId ? <Person id={s.contactId} name={s.participant} /> : <span>{s.participant}</span>,
    },
    {
      id: 'typedName',
      heading: phrase('waivers.signedBy'),
      cell: (s) => (
        <>
          {s.typedName}
          {s.relation === 'guardian' && <span className="soft"> {phrase('waivers.asGuardian')}</span>}
        </>
      ),
    },
    {
      id: 'at',
      heading: phrase('waivers.signedAt'),
      cell: (s) => <span className="num">{sayDate(wallOf(s.at, zone))}</span>,
    },
    { id: 'way', phone: 'bare', heading: phrase('waivers.how'), cell: (s) => wayWords[s.way] },
    { id: 'event', phone: 'bare', heading: phrase('waivers.event'), cell: (s) => s.event?.title ?? '' },
    {
      id: 'until',
      heading: phrase('waivers.until'),
      cell: (s) => (
        <span className="num">{s.holdsUntil ? sayDate(s.holdsUntil) : phrase('waivers.forItsEvent')}</span>
      ),
    },
    {
      id: 'state',
      phone: 'bare',
      heading: phrase('waivers.state'),
      cell: (s) => (
        <>
          <chakra.span color={s.state === 'revoked' ? 'madder' : s.state === 'valid' ? 'ink' : 'soft'}>
            {stateWords[s.state]}
          </chakra.span>
          {s.state === 'valid' && !s.known && (
            <chakra.span color="ochre" title={phrase('waivers.unknownHandHelp')}>
              {' '}
              · {phrase('waivers.unknownHand')}
            </chakra.span>
          )}
          {s.revoked && (
            <chakra.small display="block" className="soft">
              {phrase('waivers.revokedBy', s.revoked)}
            </chakra.small>
          )}
        </>
      ),
    },
    {
      id: 'acts',
      heading: '',
      phone: 'bare',
      cell: (s) => (
        <chakra.span display="inline-flex" gap="10px" fontSize="13.5px">
          <a href={addressOf('GET /api/signatures/:id/copy.pdf', { id: s.id })}>{phrase('waivers.copy')}</a>
          {s.scan && (
            <a href={addressOf('GET /api/signatures/:id/scan', { id: s.id })}>{phrase('waivers.scan')}</a>
          )}
          {s.state === 'valid' && (
            <Button look="link" onClick={() => setRevoking(s)}>
              {phrase('waivers.revoke')}
            </Button>
          )}
        </chakra.span>
      ),
    },
  ];
  return (
    <Loaded of={found}>
      {({ rows, more: next }) => (
        <>
          <Table
            label={phrase('waivers.tab-signed')}
            rows={rows}
            columns={columns}
            keyOf={(s) => s.id}
            empty={phrase(q || state ? 'waivers.nobodySuch' : 'waivers.nobodySigned')}
          />
          {next && more && <Button onClick={() => more(next)}>{phrase('waivers.more')}</Button>}
          {revoking && <Revoke signature={revoking} close={() => setRevoking(null)} />}
        </>
      )}
    </Loaded>
  );
}

const sayDate = (wall: string): string => `${sayShortDate(wall)} ${wall.slice(0, 4)}`;

/** Revokes one, with why. */
function Revoke({ signature, close }: { signature: SignatureRow; close: () => void }) {
  const form = useForm({
    values: { why: '' },
    request: (body) =>
      prepare(waiversContract, 'POST /api/signatures/:id/revocation', { params: { id: signature.id }, body }),
    after: () => {
      say(phrase('waivers.revoked'));
      close();
    },
  });
  return (
    <FormDialog
      form={form}
      look="stop"
      title={phrase('waivers.revokeTitle', { name: signature.participant })}
      submit={phrase('waivers.revoke')}
      close={close}
    >
      <p>{phrase('waivers.revokeSays')}</p>
      <LongText form={form} name="why" label={phrase('waivers.why')} rows={2} required />
    </FormDialog>
  );
}
