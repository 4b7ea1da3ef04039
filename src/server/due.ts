import { openAttempts } from '#core/money/attempts.ts';
import { inTransaction, systemActor } from './app/app.ts';
import { nextReturnSql, returnDue } from './changes/returns.ts';
import { changeStands, nextChangeSql } from './changes/takingBack.ts';
import { nextNudgeSql, nudge } from './clearance/nudging.ts';
import { dropLooseCertificates, nextLooseCertificateSql } from './crew/applyingStore.ts';
import { settleDue } from './crew/depositCommands.ts';
import { nextDepositSql } from './crew/depositStore.ts';
import { answerDue } from './crew/steppingInCommands.ts';
import { nextAnswerSql } from './crew/steppingInStore.ts';
import { among } from './db/among.ts';
import { findAbsences, passNight } from './doors/closing.ts';
import { nextNightSql } from './doors/store.ts';
import { endSql } from './events/end.ts';
import { moveOn } from './events/moving.ts';
import { chargeInstalment } from './giving/giving.ts';
import { nextPledgeSql } from './giving/store.ts';
import type { DueKind } from './jobs/runner.ts';
import { cameBack } from './messages/delivery.ts';
import { nextMessageSql, nextMessagesSql, sendMessages } from './messages/sending.ts';
import { nextYearSql, planStale } from './messages/yearRound.ts';
import { carryLot, nextCarrySql } from './money/carrying.ts';
import { askAgain } from './money/charging.ts';
import { askRefund, nextRefundSql, nextStatementSql, readStatement, takeNotice } from './money/statement.ts';
import { tellNotices } from './notices/commands.ts';
import { nextNoticesSql } from './notices/store.ts';
import { dropLoosePictures, nextLoosePictureSql } from './outcomes/tallyStore.ts';
import { nextDiarySql, readAgain } from './places/diaries.ts';
import { writeLot } from './receipts/batches.ts';
import { nextBatchSql } from './receipts/store.ts';
import { dropLooseFiles, nextLooseFileSql } from './registration/answerFiles.ts';
import { forgetAnswers, nextForgettingSql } from './registration/forgetting.ts';
import { lapse } from './registration/waiting.ts';
import { makeDates } from './series/making.ts';
import { nextSeriesSql } from './series/store.ts';
import { comeAbout, deliverNotice, nextComingSql, nextNoticeSql } from './standins/cards.ts';
import { nextMailNoticeSql, takeMailNotice } from './standins/mail.ts';
import { forgetHealthOf } from './waivers/commands.ts';
import { nextForgottenSql } from './waivers/signatureStore.ts';

const end = endSql();

