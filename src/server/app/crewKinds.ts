import type { AskState, SearchEnd } from '#core/crew/steppingIn.ts';
import { type Entry, event, nobody, ofEvent, type Telling } from './telling.ts';

/** An application to help, and the call it answers. */
interface Applied {
  applicationId: string;
  callId: string;
  eventId: string | null;
  contactId: string;
}

const applied = (f: Applied, action: string, detail: object = {}): Entry => ({
  action,
  subject: { kind: 'contact', id: f.contactId },
  detail: { ...detail, callId: f.callId, ...(f.eventId ? { eventId: f.eventId } : {}) },
});

const ofShift = (f: { shiftId: string }, action: string, detail: object): Entry => ({
  action,
  subject: { kind: 'shift', id: f.shiftId },
  detail,
});

/** What can happen to the crew of an event: calls and applications, shifts, who is on them, steps in or changes places. */
export interface CrewFacts {
  'shift added': { eventId: string; role: string };
  'shift removed': { eventId: string; role: string };
  'shift changed': {
    eventId: string;
    shiftId: string;
    /** As it was. */
    before: Record<'role' | 'place' | 'startsLocal' | 'endsLocal' | 'startsAt' | 'endsAt', string>;
    /** Whether who is on it is told. */
    tell: boolean;
  };
  'call changed': { callId: string; eventId: string | null; how: string };
  /** `again`: without their own link, though they had applied before. */
  'application came': Applied & { again: boolean };
  'application changed': Applied & { how: string };
  'application asked': Applied & { words: string };
  'application invited': Applied;
  'application decided': Applied & { to: 'accepted' | 'declined' | 'resting'; words: string; tell: boolean };
  'roster asked for': { eventId: string; seconds: number };
  'roster worked out': { eventId: string };
  'roster accepted': { eventId: string; put: number };
  'shift asked for': { eventId: string; shiftId: string; assignmentId: string; contactId: string };
  'shift declined': { eventId: string; shiftId: string; assignmentId: string; contactId: string };
  'shift taken': {
    eventId: string;
    shiftId: string;
    assignmentId: string;
    contactId: string;
    /** By the person, from outside; else by staff. */
    signedUp: boolean;
    overrideReason: string | null;
    /** The shift they have it in the place of. */
    insteadOf: string | null;
    /** One of several put on at once: what follows for all of them is worked out after the last. */
    oneOfSeveral: boolean;
  };
  /** Somebody asked from outside for a shift that the person named is on, or that is at the time of another of theirs. */
  'shift asked for in vain': {
    eventId: string;
    shiftId: string;
    contactId: string;
    /** The assignment they have, where it is the same shift. */
    assignmentId: string | null;
  };
  /** `agreed`: it was theirs, and not only asked for. `words`: why, as they said it. */
  'shift given back': {
    eventId: string;
    shiftId: string;
    contactId: string;
    agreed: boolean;
    words: string;
  };
  /** Somebody waits for a place on a shift that is full. */
  'waits for shift': { eventId: string; shiftId: string; contactId: string };
  'step-in begun': { eventId: string; shiftId: string; wide: boolean };
  /** `at`: when they are written to, `until`: when their answer is due. */
  'step-in asked': {
    eventId: string;
    shiftId: string;
    askId: string;
    contactId: string;
    at: string;
    until: string;
  };
  'step-in answered': {
    eventId: string;
    shiftId: string;
    askId: string;
    contactId: string;
    to: Exclude<AskState, 'asked'>;
  };
  'step-in over': { eventId: string; shiftId: string; wide: boolean; how: SearchEnd };
  /** Somebody would have other shifts in the place of theirs. */
  'swap wished': {
    eventId: string;
    shiftId: string;
    assignmentId: string;
    contactId: string;
    wants: string[];
  };
  'swap declined': {
    eventId: string;
    shiftId: string;
    assignmentId: string;
    contactId: string;
    words: string;
  };
  'crew written to': { eventId: string; subject: string; people: number; roles: string[] };
  'crew ticked off': {
    eventId: string;
    shiftId: string;
    assignmentId: string;
    contactId: string;
    to: 'in' | 'out' | 'expected';
    at: string;
    hours: number | null;
  };
  'hours corrected': {
    eventId: string;
    shiftId: string;
    contactId: string;
    before: number;
    after: number;
    why: string;
  };
  'people swapped': { eventId: string; moves: { contactId: string; from: string; to: string }[] };
  'shift marked': {
    eventId: string;
    shiftId: string;
    assignmentId: string;
    state: string;
    hours: number | null;
  };
}

