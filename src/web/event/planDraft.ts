import { useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useRef, useState } from 'react';
import type { EventPage, EventPlan } from '#contract/events.ts';
import { ApiProblem, call } from '#web/api.ts';

/** Milliseconds without typing after which a plan is saved. */
const pause = 600;

export interface PlanDraft {
  plan: EventPlan;
  /** Changes fields; they are saved as typed, one save after the other. */
  change(part: Partial<EventPlan>): void;
  standing: 'saved' | 'saving' | 'not saved';
  problem: ApiProblem | null;
  /** What the last save brought about: messages moved, steps reopened. */
  effects: string[];
}

/** The plan of an event while it is being written. What could not be saved stays as typed, with what is wrong with it. */
export function usePlanDraft(page: EventPage): PlanDraft {
  const client = useQueryClient();
  const [plan, setPlan] = useState(page.plan);
  const [standing, setStanding] = useState<PlanDraft['standing']>('saved');
  const [problem, setProblem] = useState<ApiProblem | null>(null);
  const [effects, setEffects] = useState<string[]>([]);
  const version = useRef(page.version);
  const waiting = useRef<Partial<EventPlan>>({});
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const saving = useRef(false);

  const save = useCallback(async () => {
    if (saving.current || Object.keys(waiting.current).length === 0) return;
    saving.current = true;
    const change = waiting.current;
    waiting.current = {};
    setStanding('saving');
    try {
      const saved = await call('PATCH /api/events/:id', {
        params: { id: page.id },
        body: { version: version.current, change },
      });
      version.current = saved.version;
      setProblem(null);
      setEffects([
        ...(saved.messagesMoved ? [`${saved.messagesMoved} messages that have not gone out were moved`] : []),
        ...(saved.reopened.length ? [`Reopened for clearance: ${saved.reopened.join(', ')}`] : []),
      ]);
      setStanding(Object.keys(waiting.current).length ? 'saving' : 'saved');
      void client.invalidateQueries();
    } catch (error) {
      // Nothing of this save was kept; it goes along with the next one.
      waiting.current = { ...change, ...waiting.current };
      setProblem(error instanceof ApiProblem ? error : null);
      setStanding('not saved');
    } finally {
      saving.current = false;
    }
  }, [client, page.id]);

  const change = useCallback(
    (part: Partial<EventPlan>) => {
      setPlan((p) => ({ ...p, ...part }));
      waiting.current = { ...waiting.current, ...part };
      setStanding('saving');
      clearTimeout(timer.current);
      timer.current = setTimeout(() => void save(), pause);
    },
    [save],
  );
  // Leaving the stage saves what is still waiting.
  useEffect(
    () => () => {
      clearTimeout(timer.current);
      void save();
    },
    [save],
  );
  // A version that came from elsewhere (a decision, another save) is taken over while nothing is being written.
  useEffect(() => {
    if (Object.keys(waiting.current).length === 0 && !saving.current && page.version > version.current) {
      version.current = page.version;
      setPlan(page.plan);
    }
  }, [page.plan, page.version]);
  return { plan, change, standing, problem, effects };
}
