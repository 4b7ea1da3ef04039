export const ledger = {
  letOff: 'let off',
  refundOf: 'refund of {{what}}',
  donation: 'donation, {{fund}}',
  reference: 'Reference',
  amount: 'Amount',
  exportAsCsv: 'Export as CSV: {{what}}',
  forOfOrderAsked:
    '{{noAnswer}} for {{amount}} of {{name}}, order {{orderNumber}}, asked {{since}}. It settles itself when the answer comes.',
  noAnswerFromThe: 'No answer from the card processor',
  seatsDonationsRefunds: 'seats {{seats}} + donations {{donations}} − refunds {{refunds}} = {{net}}',
  letOffInAll: '{{waived}} let off',
  theNewestAreShown: 'the newest {{rows}} are shown',
  movementsOfMoney: 'Movements of money',
  noMoneyHasMoved: 'No money has moved yet.',
  seats: 'seats',
  showEverything: 'Show everything',
  nothingOfThisKind: 'Nothing of this kind.',
} as const;
