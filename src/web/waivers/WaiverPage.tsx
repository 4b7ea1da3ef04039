import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { useNavigate, useParams, useSearchParams } from 'react-router';
import { waiversContract } from '#contract/waivers.ts';
import { sayLongDate } from '#core/time/say.ts';
import { dateOf } from '#core/time/wallTime.ts';
import { sameText } from '#core/waivers/form.ts';
import { type Answer, addressOf } from '#web/api.ts';
import { Asking } from '#web/kit/Asking.tsx';
import { Button, ButtonAnchor, TextLink } from '#web/kit/Button.tsx';
import { Form } from '#web/kit/form/Form.tsx';
import { OneOf } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { Note } from '#web/kit/Note.tsx';
import { Loaded, Problems } from '#web/kit/notices.tsx';
import { Stages } from '#web/kit/Stages.tsx';
import { say } from '#web/kit/toast.tsx';
import { useAction, useAsk } from '#web/parts/ask.ts';
import { useSaying } from '#web/parts/saying.ts';
import { phrase } from '#web/words/phrase.ts';
import { Preview } from './Preview.tsx';
import { SettingsFields, settingsField, settingsSent, typedSettings } from './SettingsFields.tsx';
import { Signatures } from './Signatures.tsx';
import { emptyText, type Text, TextEditor } from './TextEditor.tsx';

type Waiver = Answer<'GET /api/waivers/:id'>;
const tabs = ['text', 'asked', 'signed'] as const;
const tabWords = {
  text: phrase('waivers.tab-text'),
  asked: phrase('waivers.tab-asked'),
  signed: phrase('waivers.tab-signed'),
} as const;

/** One waiver: what it says, how it is asked, who signed it. */
export default function WaiverPage() {
  const { id = '' } = useParams();
  return id === 'new' ? <NewWaiver /> : <Known id={id} />;
}

const side = {
  display: 'grid',
  gridTemplateColumns: { base: 'minmax(0, 1fr)', lg: 'minmax(0, 1fr) 390px' },
  gap: '0 28px',
  alignItems: 'start',
} as const;

function NewWaiver() {
  const navigate = useNavigate();
  const { today } = useSaying();
  const form = useForm({
    values: {
      text: emptyText,
      ...typedSettings(
        { audience: 'everyone', guardians: 1, holds: { for: 'event' }, forgetDays: 30, standing: false },
        today.slice(0, 4),
      ),
    },
    request: ({ text, ...v }) =>
      prepare(waiversContract, 'POST /api/waivers', { body: { text, ...settingsSent(v) } }),
    fieldOf: settingsField,
    after: ({ id }) => {
      say(phrase('waivers.added'));
      navigate(`/team/waivers/${id}`, { replace: true });
    },
  });
  return (
    <div className="page">
      <Back />
      <h1>{phrase('waivers.add')}</h1>
      <chakra.p className="soft" marginBottom="14px">
        {phrase('waivers.notAdvice')}
      </chakra.p>
      <chakra.div {...side}>
        <Form form={form} submit={phrase('waivers.saveNew')}>
          <TextEditor form={form} />
          <SettingsFields form={form} />
        </Form>
        <Preview text={form.values.text} />
      </chakra.div>
    </div>
  );
}

const Back = () => (
  <chakra.p marginBottom="4px">
    <TextLink to="/team/waivers">{phrase('waivers.title')}</TextLink>
  </chakra.p>
);

function Known({ id }: { id: string }) {
  const waiver = useAsk('GET /api/waivers/:id', { params: { id } });
  const [search, setSearch] = useSearchParams();
  const tab = tabs.find((t) => t === search.get('view')) ?? 'text';
  const { zone } = useSaying();
  return (
    <div className="page">
      <Back />
      <Loaded of={waiver}>
        {(w) => (
          <>
            <div className="spread">
              <h1>{w.text.title.en}</h1>
              <Closing waiver={w} />
            </div>
            {w.closedAt && (
              <Note>{phrase('waivers.isClosed', { date: sayLongDate(dateOf(w.closedAt, zone)) })}</Note>
            )}
            <Stages
              value={tab}
              set={(view) => setSearch(view === 'text' ? {} : { view }, { replace: true })}
              label={w.text.title.en}
              stages={tabs.map((value) => ({ value, label: tabWords[value] }))}
            >
              {tab === 'text' && <Wording key={w.version} waiver={w} />}
              {tab === 'asked' && <How waiver={w} />}
              {tab === 'signed' && <Signatures waiver={w} />}
            </Stages>
          </>
        )}
      </Loaded>
    </div>
  );
}

