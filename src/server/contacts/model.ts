import type { Described } from '#core/contacts/comparing.ts';
import { carefulThresholds, type Thresholds } from '#core/contacts/match.ts';
import { firstModel, type MatchingModel } from '#core/contacts/weights.ts';
import type { App, Work } from '../app/app.ts';
import { first, type Queries } from '../db/database.ts';
import { inThread } from '../threads/threads.ts';

/** What comparisons are weighed by, and from where on somebody is linked or looked at. */
export interface Matching {
  model: MatchingModel;
  /** For lists that are reviewed: the coordinator's own line. */
  thresholds: Thresholds;
  /** Where nobody reviews what was linked. */
  careful: Thresholds;
}

/** The largest number of contacts that estimates are made from. */
const sample = 8000;
const kept = new WeakMap<object, Matching>();

/** Announced, to every process of the database, when the model or its lines are others by now. */
const matchingChanged = 'matching changed';

/** The organization's model, kept in memory until some process changes it. */
export async function readMatching(w: { app: App; tx: Queries }): Promise<Matching> {
  const before = kept.get(w.app);
  if (before) return before;
  const row = await first<{ parameters: MatchingModel | null; sameFrom: number; lookFrom: number }>(
    w.tx,
    'select parameters, same_from, look_from from matching_model',
  );
  const thresholds = { same: row?.sameFrom ?? 0.95, look: row?.lookFrom ?? 0.1 };
  const matching: Matching = {
    model: row?.parameters ?? firstModel,
    thresholds,
    careful: { same: Math.max(carefulThresholds.same, thresholds.same), look: thresholds.look },
  };
  kept.set(w.app, matching);
  const stop = w.app.announcer.listen(matchingChanged, () => {
    kept.delete(w.app);
    stop();
  });
  return matching;
}

/** Moves the lines from which records are linked or looked at. */
export async function setThresholds(
  w: Pick<Work, 'app' | 'tx' | 'afterwards'>,
  thresholds: Thresholds,
): Promise<void> {
  await w.tx.query('update matching_model set same_from = $1, look_from = $2', [
    thresholds.same,
    thresholds.look,
  ]);
  kept.delete(w.app);
  w.afterwards(() => w.app.announcer.announce(matchingChanged));
}

/** Estimates the model from the contacts there are. Reads at most a few thousand, spread evenly. */
export async function estimateModel(app: App): Promise<MatchingModel> {
  const people = (await first<{ n: number }>(
    app.db,
    'select count(*)::int as n from contacts where merged_into is null',
  ))!.n;
  const every = Math.max(1, Math.ceil(people / sample));
  const rows = await app.db.query<Described>(
    `select given_name as given, family_name as family, birth_date, postal_code, street,
       coalesce((select array_agg(email_key) from contact_emails e where e.contact_id = c.id), '{}') as emails,
       coalesce((select array_agg(phone) from contact_phones p where p.contact_id = c.id), '{}') as phones
     from (select *, row_number() over (order by id) as n from contacts where merged_into is null and kind = 'person') c
     where c.n % $1 = 0`,
    [every],
  );
  const model = { ...(await inThread('estimate the matching model', { people: rows })), people };
  await app.db.query('update matching_model set parameters = $1, estimated_at = $2', [
    JSON.stringify(model),
    app.clock.now(),
  ]);
  app.announcer.announce(matchingChanged);
  return model;
}
