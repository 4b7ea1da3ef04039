export const desk = {
  nothingNeedsYou: 'Nothing needs you.',
  thingsNeedSomebody: { one: 'One thing needs somebody.', other: '{{count}} things need somebody.' },
  nextEvent: 'Next event: {{title}}, {{when}}.',
  whatIsLateMissing:
    'Whatever is late, missing or waiting for you is listed here, worked out from every event.',
  sinceYesterday: 'Since yesterday',
  openNow: 'Open now',
  noEventTakesRegistrations: 'No event is taking registrations just now.',
  inDays: 'in {{days:day|days}}',
  comingEvents: 'Coming events',
  eventsAroundToday: 'Events around today',
  today: 'today',
  tomorrow: 'tomorrow',
} as const;
