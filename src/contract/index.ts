import { acceptingContract } from './accepting.ts';
import { agendaContract } from './agenda.ts';
import { applyingContract } from './applying.ts';
import { archiveContract } from './archive.ts';
import { attendanceContract } from './attendance.ts';
import { backupContract } from './backup.ts';
import { bankContract } from './bank.ts';
import { boardContract } from './board.ts';
import { booksContract } from './books.ts';
import { cardsContract } from './cards.ts';
import { changesContract } from './changes.ts';
import { clearanceContract } from './clearance.ts';
import { contactsContract } from './contacts.ts';
import { crewContract } from './crew.ts';
import { crewMailContract } from './crewMail.ts';
import { depositsContract } from './deposits.ts';
import { doorsContract } from './doors.ts';
import { dutiesContract } from './duties.ts';
import { eventAccountContract } from './eventAccount.ts';
import { eventsContract } from './events.ts';
import { exchangingContract } from './exchanging.ts';
import { fieldsContract } from './fields.ts';
import { filesContract } from './files.ts';
import { fillingContract } from './filling.ts';
import { followingContract } from './following.ts';
import { givingContract } from './giving.ts';
import { guestListsContract } from './guestLists.ts';
import { guestsContract } from './guests.ts';
import { importsContract } from './imports.ts';
import { incomingContract } from './incoming.ts';
import { initiativesContract } from './initiatives.ts';
import { invitedContract } from './invited.ts';
import { kindsContract } from './kinds.ts';
import { lessonsContract } from './lessons.ts';
import { lettersContract } from './letters.ts';
import { mailingsContract } from './mailings.ts';
import { measuresContract } from './measures.ts';
import { messagesContract } from './messages.ts';
import { mineContract } from './mine.ts';
import { moneyContract } from './money.ts';
import { noticesContract } from './notices.ts';
import { outcomesContract } from './outcomes.ts';
import { ownContract } from './own.ts';
import { pairsContract } from './pairs.ts';
import { papersContract } from './papers.ts';
import { picturesContract } from './pictures.ts';
import { placesContract } from './places.ts';
import { proposalsContract } from './proposals.ts';
import { questionSetsContract } from './questionSets.ts';
import { receiptsContract } from './receipts.ts';
import { recordsContract } from './records.ts';
import { registrationContract } from './registration.ts';
import { reportsContract } from './reports.ts';
import { rolesContract } from './roles.ts';
import { seatsContract } from './seats.ts';
import { seriesContract } from './series.ts';
import { servingContract } from './serving.ts';
import { staffContract } from './staff.ts';
import { steppingInContract } from './steppingIn.ts';
import { surveysContract } from './surveys.ts';
import { swappingContract } from './swapping.ts';
import { thanksContract } from './thanks.ts';
import { tiesContract } from './ties.ts';
import { timeContract } from './time.ts';
import { viewsContract } from './views.ts';
import { waiversContract } from './waivers.ts';
import { yearRoundContract } from './yearRound.ts';

/** Every endpoint of the product. The server, the web client and the OpenAPI description are typed from it. */
export const everything = {
  ...staffContract,
  ...backupContract,
  ...timeContract,
  ...contactsContract,
  ...tiesContract,
  ...viewsContract,
  ...mailingsContract,
  ...exchangingContract,
  ...invitedContract,
  ...fieldsContract,
  ...guestsContract,
  ...guestListsContract,
  ...acceptingContract,
  ...questionSetsContract,
  ...importsContract,
  ...pairsContract,
  ...ownContract,
  ...mineContract,
  ...eventsContract,
  ...changesContract,
  ...seriesContract,
  ...dutiesContract,
  ...kindsContract,
  ...filesContract,
  ...picturesContract,
  ...placesContract,
  ...clearanceContract,
  ...papersContract,
  ...agendaContract,
  ...proposalsContract,
  ...registrationContract,
  ...seatsContract,
  ...bankContract,
  ...booksContract,
  ...cardsContract,
  ...eventAccountContract,
  ...givingContract,
  ...receiptsContract,
  ...waiversContract,
  ...moneyContract,
  ...crewContract,
  ...rolesContract,
  ...applyingContract,
  ...depositsContract,
  ...fillingContract,
  ...steppingInContract,
  ...servingContract,
  ...crewMailContract,
  ...swappingContract,
  ...messagesContract,
  ...followingContract,
  ...boardContract,
  ...noticesContract,
  ...incomingContract,
  ...lettersContract,
  ...yearRoundContract,
  ...attendanceContract,
  ...doorsContract,
  ...lessonsContract,
  ...surveysContract,
  ...measuresContract,
  ...outcomesContract,
  ...initiativesContract,
  ...archiveContract,
  ...thanksContract,
  ...recordsContract,
  ...reportsContract,
};
export type Everything = typeof everything;
