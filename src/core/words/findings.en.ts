/** What results of surveys say, in one sentence each. Bounds are those of 95 in 100. */
export const findingsEn = {
  nobody: 'Nobody has answered this.',
  'too few': 'Shown once five have answered.',
  share: '{{share}}% of {{n}} said “{{label}}” (between {{low}}% and {{high}}%).',
  several: '“{{label}}” was chosen most, by {{share}}% of {{n}} (between {{low}}% and {{high}}%).',
  mean: '{{mean}} of {{most}} on average, {{n:answer|answers}} (between {{low}} and {{high}}).',
  recommend:
    'A score of {{score}}: {{would}} of {{n}} would recommend it, {{not}} would not (between {{low}} and {{high}}).',
  place: '“{{label}}” stands first on average; {{first}} of {{n}} put it there.',
  number: '{{sum}} in all; half of {{n}} said {{middle}} or less.',
  dates: 'Between {{least}} and {{most}}; half of {{n}} by {{middle}}.',
  texts: '{{n:answer|answers}} in words, each about something else.',
  'texts about': '{{n:answer|answers}} in words; {{count}} speak of “{{term}}”.',
  rate: '{{answered}} of {{asked}} asked have answered: {{share}}% (between {{low}}% and {{high}}%).',
  'nobody asked': 'Nobody was asked yet.',
  weighted:
    'Counted so that those who answered are made up as those who came: {{n}} answers say as much as {{evens}}.',
  'weighted missing':
    'Counted so that those who answered are made up as those who came: {{n}} answers say as much as {{evens}}. Nobody answered of: {{missing}}.',
  // Against last year, and against all the others.
  less: '{{by}} lower than {{name}}, more than chance would explain ({{size}} effect, Welch’s test, {{n}} and {{than}} answers, {{p}}).',
  more: '{{by}} higher than {{name}}, more than chance would explain ({{size}} effect, Welch’s test, {{n}} and {{than}} answers, {{p}}).',
  'score less':
    'A score {{by}} points lower than {{name}}, more than chance would explain ({{size}} effect, Welch’s test, {{n}} and {{than}} answers, {{p}}).',
  'score more':
    'A score {{by}} points higher than {{name}}, more than chance would explain ({{size}} effect, Welch’s test, {{n}} and {{than}} answers, {{p}}).',
  'share less':
    '“{{label}}” {{by}} points less often than {{name}}, more than chance would explain ({{size}} effect, {{test}}, {{n}} and {{than}} answers, {{p}}).',
  'share more':
    '“{{label}}” {{by}} points more often than {{name}}, more than chance would explain ({{size}} effect, {{test}}, {{n}} and {{than}} answers, {{p}}).',
  'no difference':
    'No more different from {{name}} than chance would make it ({{test}}, {{n}} and {{than}} answers, {{p}}).',
  'too little': 'Too few answers to tell it from {{name}} ({{n}} and {{than}}).',
  'other kind': 'It was another kind of question then, so the two are not compared.',
  'other scale': 'It had another scale then, so the two are not compared.',
  'no choice shared': 'It had other choices then, so the two are not compared.',
  'the others': 'all the others',
  // Tests
  welch: 'Welch’s test',
  'two shares': 'test of two shares',
  fisher: 'Fisher’s exact test',
  // Groups
  'first time': 'first time',
  'came before': 'came before',
  member: 'members',
  'no member': 'no members',
  unknown: 'not known',
  and: 'and',
  // Why answers are not told apart
  'groups later':
    'Answers without names are told apart only once no more can come: until then, one new answer would show who gave it.',
  'groups too small': 'Too few answered to tell groups apart without showing who said what.',
  'group named':
    'Nothing of who answered is known. In the plan of the survey, one of its questions can be chosen to tell answers apart by.',
  // Tasks that come of answers
  task: 'After “{{event}}”: {{said}}. They agreed to be written to about it.',
  'task said': '“{{answer}}” to “{{question}}”',
  'task asked': 'They answered the survey without their name, and would like to hear from you',
} as const;
