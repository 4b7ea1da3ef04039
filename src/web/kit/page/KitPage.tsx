import { chakra } from '@chakra-ui/react';
import { type ReactNode, useState } from 'react';
import { cleanDoc } from '#core/text/doc.ts';
import { ApiProblem } from '#web/api.ts';
import { Asking } from '../Asking.tsx';
import { Button, ButtonLink } from '../Button.tsx';
import { RowTick, Toggle } from '../Choosing.tsx';
import { DocView } from '../DocView.tsx';
import { Facts } from '../Facts.tsx';
import { Filters } from '../Filters.tsx';
import { History } from '../History.tsx';
import { InlineChoice, InlineText } from '../Inline.tsx';
import { ListViews } from '../ListViews.tsx';
import { Menu } from '../Menu.tsx';
import { Empty, Note } from '../Note.tsx';
import { NothingFound } from '../NothingFound.tsx';
import { Loaded, Loading, Problems } from '../notices.tsx';
import { Paging } from '../Paging.tsx';
import { PrintFrame } from '../PrintFrame.tsx';
import { Progress } from '../Progress.tsx';
import { RichText } from '../RichText.tsx';
import { SavedMark } from '../SavedMark.tsx';
import { Slide } from '../Slide.tsx';
import { SlideOver } from '../SlideOver.tsx';
import { Stages } from '../Stages.tsx';
import { type Column, Table } from '../Table.tsx';
import { TableColumns } from '../TableColumns.tsx';
import { say, Toasts } from '../toast.tsx';
import { FormStates } from './FormStates.tsx';

interface Party {
  id: string;
  name: string;
  seats: number;
  due: number;
}
const written = cleanDoc({
  content: [
    { type: 'heading', attrs: { level: 2 }, content: [{ type: 'text', text: 'Bring' }] },
    {
      type: 'bulletList',
      content: ['boots', 'something warm'].map((text) => ({
        type: 'listItem',
        content: [{ type: 'paragraph', content: [{ type: 'text', text }] }],
      })),
    },
    {
      type: 'table',
      content: [
        ['tableHeader', 'When', 'What'],
        ['tableCell', '09:00', 'Boats leave'],
      ].map(([type, ...cells]) => ({
        type: 'tableRow',
        content: cells.map((text) => ({
          type,
          content: [{ type: 'paragraph', content: [{ type: 'text', text }] }],
        })),
      })),
    },
  ],
});
const parties: Party[] = [
  { id: 'a', name: 'Delacroix-Nguyen', seats: 4, due: 60 },
  { id: 'b', name: 'Okarro', seats: 1, due: 0 },
  { id: 'c', name: 'Wren-Achebe', seats: 2, due: 50 },
];
const columns: Column<Party>[] = [
  {
    id: 'name',
    heading: 'Party',
    sortBy: (p) => p.name,
    cell: (p) => p.name,
    phone: 'title',
    total: (of) => `${of.length} parties`,
  },
  {
    id: 'seats',
    heading: 'Seats',
    number: true,
    sortBy: (p) => p.seats,
    cell: (p) => p.seats,
    total: (of) => of.reduce((n, p) => n + p.seats, 0),
  },
  {
    id: 'due',
    heading: 'Due',
    number: true,
    sortBy: (p) => p.due,
    cell: (p) => `$${p.due}`,
    total: (of) => `$${of.reduce((n, p) => n + p.due, 0)}`,
  },
];
const broken = new ApiProblem({
  type: 'about:blank#offline',
  title: 'The server cannot be reached. Nothing was lost; please try again.',
  status: 0,
  code: 'offline',
});

/** One group of parts with its heading. */
function Group({ title, children }: { title: string; children: ReactNode }) {
  return (
    <chakra.section aria-label={title} borderTop="1px solid" borderColor="line" padding="18px 0 24px">
      <chakra.h2 textStyle="head" marginBottom="12px">
        {title}
      </chakra.h2>
      {children}
    </chakra.section>
  );
}
const Row = chakra('div', {
  base: { display: 'flex', flexWrap: 'wrap', gap: '10px', alignItems: 'center', marginBottom: '10px' },
});

