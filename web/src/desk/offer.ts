import { api, type Schemas } from '../api/client';

/** What can be sold and given, as the rulebook in force and the shops have it. */
export function useOffer(): Schemas['Offer'] | undefined {
  return api.useQuery('get', '/api/desk/offer', undefined, { staleTime: 60_000 }).data;
}

/** Whether each word that was typed stands in one of the texts. */
export function matches(words: string, ...texts: string[]): boolean {
  const all = texts.join(' ').toLowerCase();
  return words
    .toLowerCase()
    .split(/\s+/)
    .every((word) => all.includes(word));
}
