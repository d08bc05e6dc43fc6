import { api, type Schemas } from '../api/client';
import { useSession } from '../session/session';
import { shownTime } from '../ui/dates';
import { Empty, Fault, Waiting } from '../ui/parts';
import { useLoad } from './useLoad';

/** Every publish, the latest first. */
export function History() {
  const history = api.useQuery('get', '/api/mapping/history');
  if (history.error !== null) return <Fault error={history.error} />;
  if (history.data === undefined) return <Waiting what="the history" />;
  if (history.data.length === 0) return <Empty title="Nothing has been published yet." />;
  return (
    <ol className="history">
      {history.data.map((publish) => (
        <PublishRow key={publish.number} publish={publish} />
      ))}
    </ol>
  );
}

function PublishRow({ publish }: { publish: Schemas['Publish'] }) {
  const { zone } = useSession();
  const load = useLoad();
  const figures = [
    publish.gained > 0 && `${publish.gained} gained`,
    publish.lost > 0 && `${publish.lost} lost`,
    publish.otherEnd > 0 && `${publish.otherEnd} with more or less time`,
  ].filter(Boolean);
  return (
    <li>
      <div className="history-head">
        <h2>
          Rulebook {publish.number}
          {publish.note !== '' && <span>: {publish.note}</span>}
        </h2>
        <p className="soft">
          {shownTime(publish.at, zone)} by {publish.by} ·{' '}
          {figures.length === 0 ? 'nobody was touched' : figures.join(', ')}
        </p>
        <div className="acts">
          <button
            className="btn btn-sm"
            disabled={load.isPending}
            onClick={() => load.takeBack(publish.number)}
          >
            Take back
          </button>
          <a
            className="btn btn-sm"
            href={`/api/mapping/rulebook?version=${publish.number}`}
            download={`rulebook-${publish.number}.yaml`}
          >
            As a file
          </a>
        </div>
      </div>
      {load.error !== null && <Fault error={load.error} />}
      <ul className="difference">
        {publish.difference.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ul>
    </li>
  );
}
