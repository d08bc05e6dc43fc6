import { cellOf, type Draft } from './draft';
import { nameOfThing } from './things';

/** What something on the grid is called. */
export type Titled = (path: string) => string;

/** "First Hive → Honey Harvest" of a cell, the name of what is no cell. */
export function inWordsOf(place: string, draft: Draft, titled: Titled): string {
  if (!place.startsWith('[')) return nameOfThing(place, draft.things[place]?.to);
  const [source, target] = cellOf(place);
  return `${titled(source)} → ${titled(target)}`;
}
