import { api, type Schemas } from '../api/client';
import { counted } from '../ui/words';
import { Notice } from '../ui/kit';

const LOOK_MS = 1_000;

/** What a publish has done, and how far the systems have been told, counted down while one looks. */
export function Published({ publish }: { publish: Schemas['Publish'] }) {
  // whom it concerns is looked over after it is in force: what waits may be nothing at first, and then much
  const systems = api.useQuery('get', '/api/systems', undefined, { refetchInterval: LOOK_MS });
  const waiting = systems.data?.systems.reduce((sum, system) => sum + system.waiting, 0);
  const failing = systems.data?.systems.filter((system) => system.failing > 0) ?? [];
  const figures = [
    publish.gained > 0 && `${publish.gained} gained`,
    publish.lost > 0 && `${publish.lost} lost`,
    publish.otherEnd > 0 && `${publish.otherEnd} have more or less time`,
  ].filter(Boolean);
  return (
    <Notice role="status">
      <strong>Done: rulebook {publish.number} is in force.</strong>
      <span>{figures.length === 0 ? 'Nobody is touched by it.' : `${figures.join(', ')}.`}</span>
      {waiting !== undefined && (
        <span>
          {waiting === 0
            ? 'Nothing waits to be told to the systems now.'
            : `${counted(waiting, 'thing is', 'things are')} still to be told to the systems …`}
        </span>
      )}
      {failing.map((system) => (
        <span key={system.id}>{system.title} does not answer as asked; it is tried again by itself.</span>
      ))}
    </Notice>
  );
}
