export const parts = {
  confirmedHeldFreeWaitlisted:
    '{{confirmed}} confirmed, {{held}} held, {{free}} free, {{waitlisted}} waitlisted',
  guardianMissing: 'guardian missing',
  free: 'free',
  signed: 'signed',
  missing: 'missing',
} as const;
