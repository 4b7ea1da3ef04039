import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useRef } from 'react';
import { create } from 'zustand';
import type { EventPage } from '#contract/events.ts';
import type { EventPlan } from '#contract/plan.ts';
import { weightyFields } from '#core/changes/aspects.ts';
import { sayConsequences } from '#core/events/consequences.ts';
import * as drafts from '#core/events/draft.ts';
import { type PlanPart, partsOf } from '#core/events/parts.ts';
import { type Answer, ApiProblem, call } from '#web/api.ts';
import { askAnewAfter } from '#web/topics.ts';
import { eventKey, showKept } from './showKept.ts';

type Draft = drafts.Draft<EventPlan>;

/** Milliseconds without typing after which a part is saved. */
const pause = 600;

/** What is typed and not kept yet, by event: it outlives the stage, and the event's page. */
const useDrafts = create<{
  of: Record<string, Draft>;
  change(eventId: string, to: (draft: Draft) => Draft): void;
  /** Events of which something typed waits until somebody saw what it brings about. */
  waiting: Readonly<Record<string, boolean>>;
  wait(eventId: string, waits: boolean): void;
}>()((set) => ({
  of: {},
  waiting: {},
  wait: (eventId, waits) => set((s) => ({ waiting: { ...s.waiting, [eventId]: waits } })),
  change: (eventId, to) =>
    set((s) => ({ of: { ...s.of, [eventId]: to(s.of[eventId] ?? drafts.nothingTyped) } })),
}));
/** Fields that are typed and weigh: what they bring about is looked at before they are saved. */
const heldIn = (page: EventPage, draft: Draft): (keyof EventPlan)[] =>
  page.isTemplate ? [] : weightyFields(page.state, page.plan, draft.typed);
/** The parts that have something to send by themselves. */
function partsToSend(page: EventPage): PlanPart[] {
  const draft = draftOf(page.id);
  const held = partsOf(heldIn(page, draft));
  return drafts.partsToSend(draft).filter((part) => !held.includes(part));
}
const draftOf = (eventId: string): Draft => useDrafts.getState().of[eventId] ?? drafts.nothingTyped;

const timers = new Map<string, ReturnType<typeof setTimeout>>();

export interface PlanDraft {
  plan: EventPlan;
  /** Changes fields; each part is saved as typed, by itself. */
  change(part: Partial<EventPlan>): void;
  /** `held`: what is typed weighs, and waits until somebody saw what it brings about. */
  standing: 'saved' | 'saving' | 'not saved' | 'held';
  /** What is wrong, by the path of the field. */
  wrong: Record<string, string>;
  /** Why saving failed as a whole: the network, the event's state. */
  problem: ApiProblem | null;
  /** What the last save brought about, a line each. */
  effects: string[];
  /** Parts that somebody else saved meanwhile, each with what is to be said and both texts. */
  clashes: { part: PlanPart; says: string; fields: (keyof EventPlan)[] }[];
  theirs: EventPlan;
  keepMine(part: PlanPart): void;
  takeTheirs(part: PlanPart): void;
  again(): void;
}

