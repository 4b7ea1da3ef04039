import type sharp from 'sharp';

let loaded: Promise<typeof sharp> | null = null;

/** What reads and makes pictures: loaded when the first one comes, so that starting does not wait for it. */
export function loadSharp(): Promise<typeof sharp> {
  loaded ??= import('sharp').then(({ default: library }) => {
    // One picture at a time on one core: others wait, pages do not.
    library.concurrency(1);
    library.cache(false);
    return library;
  });
  return loaded;
}
