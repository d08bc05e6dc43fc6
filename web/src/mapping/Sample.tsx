import { api } from '../api/client';
import { useSettled } from '../ui/settled';
import { asDraft, cellOf, type CellKey, type Draft } from './draft';
import { Fault } from '../ui/kit';

const SETTLED_MS = 200;

/** What a cell would do for somebody invented who comes today, computed by the engine. */
export function Sample({ cell, draft }: { cell: CellKey; draft: Draft }) {
  const [source, target] = cellOf(cell);
  const [wanted] = useSettled({ draft: asDraft(draft), source, target }, SETTLED_MS);
  const scenes = api.useQuery(
    'post',
    '/api/mapping/sample',
    { body: wanted },
    { placeholderData: (previous) => previous, retry: false },
  );
  if (scenes.error !== null) return <Fault error={scenes.error} />;
  if (scenes.data === undefined || scenes.data.length === 0) return null;
  return (
    <section className="rounded-box bg-figure px-3 py-2.5" aria-label="For somebody who comes today">
      <h3>For somebody who comes today</h3>
      <dl>
        {scenes.data.map((scene) => (
          <div key={scene.what}>
            <dt>{scene.what}</dt>
            <dd>{scene.open.length === 0 ? 'not open' : scene.open.join('; ')}</dd>
          </div>
        ))}
      </dl>
    </section>
  );
}