/** The plan of an event while it is being written. What could not be saved stays as typed, with what is wrong with it. */
export function usePlanDraft(page: EventPage): PlanDraft {
  const client = useQueryClient();
  const { id } = page;
  const draft = useDrafts((s) => s.of[id]) ?? (drafts.nothingTyped as Draft);
  const update = useDrafts((s) => s.change);

  // One save of a plan after the other, each of one part; what is sent is what is typed by the time it is its turn.
  const save = useMutation<Answer<'PATCH /api/events/:id'> | null, Error, PlanPart>({
    scope: { id: `plan ${id}` },
    mutationFn: async (part) => {
      const before = draftOf(id);
      const change = drafts.toSend(before, part);
      if (!change || partsOf(heldIn(page, before)).includes(part)) return null;
      try {
        const saved = await call('PATCH /api/events/:id', {
          params: { id },
          body: { version: before.seen[part] ?? 1, change },
        });
        await showKept(client, id, saved.version, change);
        const waiting = partsToSend(page);
        update(id, (d) => drafts.kept(d, part, change, saved.version));
        // What was refused beside it may be right now.
        for (const other of partsToSend(page))
          if (other !== part && !waiting.includes(other)) save.mutate(other);
        return saved;
      } catch (error) {
        const problem = error instanceof ApiProblem ? error : null;
        if (problem?.code === 'changed-meanwhile') {
          await client.invalidateQueries({ queryKey: eventKey(id) });
          update(id, (d) => drafts.clash(d, part, problem.message));
          return null;
        }
        if (problem?.code === 'invalid') update(id, (d) => drafts.refuse(d, change, problem.fields));
        throw error;
      }
    },
    onSettled: (saved, _, part) => {
      if (saved) void askAnewAfter(client, 'PATCH /api/events/:id');
      // What was not refused, or was typed meanwhile, goes at once.
      if (!(failed(id) && !saved) && partsToSend(page).includes(part)) save.mutate(part);
    },
    onError: (error) => failures.set(id, !(error instanceof ApiProblem && error.code === 'invalid')),
    onSuccess: () => failures.delete(id),
  });
  const { mutate } = save;

  const send = useCallback(
    (part: PlanPart) => {
      clearTimeout(timers.get(`${id} ${part}`));
      timers.delete(`${id} ${part}`);
      mutate(part);
    },
    [id, mutate],
  );
  const change = useCallback(
    (fields: Partial<EventPlan>) => {
      const waiting = partsToSend(page);
      update(id, (d) => drafts.type(d, fields, page.version));
      const typed = partsOf(Object.keys(fields) as (keyof EventPlan)[]);
      // What was refused and is tried again with it goes along.
      const sent = partsToSend(page).filter((part) => typed.includes(part) || !waiting.includes(part));
      for (const part of sent) {
        clearTimeout(timers.get(`${id} ${part}`));
        timers.set(
          `${id} ${part}`,
          setTimeout(() => send(part), pause),
        );
      }
    },
    [id, page, send, update],
  );
  const pageNow = useRef(page);
  useEffect(() => {
    pageNow.current = page;
  });
  const again = useCallback(() => {
    for (const part of partsToSend(pageNow.current)) send(part);
  }, [send]);

  // Leaving the event saves what still waits; closing the window asks.
  useEffect(() => again, [again]);
  const typed = Object.keys(draft.typed).length > 0;
  useEffect(() => {
    if (!typed) return;
    const ask = (event: BeforeUnloadEvent) => event.preventDefault();
    window.addEventListener('beforeunload', ask);
    return () => window.removeEventListener('beforeunload', ask);
  }, [typed]);

  const stuck =
    Object.keys(draft.refused).length > 0 || Object.keys(draft.clashes).length > 0 || save.isError;
  const saved = save.data;
  const waits = useDrafts((s) => s.waiting[id] === true);
  return {
    plan: { ...page.plan, ...draft.typed },
    change,
    standing: !typed ? 'saved' : waits ? 'held' : stuck && !save.isPending ? 'not saved' : 'saving',
    wrong: drafts.wrongIn(draft),
    problem:
      save.error instanceof ApiProblem && (save.error.code !== 'invalid' || !typed) ? save.error : null,
    effects: saved ? sayConsequences(saved.followed, true) : [],
    clashes: (Object.entries(draft.clashes) as [PlanPart, string][]).map(([part, says]) => ({
      part,
      says,
      fields: (Object.keys(draft.typed) as (keyof EventPlan)[]).filter((f) => partsOf([f])[0] === part),
    })),
    theirs: page.plan,
    keepMine: (part) => {
      update(id, (d) => drafts.keepMine(d, part, page.version));
      send(part);
    },
    takeTheirs: (part) => update(id, (d) => drafts.takeTheirs(d, part)),
    again,
  };
}

/** What is typed on the plan of an event and weighs: it is saved once somebody saw what it brings about. */
export interface HeldChange {
  fields: (keyof EventPlan)[];
  /** What is sent: everything typed in the parts they belong to, so that times that move along stay together. */
  change: Partial<EventPlan>;
  version: number;
  /** Leaves the plan as it was. */
  putBack(): void;
  /** It was saved. */
  kept(version: number): Promise<void>;
  /** It was refused: what is wrong stands beside the fields, and what somebody else saved meanwhile beside theirs. */
  refused(problem: ApiProblem): void;
  /** Says whether it waits for somebody to look. */
  wait(waits: boolean): void;
}

export function useHeldChange(page: EventPage): HeldChange | null {
  const client = useQueryClient();
  const { id } = page;
  const draft = useDrafts((s) => s.of[id]) ?? (drafts.nothingTyped as Draft);
  const update = useDrafts((s) => s.change);
  const fields = heldIn(page, draft);
  if (!fields.length) return null;
  const parts = partsOf(fields).filter((part) => !draft.clashes[part]);
  const change: Partial<EventPlan> = Object.assign({}, ...parts.map((part) => drafts.toSend(draft, part)));
  return {
    fields,
    change,
    version: Math.min(...parts.map((part) => draft.seen[part] ?? 1)),
    wait: (waits) => useDrafts.getState().wait(id, waits),
    refused(problem) {
      if (problem.code === 'invalid') update(id, (d) => drafts.refuse(d, change, problem.fields));
      if (problem.code === 'changed-meanwhile') {
        void client.invalidateQueries({ queryKey: eventKey(id) });
        update(id, (d) => parts.reduce((left, part) => drafts.clash(left, part, problem.message), d));
      }
    },
    putBack: () => update(id, (d) => parts.reduce((left, part) => drafts.takeTheirs(left, part), d)),
    async kept(version) {
      await showKept(client, id, version, change);
      update(id, (d) => parts.reduce((left, part) => drafts.kept(left, part, change, version), d));
    },
  };
}

/** Events whose last save failed as a whole, so that it is not tried again without a pause. */
const failures = new Map<string, boolean>();
const failed = (eventId: string): boolean => failures.get(eventId) === true;
