import { Link } from '@tanstack/react-router';
import { useState, type SubmitEvent } from 'react';
import { api, problemOf, type Schemas } from '../api/client';
import { Fault } from '../ui/parts';
import { useSettled } from '../ui/settled';
import { counted } from '../ui/words';
import { asCells, cellOf, isEmpty, type Change, type Draft } from './draft';
import { Proposals } from './Proposals';
import type { Grid } from './shown';
import { titleOf } from './StaleDraft';
import { inWords } from './terms';

const SETTLED_MS = 120;
/** So many changes are listed before the figures of publishing. */
const AT_A_GLANCE = 6;

interface Props {
  draft: Draft;
  grid: Grid;
  stale: boolean;
  onTake: (cells: Schemas['DraftCell'][]) => void;
  onDiscard: () => void;
  onPublished: () => Promise<void>;
  onRefused: () => Promise<void>;
}

/** What publishing the draft would change, computed by the engine over everything that happened. */
export function Consequence(props: Props) {
  const { draft, grid } = props;
  if (isEmpty(draft)) {
    return (
      <section className="quiet">
        <h2>If you publish</h2>
        <p>
          Nothing is changed yet. Open or close a cell, and here you see who gains and who loses, before
          anything happens.
        </p>
        <p>
          Rulebook {grid.version} is in force.{' '}
          <Link to="/mapping" search={{ view: 'history' }}>
            What changed when
          </Link>
        </p>
        <Proposals onTake={props.onTake} />
      </section>
    );
  }
  return <Drafted {...props} />;
}

function Drafted({ draft, grid, stale, onDiscard, onPublished, onRefused }: Props) {
  const [cells, settled] = useSettled(asCells(draft), SETTLED_MS);
  const document = draft.whole?.document;
  const consequence = api.useQuery(
    'post',
    '/api/mapping/consequence',
    { body: wanted(cells, document) },
    { placeholderData: (previous) => previous, staleTime: 5_000 },
  );
  const changes = Object.entries(draft.changes);
  const counting = !settled || consequence.isPlaceholderData || consequence.isFetching;
  const row = ([key, change]: [string, Change]) => (
    <li key={key} className={change.to === null ? 'change-removed' : undefined}>
      <strong>{titleOf(key, grid)}</strong>
      <span>{difference(key, change, grid)}</span>
    </li>
  );
  return (
    <section>
      <div className="margin-head">
        <h2>If you publish this draft</h2>
        <span className="soft">{counting ? 'counting …' : counted(size(draft), 'change', 'changes')}</span>
      </div>
      {consequence.error !== null && <Fault error={consequence.error} />}
      {consequence.data !== undefined && <Figures consequence={consequence.data} counting={counting} />}
      <ul className="changes">{changes.slice(0, AT_A_GLANCE).map(row)}</ul>
      {changes.length > AT_A_GLANCE && (
        <details>
          <summary>and {changes.length - AT_A_GLANCE} more</summary>
          <ul className="changes">{changes.slice(AT_A_GLANCE).map(row)}</ul>
        </details>
      )}
      {draft.whole !== undefined && draft.whole.more.length > 0 && (
        <ul className="changes">
          {draft.whole.more.map((line) => (
            <li key={line}>
              <strong>{line}</strong>
            </li>
          ))}
        </ul>
      )}
      <PublishForm
        draft={draft}
        consequence={consequence.data}
        stale={stale}
        onDiscard={onDiscard}
        onPublished={onPublished}
        onRefused={onRefused}
      />
      {consequence.data !== undefined && <Who consequence={consequence.data} />}
      {(consequence.data?.total ?? 0) > 0 && <SaveList cells={cells} document={document} />}
    </section>
  );
}

/** A draft as the server takes it. */
function wanted(changes: Schemas['DraftCell'][], document: string | undefined) {
  return { changes, ...(document !== undefined && { document }) };
}

function size(draft: Draft): number {
  return Object.keys(draft.changes).length + (draft.whole?.more.length ?? 0);
}

function difference(key: string, change: Change, grid: Grid): string {
  if (change.to === null) return 'no longer opens';
  const opener = grid.sources.find((row) => row.source === cellOf(key)[0]);
  const to = inWords(change.to, opener);
  return change.was === null ? to : `${to} (was ${inWords(change.was, opener)})`;
}

