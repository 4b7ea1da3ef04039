import { expect, test } from 'vitest';
import { atOtherDate, extraThere } from './otherDates.ts';

const august = {
  offers: [
    { id: 'a1', name: 'Helper' },
    { id: 'a2', name: 'Child' },
  ],
  questions: [
    { id: 'q1', scope: 'order', prompt: { en: 'Boots?' } },
    { id: 'q2', scope: 'attendee', prompt: { en: 'Soup?' } },
    { id: 'q3', scope: 'attendee', prompt: { en: 'Boots?' } },
  ],
};
const september = {
  offers: [
    { id: 'b2', name: 'Child' },
    { id: 'b1', name: 'Helper' },
  ],
  questions: [
    { id: 'p1', scope: 'order', prompt: { en: 'Boots?' } },
    { id: 'p2', scope: 'attendee', prompt: { en: 'Boots?' } },
  ],
};
const order = {
  buyer: 'Una',
  lines: [{ offerId: 'a1', units: 2 }],
  attendees: [{ given: 'Una', answers: { q2: 'leek', q3: '38' } }],
  answers: { q1: 'yes' },
};

test('an order at another date is for what is called the same there; answers nobody asks for there are let go', () => {
  expect(atOtherDate(order, august, september, 'also.0')).toEqual({
    order: {
      buyer: 'Una',
      lines: [{ offerId: 'b1', units: 2 }],
      attendees: [{ given: 'Una', answers: { p2: '38' } }],
      answers: { p1: 'yes' },
    },
  });
});

test('an extra is the one that is called the same there, of the same kind; else there is none', () => {
  const extra = (id: string, name: string, ...kinds: string[]) => ({
    id,
    name,
    options: kinds.map((kind) => ({ id: `${id}-${kind}`, name: kind })),
  });
  const from = { extras: [extra('x1', 'Shirt', 'S', 'L'), extra('x2', 'Lunch')] };
  const to = { extras: [extra('y1', 'Shirt', 'L'), extra('y2', 'Supper')] };
  expect(extraThere({ extraId: 'x1', optionId: 'x1-L' }, from, to)).toEqual({
    extraId: 'y1',
    optionId: 'y1-L',
  });
  expect(extraThere({ extraId: 'x1', optionId: 'x1-S' }, from, to)).toBeNull();
  expect(extraThere({ extraId: 'x2', optionId: null }, from, to)).toBeNull();
  const wants = { ...order, extras: [{ extraId: 'x1', optionId: 'x1-L', units: 2 }] };
  expect(atOtherDate(wants, { ...august, ...from }, { ...september, ...to }, 'also.0')).toMatchObject({
    order: { extras: [{ extraId: 'y1', optionId: 'y1-L', units: 2 }] },
  });
});

test('a date without the ticket is refused, with its name', () => {
  expect(atOtherDate(order, august, { ...september, offers: [] }, 'also.0')).toEqual({
    wrong: { path: 'also.0', code: 'offer-not-there', params: { offer: 'Helper' } },
  });
});
