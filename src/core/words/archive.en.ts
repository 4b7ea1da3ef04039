/** What the history shows, in one sentence each. Bounds are those of 95 in 100. */
export const archiveEn = {
  // What one event differs by from the others beside it
  'turn-up': '{{title}}: {{here}}% of those who registered came, {{others}}% at the others',
  'first-timers':
    '{{title}}: {{here}}% of those who came were there for the first time, {{others}}% at the others',
  members: '{{title}}: {{here}}% of the seats were members’, {{others}}% at the others',
  withdrawn: '{{title}}: {{here}}% of the seats were given up, {{others}}% at the others',
  'walked in': '{{title}}: {{here}}% of those who came had no seat before, {{others}}% at the others',
  recommend: '{{title}}: {{here}}% would tell a friend, {{others}}% at the others',
  tested: '{{said}} ({{size}} difference, {{test}}, {{n}} people, {{p}}).',
  income: '{{title}} took in {{here}} a head, the others {{others}}.',
  gifts: '{{title}} was given {{here}} a head, the others {{others}}.',
  costs: '{{title}} cost {{here}} a head, the others {{others}}.',
  hours: '{{title}} took {{here}} crew hours a head, the others {{others}}.',
  'nothing differs': 'Nothing differs by more than chance would make it, and no amount a head by half.',
  // Series
  'series grows':
    '{{came}} came on average in the last {{n}}, {{before}} in the {{m}} before: {{share}}% more.',
  'series shrinks':
    '{{came}} came on average in the last {{n}}, {{before}} in the {{m}} before: {{share}}% fewer.',
  'series steady': '{{came}} came on average in the last {{n}}, as many as before.',
  'series short': '{{came}} came on average.',
  // Returns
  returns:
    'Of {{n}} people whose first event is a year ago or more, {{share}}% came again within a year (between {{low}}% and {{high}}%).',
  'returns best':
    'Most of those came again whose first event was {{best}} ({{bestShare}}%), fewest after {{worst}} ({{worstShare}}%).',
  'returns none': 'Nobody’s first event is a year ago yet.',
  // Paths
  paths:
    'Of {{first}} people who came once, {{second}}% came twice, {{gave}}% gave and {{served}}% helped. Of those who came twice {{gaveTwo}}% gave and {{servedTwo}}% helped.',
  'paths none': 'Nobody has come to anything yet.',
  // Audiences
  overlap: '{{a}} and {{b}} share {{people:person|people}}, {{times}} times as many as chance would make it.',
  apart:
    '{{a}} and {{b}} share {{people:person|people}}, {{times}} times as many as chance would make it: hardly the same people.',
  'overlap none': 'There are not two kinds of events yet that people came to.',
  'conv gave': 'gave',
  'conv served': 'helped',
  'conv came again': 'were back',
  'conv ahead':
    'Of those who came, {{here}}% {{what}} within a year; of those who registered and missed it, {{there}}%. Event by event, newcomers apart, those who came are {{by}} points ahead (between {{low}} and {{high}}), more than chance would make it.',
  'conv behind':
    'Of those who came, {{here}}% {{what}} within a year; of those who registered and missed it, {{there}}%. Event by event, newcomers apart, those who came are {{by}} points behind (between {{low}} and {{high}}), more than chance would make it.',
  'conv level':
    'Of those who came, {{here}}% {{what}} within a year; of those who registered and missed it, {{there}}%. Event by event, newcomers apart, that is no more than chance would make it ({{by}} points, between {{low}} and {{high}}).',
  'conv none':
    'There is nobody yet to compare: it takes events a year ago that some had a seat for and missed.',
  // Who drifts away
  drifting:
    'Came {{times}} times, every {{usual}} or so and never more than {{longest}} apart. Not for {{since}} now; {{kind}} took place {{dates:time|times}} since.',
  'drifting absent':
    'Came {{times}} times, every {{usual}} or so and never more than {{longest}} apart. Not for {{since}} now, and had {{absent:seat|seats}} since without coming; {{kind}} took place {{dates:time|times}}.',
  days: '{{n:day|days}}',
  weeks: '{{n:week|weeks}}',
  months: '{{n:month|months}}',
  // Timing
  timing:
    'Half of the seats are booked {{half:day|days}} before or earlier, nine in ten {{nine:day|days}} before; {{withdrawn}}% of them are given up again.',
  'timing none': 'No seats were booked yet.',
  dates:
    '{{weekday}} went best: {{came}} times as many came as is usual for the same kind of event ({{n}} events). In {{month}} it was {{monthCame}} times as many.',
  'dates none': 'There are too few events to tell one date from another.',
  'hour 0': 'before noon',
  'hour 1': 'in the afternoon',
  'hour 2': 'in the evening',
  // Tests
  'two shares': 'test of two shares',
  fisher: 'Fisher’s exact test',
  small: 'small',
  middling: 'middling',
  large: 'large',
} as const;