function Figures({ consequence, counting }: { consequence: Schemas['DraftConsequence']; counting: boolean }) {
  return (
    <div
      className={counting ? 'figures figures-counting' : 'figures'}
      aria-live="polite"
      aria-busy={counting}
    >
      <div>
        <strong className="good">{consequence.gain}</strong> gain access
      </div>
      <div>
        <strong className="bad">{consequence.lose}</strong> lose access
      </div>
      <div>
        <strong>{consequence.endEarlier}</strong> end earlier
      </div>
      {consequence.endLater > 0 && (
        <div>
          <strong>{consequence.endLater}</strong> end later
        </div>
      )}
    </div>
  );
}

const KINDS: Record<Schemas['PersonChange']['kind'], { verb: string; tone: string }> = {
  GAINS: { verb: 'gains', tone: 'good' },
  LOSES: { verb: 'loses', tone: 'bad' },
  LONGER: { verb: 'keeps longer', tone: 'good' },
  SHORTER: { verb: 'keeps shorter', tone: 'bad' },
  OTHERWISE: { verb: 'has at other times', tone: 'soft' },
};

function Who({ consequence }: { consequence: Schemas['DraftConsequence'] }) {
  if (consequence.total === 0) {
    return <p className="soft">Nobody who bought so far is touched. It counts for purchases from now on.</p>;
  }
  const more = consequence.total - consequence.people.length;
  return (
    <>
      <h3>Who</h3>
      <ul className="who">
        {consequence.people.map((change) => (
          <li key={`${change.name}-${change.target}-${change.person ?? ''}`}>
            {change.person === undefined ? (
              <strong>{change.name}</strong>
            ) : (
              <Link to="/people/$id" params={{ id: String(change.person) }}>
                {change.name}
              </Link>
            )}
            <strong className={KINDS[change.kind].tone}>
              {KINDS[change.kind].verb} {change.target}
            </strong>
            <span>
              {change.after ?? `had ${change.before ?? ''}`} · {change.reason}
            </span>
          </li>
        ))}
      </ul>
      {more > 0 && <p className="soft">and {more} more</p>}
    </>
  );
}

/** Everybody whom it touches, as a file. */
function SaveList({ cells, document }: { cells: Schemas['DraftCell'][]; document: string | undefined }) {
  const list = api.useMutation('post', '/api/mapping/consequence/list', {
    onSuccess: (csv) => {
      const link = window.document.createElement('a');
      link.href = `data:text/csv;charset=utf-8,${encodeURIComponent(csv)}`;
      link.download = 'whom-it-touches.csv';
      link.click();
    },
  });
  return (
    <>
      <button
        className="btn btn-sm"
        disabled={list.isPending}
        onClick={() =>
          list.mutate({
            body: wanted(cells, document),
            parseAs: 'text',
          })
        }
      >
        {list.isPending ? 'Writing …' : 'Save the whole list'}
      </button>
      {list.error !== null && <Fault error={list.error} />}
    </>
  );
}

interface PublishProps {
  draft: Draft;
  consequence: Schemas['DraftConsequence'] | undefined;
  stale: boolean;
  onDiscard: () => void;
  onPublished: () => Promise<void>;
  onRefused: () => Promise<void>;
}

function PublishForm({ draft, consequence, stale, onDiscard, onPublished, onRefused }: PublishProps) {
  const [note, setNote] = useState('');
  const publish = api.useMutation('post', '/api/mapping/publish', {
    onSuccess: onPublished,
    onError: (error) => {
      if (problemOf(error).status === 409) void onRefused();
    },
  });
  const lose = consequence?.lose ?? 0;
  const submit = (event: SubmitEvent) => {
    event.preventDefault();
    publish.mutate({
      body: {
        ...wanted(asCells(draft), draft.whole?.document),
        base: draft.base,
        note,
      },
    });
  };
  return (
    <form onSubmit={submit} className="publish">
      {publish.error !== null && publish.error.status !== 409 && <Fault error={publish.error} />}
      <label htmlFor="publish-note">What is it for?</label>
      <input
        id="publish-note"
        className="input"
        maxLength={500}
        placeholder="kept in the history; may be empty"
        value={note}
        onChange={(event) => setNote(event.target.value)}
      />
      {lose > 0 && (
        <p className="bad">
          <strong>{counted(lose, 'person loses', 'people lose')} access</strong> the moment this is published.
        </p>
      )}
      <div className="acts">
        <button
          className="btn btn-primary"
          disabled={publish.isPending || stale || consequence === undefined}
        >
          {publish.isPending ? 'Publishing …' : `Publish ${counted(size(draft), 'change', 'changes')}`}
        </button>
        <button type="button" className="btn" onClick={onDiscard}>
          Discard
        </button>
      </div>
    </form>
  );
}
