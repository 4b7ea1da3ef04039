/** Who has to do with a unit, as SQL over a contact's id and the unit's: takes part in, serves at or belongs to it. */
export const inUnitSql = (contactId: string, unitId: string): string => `(
  exists (select 1 from registrations r join events e on e.id = r.event_id where r.contact_id = ${contactId} and e.unit_id = ${unitId})
  or exists (select 1 from orders o join events e on e.id = o.event_id where o.buyer_contact_id = ${contactId} and e.unit_id = ${unitId})
  or exists (select 1 from assignments a join shifts s on s.id = a.shift_id join events e on e.id = s.event_id
    where a.contact_id = ${contactId} and e.unit_id = ${unitId})
  or exists (select 1 from unit_people u where u.contact_id = ${contactId} and u.unit_id = ${unitId} and u.until is null))`;