/** Closes the waiver, saying what that does, or opens it again. */
function Closing({ waiver }: { waiver: Waiver }) {
  const [asking, setAsking] = useState(false);
  const closing = useAction('POST /api/waivers/:id/closing', (_, sent) => {
    setAsking(false);
    say(phrase(sent?.body.closed ? 'waivers.wasClosed' : 'waivers.wasOpened'));
  });
  const set = (closed: boolean) => closing.mutate({ params: { id: waiver.id }, body: { closed } });
  if (waiver.closedAt)
    return (
      <Button disabled={closing.isPending} onClick={() => set(false)}>
        {phrase('waivers.open')}
      </Button>
    );
  return (
    <>
      <Button look="plain" onClick={() => setAsking(true)}>
        {phrase('waivers.close')}
      </Button>
      <Asking
        open={asking}
        close={() => setAsking(false)}
        title={phrase('waivers.closeTitle', { title: waiver.text.title.en })}
        actions={
          <Button look="stop" disabled={closing.isPending} onClick={() => set(true)}>
            {phrase('waivers.close')}
          </Button>
        }
      >
        <Problems of={closing.problem} />
        <p>{phrase('waivers.closeSays', { events: waiver.events.length })}</p>
      </Asking>
    </>
  );
}

/** What it says, changed into another version. */
function Wording({ waiver }: { waiver: Waiver }) {
  const { zone } = useSaying();
  const form = useForm({
    values: { text: waiver.text as Text, material: '' },
    request: ({ text, material }) =>
      prepare(waiversContract, 'POST /api/waivers/:id/versions', {
        params: { id: waiver.id },
        body: { text, material: material === 'yes', after: waiver.version },
      }),
    check: ({ material }) => (material ? [] : [{ path: 'material', code: 'answer-needed' as const }]),
    after: ({ version }) => say(phrase('waivers.savedVersion', { version })),
  });
  const { text } = form.values;
  const unchanged = sameText(text, waiver.text as Text);
  return (
    <>
      <chakra.p className="soft" marginBottom="14px">
        {phrase('waivers.notAdvice')}
      </chakra.p>
      <chakra.div {...side}>
        <div>
          <Form
            form={form}
            submit={unchanged ? undefined : phrase('waivers.saveVersion', { version: waiver.version + 1 })}
          >
            <TextEditor form={form} />
            {unchanged ? (
              <p className="soft">{phrase('waivers.unchanged')}</p>
            ) : (
              <OneOf
                form={form}
                name="material"
                label={phrase('waivers.material')}
                required
                choices={[
                  { value: 'no', label: phrase('waivers.materialNo') },
                  { value: 'yes', label: phrase('waivers.materialYes') },
                ]}
              />
            )}
          </Form>
          <chakra.h2 marginTop="22px">{phrase('waivers.versions')}</chakra.h2>
          <ul className="lines">
            {waiver.versions.map((v) => (
              <li key={v.version} className="spread">
                <span>
                  {phrase('waivers.versionLine', {
                    version: v.version,
                    date: sayLongDate(dateOf(v.madeAt, zone)),
                  })}
                  {v.madeBy && <span className="soft"> {phrase('waivers.versionBy', { by: v.madeBy })}</span>}
                  {v.material && v.version > 1 && (
                    <span className="soft"> · {phrase('waivers.versionMatters')}</span>
                  )}
                </span>
                <span className="soft num">{phrase('waivers.versionSigned', { signed: v.signed })}</span>
              </li>
            ))}
          </ul>
        </div>
        <Preview text={text} />
      </chakra.div>
    </>
  );
}

/** How it is asked, its own page, and the events that ask for it. */
function How({ waiver }: { waiver: Waiver }) {
  const { today } = useSaying();
  const form = useForm({
    values: typedSettings(waiver, today.slice(0, 4)),
    request: (v) =>
      prepare(waiversContract, 'PATCH /api/waivers/:id', {
        params: { id: waiver.id },
        body: settingsSent(v),
      }),
    fieldOf: settingsField,
    after: () => say(phrase('waivers.settingsSaved')),
  });
  return (
    <chakra.div {...side}>
      <Form form={form} submit={phrase('common.save')}>
        <SettingsFields form={form} />
      </Form>
      <div>
        {waiver.page && <OwnPage waiver={waiver} page={waiver.page} />}
        <h2>{phrase('waivers.askedAt')}</h2>
        {waiver.events.length === 0 ? (
          <p className="soft">{phrase('waivers.askedNowhere')}</p>
        ) : (
          <ul className="lines">
            {waiver.events.map((e) => (
              <li key={e.id} className="spread">
                <TextLink to={`/events/${e.id}/doors`}>{e.title}</TextLink>
                <span className="soft num">{e.startsLocal ? sayLongDate(e.startsLocal) : ''}</span>
              </li>
            ))}
          </ul>
        )}
      </div>
    </chakra.div>
  );
}

function OwnPage({ waiver, page }: { waiver: Waiver; page: string }) {
  return (
    <chakra.section marginBottom="22px">
      <h2>{phrase('waivers.pageAddress')}</h2>
      <chakra.p overflowWrap="anywhere">
        <a href={page}>{page}</a>
      </chakra.p>
      <div className="acts">
        <Button
          onClick={() => {
            void navigator.clipboard.writeText(page).then(() => say(phrase('waivers.copiedAddress')));
          }}
        >
          {phrase('waivers.copyAddress')}
        </Button>
        <ButtonAnchor href={addressOf('GET /api/waivers/:id/poster.pdf', { id: waiver.id })}>
          {phrase('waivers.poster')}
        </ButtonAnchor>
      </div>
    </chakra.section>
  );
}
