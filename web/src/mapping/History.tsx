import { api, type Schemas } from '../api/client';
import { useSession } from '../session/session';
import { shownTime } from '../ui/dates';
import { useLoad } from './useLoad';
import { Acts, Button, buttonLook, Empty, Fault, Panel, Waiting } from '../ui/kit';

/** Every publish, the latest first. */
export function History() {
  const history = api.useQuery('get', '/api/mapping/history');
  if (history.error !== null) return <Fault error={history.error} />;
  if (history.data === undefined) return <Waiting what="the history" />;
  if (history.data.length === 0) return <Empty title="Nothing has been published yet." />;
  return (
    <ol>
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
    <Panel as="li">
      <div className="flex flex-wrap items-baseline gap-x-3 gap-y-1">
        <h2>
          Rulebook {publish.number}
          {publish.note !== '' && <span className="font-medium">: {publish.note}</span>}
        </h2>
        <p className="text-soft">
          {shownTime(publish.at, zone)} by {publish.by} ·{' '}
          {figures.length === 0 ? 'nobody was touched' : figures.join(', ')}
        </p>
        <Acts className="ml-auto">
          <Button small disabled={load.isPending} onClick={() => load.takeBack(publish.number)}>
            Take back
          </Button>
          <a
            className={buttonLook({ small: true })}
            href={`/api/mapping/rulebook?version=${publish.number}`}
            download={`rulebook-${publish.number}.yaml`}
          >
            As a file
          </a>
        </Acts>
      </div>
      {load.error !== null && <Fault error={load.error} />}
      {publish.despite.length > 0 && (
        <p>
          Not as rehearsed: {publish.despite.join(', ')}. <span className="text-soft">{publish.why}</span>
        </p>
      )}
      <ul className="mt-1.5 list-disc pl-4">
        {publish.difference.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ul>
    </Panel>
  );
}