export const crewTellings: { readonly [K in keyof CrewFacts]: Telling<CrewFacts[K]> } = {
  'shift added': {
    entry: (f) => ({ action: 'added a shift', subject: event(f.eventId), detail: { role: f.role } }),
    topics: ofEvent,
  },
  'shift removed': {
    entry: (f) => ({ action: 'removed a shift', subject: event(f.eventId), detail: { role: f.role } }),
    topics: ofEvent,
  },
  'shift taken': {
    entry: (f) => ofShift(f, 'put on a shift', { contactId: f.contactId, overrideReason: f.overrideReason }),
    topics: ofEvent,
  },
  'shift changed': {
    entry: (f) => ofShift(f, 'changed a shift', { before: f.before, told: f.tell }),
    topics: ofEvent,
  },
  'call changed': {
    entry: (f) => ({
      action: f.how,
      subject: { kind: 'call', id: f.callId },
      detail: { eventId: f.eventId },
    }),
    topics: ofEvent,
  },
  'application came': { entry: (f) => applied(f, 'applied to help', { again: f.again }), topics: ofEvent },
  'application changed': { entry: (f) => applied(f, f.how), topics: ofEvent },
  'application asked': {
    entry: (f) => applied(f, 'asked an applicant', { words: f.words }),
    topics: ofEvent,
  },
  'application invited': { entry: (f) => applied(f, 'wrote to somebody known before'), topics: ofEvent },
  'application decided': {
    entry: (f) =>
      applied(
        f,
        f.to === 'accepted'
          ? 'accepted an application'
          : f.to === 'declined'
            ? 'declined an application'
            : 'let an applicant rest',
        { told: f.tell, words: f.words },
      ),
    topics: ofEvent,
  },
  'roster asked for': {
    entry: (f) => ({
      action: 'asked for shifts to be filled',
      subject: event(f.eventId),
      detail: { seconds: f.seconds },
    }),
    topics: ofEvent,
  },
  'roster worked out': { topics: ofEvent },
  'roster accepted': {
    entry: (f) => ({ action: 'filled shifts', subject: event(f.eventId), detail: { put: f.put } }),
    topics: ofEvent,
  },
  'shift asked for': {
    entry: (f) => ofShift(f, 'asked for a shift', { contactId: f.contactId }),
    topics: ofEvent,
  },
  'shift declined': {
    entry: (f) => ofShift(f, 'declined for a shift', { contactId: f.contactId }),
    topics: ofEvent,
  },
  'shift asked for in vain': { topics: nobody },
  'shift given back': {
    entry: (f) => ofShift(f, 'gave a shift back', { contactId: f.contactId, words: f.words }),
    topics: ofEvent,
  },
  'waits for shift': {
    entry: (f) => ofShift(f, 'waits for a shift', { contactId: f.contactId }),
    topics: ofEvent,
  },
  'step-in begun': {
    entry: (f) => ofShift(f, 'began to ask who steps in', { wide: f.wide }),
    topics: ofEvent,
  },
  'step-in asked': {
    entry: (f) => ofShift(f, 'asked to step in', { contactId: f.contactId, until: f.until }),
    topics: ofEvent,
  },
  'step-in answered': {
    entry: (f) => ofShift(f, `asked to step in: ${f.to}`, { contactId: f.contactId }),
    topics: ofEvent,
  },
  'step-in over': {
    entry: (f) => ofShift(f, 'asks nobody else to step in', { how: f.how }),
    topics: ofEvent,
  },
  'swap wished': {
    entry: (f) => ofShift(f, 'would have another shift', { contactId: f.contactId, wants: f.wants }),
    topics: ofEvent,
  },
  'swap declined': {
    entry: (f) => ofShift(f, 'declined a swap', { contactId: f.contactId, words: f.words }),
    topics: ofEvent,
  },
  'crew written to': {
    entry: (f) => ({
      action: 'wrote to the crew',
      subject: event(f.eventId),
      detail: { subject: f.subject, people: f.people, roles: f.roles },
    }),
    topics: ofEvent,
  },
  'crew ticked off': {
    entry: (f) =>
      ofShift(
        f,
        { in: 'ticked off as there', out: 'ticked off as gone', expected: 'took a tick back' }[f.to],
        { contactId: f.contactId, at: f.at, hours: f.hours },
      ),
    topics: ofEvent,
  },
  'hours corrected': {
    entry: (f) =>
      ofShift(f, 'put hours right', { contactId: f.contactId, before: f.before, after: f.after, why: f.why }),
    topics: ofEvent,
  },
  'people swapped': {
    entry: (f) => ({
      action: 'let people change places',
      subject: event(f.eventId),
      detail: { moves: f.moves },
    }),
    topics: ofEvent,
  },
  'shift marked': {
    entry: (f) => ofShift(f, `shift ${f.state}`, { assignment: f.assignmentId, hours: f.hours }),
    topics: ofEvent,
  },
};
