import { chakra } from '@chakra-ui/react';
import { Plus } from 'lucide-react';
import { useEffect, useState } from 'react';
import { useLocation } from 'react-router';
import type { EventPage } from '#contract/events.ts';
import { mayWeigh } from '#core/changes/aspects.ts';
import { sayLongDate } from '#core/time/say.ts';
import { Button, TextLink } from '#web/kit/Button.tsx';
import { phrase } from '#web/words/phrase.ts';
import { Note } from '../../kit/Note.tsx';
import { Problems } from '../../kit/notices.tsx';
import { useSaying } from '../../parts/saying.ts';
import { Told } from '../changes/Told.tsx';
import { Clashes } from './Clashes.tsx';
import { fieldTitles } from './fieldWords.ts';
import { InSeries } from './InSeries.tsx';
import { PlanHistory, useUndo } from './PlanHistory.tsx';
import { Proposed } from './Proposed.tsx';
import { usePlanDraft } from './planDraft.ts';
import type { Section } from './section.ts';
import { sections } from './sections.tsx';

/** What the event is, section by section; those it does not use are one line at the end. Saved as typed. */
export default function PlanSheet({ page }: { page: EventPage }) {
  const draft = usePlanDraft(page);
  const { plan, change, standing, problem, effects, wrong } = draft;
  const undo = useUndo(page);
  const { today } = useSaying();
  // Sections that were added and say nothing yet stay open while the sheet is.
  const [added, setAdded] = useState<ReadonlySet<string>>(new Set());
  const shown = sections.filter((s) => !s.optional || s.optional.used(plan, page) || added.has(s.id));
  const others = sections.filter((s) => !shown.includes(s));
  const add = (section: Section) => {
    setAdded(new Set([...added, section.id]));
    const begins = section.optional?.begin?.(plan);
    if (begins) change(begins);
    requestAnimationFrame(() => document.getElementById(`section-${section.id}`)?.focus());
  };
  // A link may be to one of them.
  const { hash } = useLocation();
  useEffect(() => {
    const section = hash && document.getElementById(`section-${hash.slice(1)}`);
    if (!section) return;
    section.scrollIntoView();
    section.focus({ preventScroll: true });
  }, [hash]);
  const remove = (section: Section) => {
    setAdded(new Set([...added].filter((id) => id !== section.id)));
    if (section.optional?.used(plan, page)) change(section.optional.empty);
  };
  return (
    <>
      <div className="spread">
        <h2>{phrase('event.plan')}</h2>
        <chakra.span display="inline-flex" gap="14px" alignItems="baseline" fontSize="13.5px">
          {undo.last && standing === 'saved' && !page.settling && !mayWeigh(page.state, undo.last.field) && (
            <Button
              look="link"
              disabled={undo.busy}
              title={phrase('event.undoField', { field: fieldTitles[undo.last.field] })}
              onClick={undo.undo}
            >
              {phrase('common.undo')}
            </Button>
          )}
          <span role="status" className={standing === 'not saved' ? 'late' : 'soft'}>
            {standing === 'saved'
              ? phrase('common.saved')
              : standing === 'held'
                ? phrase('changes.heldStanding')
                : standing === 'saving'
                  ? phrase('event.saving')
                  : phrase('event.notSavedYet')}
          </span>
        </chakra.span>
      </div>
      <Proposed page={page} />
      <InSeries page={page} />
      {page.isTemplate && (
        <Note as="p" tone="know">
          {phrase('event.thisIsATemplate')}{' '}
          <TextLink to={`/season?again=${page.id}`}>{phrase('event.beginFromIt')}</TextLink>
        </Note>
      )}
      {page.state === 'draft' && plan.startsLocal && plan.startsLocal.slice(0, 10) < today && (
        <Note as="p" tone="stop" role="status">
          {phrase('event.draftPassed', { date: sayLongDate(plan.startsLocal) })}
        </Note>
      )}
      {page.state === 'draft' &&
        page.margin
          .filter((n) => n.tone === 'stop' && n.action?.stage === 'clearance')
          .map((n) => (
            <Note as="p" key={n.headline} tone="stop">
              <b>{n.headline}</b> {n.text}
            </Note>
          ))}
      {page.copiedFrom && !page.isTemplate && <LeftBehind page={page} />}
      <Problems of={problem ?? undo.problem} />
      {problem && standing === 'not saved' && (
        <p>
          <Button onClick={draft.again}>{phrase('event.saveAgain')}</Button>
        </p>
      )}
      {Object.keys(wrong).length > 0 && (
        <div className="problems" role="alert">
          {[...new Set(Object.values(wrong))].map((message) => (
            <p key={message}>{message}</p>
          ))}
        </div>
      )}
      <Clashes draft={draft} />
      {effects.map((e) => (
        <Note as="p" key={e} tone="need">
          {e}
        </Note>
      ))}
      {shown.map((section) => (
        <chakra.section
          key={section.id}
          id={`section-${section.id}`}
          tabIndex={-1}
          outline="none"
          aria-label={section.title || phrase('event.titles')}
          className={section.wide ? undefined : 'form'}
          marginTop={section.title ? '22px' : '10px'}
        >
          {section.title && (
            <chakra.div className="spread" marginBottom="6px">
              <h3>{section.title}</h3>
              {section.optional && !section.optional.stays?.(page) && (
                <Button
                  look="link"
                  color="soft"
                  fontSize="13.5px"
                  aria-label={phrase('event.removeNamed', { name: section.title })}
                  onClick={() => remove(section)}
                >
                  {phrase('common.remove')}
                </Button>
              )}
            </chakra.div>
          )}
          <section.Show draft={draft} page={page} />
        </chakra.section>
      ))}
      {others.length > 0 && (
        <chakra.div
          display="flex"
          flexWrap="wrap"
          alignItems="baseline"
          gap="4px 12px"
          marginTop="26px"
          paddingTop="10px"
          borderTop="1px solid"
          borderColor="line"
          role="group"
          aria-label={phrase('event.addSections')}
        >
          <chakra.span color="soft">{phrase('event.addSections')}</chakra.span>
          {others.map((section) => (
            <Button key={section.id} look="link" color="verdigris" onClick={() => add(section)}>
              <Plus size={13} aria-hidden /> {section.title}
            </Button>
          ))}
        </chakra.div>
      )}
      <PlanHistory page={page} change={change} />
      {page.may.change.includes('plan') && <Told page={page} />}
    </>
  );
}

/** What a copy did not take along and why, each with what settles it. */
function LeftBehind({ page }: { page: EventPage }) {
  const { copiedFrom } = page;
  if (!copiedFrom) return null;
  return (
    <chakra.details fontSize="14px" margin="4px 0 10px">
      <summary className="soft">{phrase('event.aCopyOfWhat', { title: copiedFrom.title })}</summary>
      <chakra.ul margin="4px 0" paddingLeft="18px">
        {copiedFrom.leftBehind.map((l) => (
          <li key={l.text}>
            {l.text}
            {l.stage && (
              <>
                {' · '}
                <TextLink to={`/events/${page.id}/${l.stage}`}>
                  {phrase(l.stage === 'crew' ? 'event.fillTheShifts' : 'clearance.send')}
                </TextLink>
              </>
            )}
          </li>
        ))}
      </chakra.ul>
    </chakra.details>
  );
}