/** Every part of the kit in every state; for whoever composes a screen, and for the tests. */
export function KitPage() {
  const [asking, setAsking] = useState(false);
  const [beside, setBeside] = useState(false);
  const [stage, setStage] = useState<'plan' | 'crew'>('plan');
  const [formatted, setFormatted] = useState(written);
  const [on, setOn] = useState(true);
  const [offer, setOffer] = useState('');
  const [show, setShow] = useState('all');
  const [chosen, choose] = useState<ReadonlySet<string>>(new Set(['b']));
  return (
    <chakra.main maxWidth="960px" margin="0 auto" padding="24px 16px 60px">
      <chakra.h1 textStyle="title" marginBottom="18px">
        The kit
      </chakra.h1>
      <Group title="Buttons">
        <Row>
          <Button look="main">Open registration</Button>
          <Button>Export</Button>
          <Button look="stop">Call off</Button>
          <Button look="plain">Shelve</Button>
          <Button look="link">Change</Button>
          <ButtonLink to="/">A link</ButtonLink>
          <Button look="main" disabled>
            Not yet
          </Button>
        </Row>
        <Row>
          <Button look="main" size="touch">
            Arrive
          </Button>
          <Button size="touch">Undo</Button>
        </Row>
      </Group>
      <Group title="Forms">
        <FormStates />
      </Group>
      <Group title="Formatted text">
        <RichText label="Description" help="What people read." value={formatted} set={setFormatted} />
        <DocView doc={formatted} />
      </Group>
      <Group title="On and off">
        <Toggle checked={on} set={setOn}>
          Send reminders
        </Toggle>
        <Row marginTop="10px">
          {(['saved', 'unsaved', 'saving', 'failed'] as const).map((state) => (
            <SavedMark key={state} state={state} />
          ))}
        </Row>
      </Group>
      <Group title="Over the page">
        <Row>
          <Button onClick={() => setAsking(true)}>Ask</Button>
          <Button onClick={() => setBeside(true)}>Look beside</Button>
          <Button onClick={() => say('Withdrawn', { label: 'Undo', run: () => {} })}>Say</Button>
        </Row>
        <Asking
          open={asking}
          close={() => setAsking(false)}
          title="Call off?"
          actions={
            <Button look="stop" onClick={() => setAsking(false)}>
              Call off
            </Button>
          }
        >
          <p>The public page says so, and nothing goes out for it any more.</p>
        </Asking>
        <Menu
          heading="Brackenmere Wetland Trust"
          entries={[
            { label: 'Season', run: () => {} },
            { label: 'Keys', run: () => {}, shortcut: '?' },
          ]}
          trigger={<Button>More</Button>}
        />
        <SlideOver open={beside} close={() => setBeside(false)} label="Person">
          <h2>Mai Delacroix-Nguyen</h2>
          <Button look="plain" onClick={() => setBeside(false)}>
            Close
          </Button>
        </SlideOver>
      </Group>
      <Group title="Lists">
        <Row>
          <Filters inUse={1}>
            <InlineText label="Filter parties" placeholder="Part of a name" value="" set={() => {}} />
            <InlineChoice
              label="Offer"
              empty="any offer"
              value={offer}
              set={setOffer}
              choices={[{ value: 'canoe', label: 'Family canoe' }]}
            />
            <InlineChoice
              label="Order of dates"
              look="asks"
              value=""
              set={() => {}}
              choices={[{ value: '', label: 'day or month first?' }]}
            />
          </Filters>
          <Slide
            label="Ask from"
            said="Ask from 40 in 100"
            min={1}
            max={90}
            value={40}
            set={() => {}}
            consequence="12 pairs would wait here"
          />
          <RowTick defaultChecked aria-label="Choose this row" />
          <ListViews
            label="Show"
            value={show}
            set={setShow}
            views={[
              { value: 'all', label: 'Everyone', count: 1204 },
              { value: 'owes', label: 'Owes', count: 3 },
            ]}
          />
          <TableColumns name="parties" columns={columns} />
        </Row>
        <Table
          label="Parties"
          rows={parties}
          columns={columns}
          keyOf={(p) => p.id}
          open={() => {}}
          choosing={{ chosen, choose }}
          name="parties"
          empty="Nobody yet."
        />
        <Table
          label="No parties"
          rows={[]}
          columns={columns}
          keyOf={(p: Party) => p.id}
          empty="Nobody has registered yet. The public page is the way in."
        />
        <Paging offset={200} size={100} shown={100} total={1204} set={() => {}} />
        <Empty>Nothing of this kind has happened yet.</Empty>
        <Empty as="div">
          <NothingFound
            ways={[
              { label: 'Without “zeb”', run: () => {} },
              { label: 'With any tag', run: () => {} },
            ]}
          >
            Nobody found for “zeb”.
          </NothingFound>
        </Empty>
      </Group>
      <Group title="Remarks">
        <Note tone="know">
          <p>
            <b>8 people waiting in 5 parties.</b> Every seat is taken.
          </p>
        </Note>
        <Note tone="need">
          <p>
            <b>7 places unfilled in 7 shifts.</b> First: canoe leader.
          </p>
          <Button>See who</Button>
        </Note>
        <Note tone="stop">
          <p>
            <b>4 children have no guardian’s signature.</b> They cannot take part without it.
          </p>
        </Note>
        <Problems of={broken} />
      </Group>
      <Group title="Stages">
        <Stages
          label="Stages"
          value={stage}
          set={setStage}
          stages={[
            { value: 'plan', label: 'Plan' },
            { value: 'crew', label: 'Crew' },
          ]}
        >
          <p>{stage === 'plan' ? 'What, when and where.' : 'Who stands where.'}</p>
        </Stages>
      </Group>
      <Group title="What is known">
        <Facts
          of={[
            ['Email', 'mai@fenmail.example'],
            ['Telephone', '(902) 555-0111'],
            ['Telephone', '(902) 555-0112'],
            ['Died on', null],
          ]}
        />
        <History
          label="Who did what"
          deeds={[
            {
              id: '1',
              when: '9 Jul 09:12',
              who: 'O. Ferrant',
              what: 'saved the plan',
              about: 'Open Water Day',
            },
            {
              id: '2',
              when: '8 Jul 17:40',
              who: 'I. Okarro',
              what: 'added a shift',
              about: 'Open Water Day',
            },
          ]}
        />
        <PrintFrame title="Door list" printed="9 July 2026, 09:20">
          <p>What goes on paper.</p>
        </PrintFrame>
      </Group>
      <Group title="Waiting">
        <Loading />
        <Progress words="Reading rows" done={1250} all={4000} cancel={() => {}} />
        <Loaded of={{ data: undefined, error: broken, refetch: () => {} }}>{() => null}</Loaded>
      </Group>
      <Toasts />
    </chakra.main>
  );
}