/** Everything that comes due by itself. At the same instant the order of this list holds. */
export const dueKinds: readonly DueKind[] = [
  {
    what: 'what happens at the card processor',
    next: nextComingSql,
    run: (app, due) => comeAbout(app.cardsAround, due.id),
  },
  {
    what: 'notifications of the card processor',
    next: nextNoticeSql,
    // One that was taken in but not ticked off comes again, and changes nothing.
    run: (app, due) =>
      deliverNotice(app.cardsAround, due.id, (headers, body) => takeNotice(app, headers, body)),
  },
  {
    what: 'mail that came back',
    next: nextMailNoticeSql,
    run: (app, due) =>
      inTransaction(app, systemActor, async (w) => {
        const notice = await takeMailNotice(w.tx, due.id);
        if (notice)
          await cameBack(w, notice.key.split('.')[0]!, notice.how, 'nobody has this address (stand-in)');
      }),
  },
  {
    what: 'what the team is told of',
    next: nextNoticesSql,
    run: (app, due) => tellNotices(app, due.id),
  },
  {
    what: 'deposits of volunteers',
    next: nextDepositSql,
    run: (app, due) => settleDue(app, due.id),
  },
  {
    what: 'receipts of a year',
    next: nextBatchSql,
    run: (app, due) => writeLot(app, due.id),
  },
  {
    what: 'monthly gifts',
    next: nextPledgeSql,
    run: (app, due) => chargeInstalment(app, systemActor, due.id),
  },
  {
    what: 'refunds by card',
    next: nextRefundSql,
    run: (app, due) => askRefund(app, due.id),
  },
  {
    what: 'statement of the card processor',
    next: nextStatementSql,
    run: async (app) => {
      await readStatement(app);
    },
  },
  {
    what: 'payments asked about',
    next: 'select ask_at as at, id from payment_attempts where ask_at is not null order by ask_at, id limit 1',
    run: (app, due) => askAgain(app, due.id),
  },
  {
    what: 'seats no longer held',
    // A hold does not run out under somebody whose payment has no answer yet.
    next: `select held_until as at, id from orders o where held_until is not null and not exists (
       select 1 from payment_attempts p where p.order_id = o.id and p.state in ${among(openAttempts)}) order by held_until, id limit 1`,
    run: (app, due) => inTransaction(app, systemActor, (w) => lapse(w, due.id, 'not paid in time')),
  },
  {
    what: 'offers of seats that lapsed',
    next: 'select offered_until as at, id from orders where offered_until is not null order by offered_until, id limit 1',
    run: (app, due) =>
      inTransaction(app, systemActor, (w) => lapse(w, due.id, 'the offer was not taken in time')),
  },
  {
    what: 'diaries read again',
    next: nextDiarySql,
    run: (app, due) => readAgain(app, due.id),
  },
  {
    what: 'dates of series made ahead',
    next: nextSeriesSql,
    run: (app, due) =>
      inTransaction(app, systemActor, async (w) => {
        await makeDates(w, due.id);
      }),
  },
  {
    what: 'reminders of steps to decide',
    next: nextNudgeSql,
    run: (app, due) => inTransaction(app, systemActor, (w) => nudge(w, due.id)),
  },
  {
    what: 'changes that stand',
    next: nextChangeSql,
    run: (app, due) => changeStands(app, due.id),
  },
  {
    what: 'money of events called off',
    next: nextReturnSql,
    run: (app, due) => returnDue(app, due.id),
  },
  {
    what: 'orders carried over into the books',
    next: nextCarrySql,
    run: async (app) => {
      await carryLot(app);
    },
  },
  {
    what: 'whose memberships or gifts changed',
    next: nextYearSql,
    run: (app) => planStale(app),
  },
  {
    what: 'messages',
    next: nextMessageSql,
    together: { next: nextMessagesSql, run: sendMessages },
  },
  {
    what: 'registrations closed',
    next: `select least(coalesce(registration_closes_at, ${end}), ${end}) as at, id from events
       where state = 'open' and not is_template and starts_at is not null order by 1, id limit 1`,
    run: (app, due) =>
      inTransaction(app, systemActor, async (w) => {
        await moveOn(w, due.id, 'closed', 'the time for registering was over');
      }),
  },
  {
    what: 'sensitive answers deleted',
    next: nextForgettingSql,
    run: (app, due) => inTransaction(app, systemActor, (w) => forgetAnswers(w, due.id)),
  },
  {
    what: 'what signatures say about health and no longer may',
    next: nextForgottenSql,
    run: (app, due) => inTransaction(app, systemActor, (w) => forgetHealthOf(w, due.id)),
  },
  {
    what: 'files that no order named',
    next: nextLooseFileSql,
    run: (app, due) => dropLooseFiles(app, due.at),
  },
  {
    what: 'pictures that no tally named',
    next: nextLoosePictureSql,
    run: (app, due) => dropLoosePictures(app, due.at),
  },
  {
    what: 'who was asked to step in and has not answered',
    next: nextAnswerSql,
    run: (app, due) => inTransaction(app, systemActor, (w) => answerDue(w, due.id)),
  },
  {
    what: 'certificates that no application named',
    next: nextLooseCertificateSql,
    run: (app, due) => dropLooseCertificates(app, due.at),
  },
  {
    what: 'absences worked out',
    next: `select ${end} as at, id from events where state = 'closed' and (absences_at is null or absences_at < ${end}) and starts_at is not null order by 1, id limit 1`,
    run: (app, due) =>
      inTransaction(app, systemActor, async (w) => {
        await findAbsences(w, due.id);
      }),
  },
  {
    what: 'nights between the days of an event',
    next: nextNightSql,
    run: (app, due) => inTransaction(app, systemActor, (w) => passNight(w, due.id, due.at)),
  },
];
