import { createContext, useContext } from 'react';
import type { Saving } from './useSelfSaving.ts';

/** What the parts of the kit say themselves. Every language has them. */
export interface KitWords {
  language: 'en' | 'fr';
  required: string;
  /** Over the problems of a form. */
  toCorrect: (count: number) => string;
  /** What the notices that come and go are called to whoever listens. */
  notices: string;
  close: string;
  cancel: string;
  remove: (what: string) => string;
  filters: (inUse: number) => string;
  nothingFound: string;
  /** Tables: which columns, where they stand, and which rows are chosen. */
  columns: string;
  earlier: (column: string) => string;
  later: (column: string) => string;
  asUsual: string;
  narrower: (column: string) => string;
  wider: (column: string) => string;
  /** Long lists, part by part. */
  parts: string;
  previous: string;
  next: string;
  /** A number of things, with its thousands parted. */
  count: (n: number) => string;
  range: (from: number, to: number, total?: number) => string;
  chooseAll: string;
  chooseRow: string;
  loading: string;
  failed: string;
  tryAgain: string;
  /** In place of a page that could not be drawn; or of which a part did not arrive. */
  pageFailed: string;
  pageFailedText: string;
  partMissing: string;
  stop: string;
  of: string;
  saving: Record<Saving, string>;
  /** Leaving what was typed and not sent. */
  leaveTitle: string;
  leaveText: string;
  stay: string;
  leave: string;
  /** What was typed before was found on this device. */
  restored: string;
  startOver: string;
}

export const kitEn: KitWords = {
  language: 'en',
  required: 'required',
  toCorrect: (count) => (count === 1 ? 'One thing to correct' : `${count} things to correct`),
  notices: 'Notices',
  close: 'Close',
  cancel: 'Cancel',
  remove: (what) => `Remove ${what}`,
  filters: (inUse) => (inUse ? `Filters (${inUse})` : 'Filters'),
  nothingFound: 'Nothing found',
  columns: 'Columns',
  earlier: (column) => `Move ${column} to the left`,
  later: (column) => `Move ${column} to the right`,
  asUsual: 'Back to the usual columns',
  narrower: (column) => `Make ${column} narrower`,
  wider: (column) => `Make ${column} wider`,
  parts: 'Parts of the list',
  previous: 'Previous',
  next: 'Next',
  count: (n) => n.toLocaleString('en-CA'),
  range: (from, to, total) =>
    total === undefined ? `${from} to ${to}` : `${from} to ${to} of ${total.toLocaleString('en-CA')}`,
  chooseAll: 'Choose all shown',
  chooseRow: 'Choose (x)',
  loading: 'One moment …',
  failed: 'Something went wrong here.',
  tryAgain: 'Try again',
  pageFailed: 'This page could not be shown',
  pageFailedText:
    'What was saved is safe. If trying again does not help, tell whoever looks after this site what you were about to do.',
  partMissing: 'A part of it did not arrive. Check your connection, then try again.',
  stop: 'Stop',
  of: 'of',
  saving: { saved: 'Saved', unsaved: 'Not saved yet', saving: 'Saving …', failed: 'Not saved' },
  leaveTitle: 'Discard what you typed?',
  leaveText: 'It has not been saved.',
  stay: 'Keep editing',
  leave: 'Discard',
  restored: 'What you typed earlier is still here.',
  startOver: 'Start over',
};

/** The words of the kit in the language of the page. */
export const KitLanguage = createContext<KitWords>(kitEn);
export const useKitWords = (): KitWords => useContext(KitLanguage);
