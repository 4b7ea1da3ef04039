import { account } from './account.ts';
import { applying } from './applying.ts';
import { archive } from './archive.ts';
import { changes } from './changes.ts';
import { clearance } from './clearance.ts';
import { common } from './common.ts';
import { contacts } from './contacts.ts';
import { crew } from './crew.ts';
import { desk } from './desk.ts';
import { door } from './door.ts';
import { event } from './event.ts';
import { initiatives } from './initiatives.ts';
import { ledger } from './ledger.ts';
import { lessons } from './lessons.ts';
import { messages } from './messages.ts';
import { offers } from './offers.ts';
import { organization } from './organization.ts';
import { outcomes } from './outcomes.ts';
import { parts } from './parts.ts';
import { questions } from './questions.ts';
import { queue } from './queue.ts';
import { records } from './records.ts';
import { reports } from './reports.ts';
import { season } from './season.ts';
import { seats } from './seats.ts';
import { series } from './series.ts';
import { shell } from './shell.ts';
import { surveys } from './surveys.ts';
import { team } from './team.ts';
import { terms } from './terms.ts';
import { thanks } from './thanks.ts';
import { tray } from './tray.ts';
import { waivers } from './waivers.ts';

/** Every phrase of the coordinator's screens in English, by place. Another language is a folder beside this one. */
export const phrases = {
  account,
  applying,
  archive,
  changes,
  clearance,
  common,
  contacts,
  crew,
  desk,
  door,
  event,
  initiatives,
  ledger,
  lessons,
  messages,
  offers,
  organization,
  outcomes,
  parts,
  questions,
  queue,
  records,
  reports,
  season,
  seats,
  series,
  shell,
  surveys,
  team,
  terms,
  thanks,
  tray,
  waivers,
} as const;
