import type { ComponentType } from 'react';
import type { EventPage } from '#contract/events.ts';
import type { EventPlan } from '#contract/plan.ts';
import type { PlanDraft } from './planDraft.ts';

export interface SectionProps {
  draft: PlanDraft;
  page: EventPage;
}

/** A part of a plan as it is worked on. */
export interface Section {
  id: string;
  /** Over it, and in the line of what can be added; none over the first. */
  title: string;
  /** Whether it takes the whole width of the sheet. */
  wide?: boolean;
  Show: ComponentType<SectionProps>;
  /** Of one that not every event needs: whether this one uses it, what it begins with, and how it is emptied. */
  optional?: {
    used: (plan: EventPlan, page: EventPage) => boolean;
    begin?: (plan: EventPlan) => Partial<EventPlan>;
    empty: Partial<EventPlan>;
    /** True where what it holds is not a value of the plan, and is taken away piece by piece. */
    stays?: (page: EventPage) => boolean;
  };
}
