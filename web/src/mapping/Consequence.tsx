import { Link } from '@tanstack/react-router';
import { useState, type SubmitEvent } from 'react';
import { api, problemOf, type Schemas } from '../api/client';
import { useSession } from '../session/session';
import { shownDate } from '../ui/dates';
import { saveFile } from '../ui/files';
import { Fault } from '../ui/parts';
import { counted } from '../ui/words';
import { asDraft, cellOf, isEmpty, realChanges, realThings, size, type Change, type Draft } from './draft';
import { DraftFindings } from './DraftFindings';
import { Proposals } from './Proposals';
import type { Grid } from './shown';
import { titleOf } from './StaleDraft';
import { inWords } from './terms';
import { nameOfThing } from './things';
import { useConsequence, type Watched } from './useConsequence';
import { Who } from './Who';

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
          {grid.version === 0
            ? 'Nothing has been published so far.'
            : `Rulebook ${grid.version} is in force.`}{' '}
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
  const watched = useConsequence(draft);
  const { data: consequence, counting } = watched;
  return (
    <section>
      <div className="margin-head">
        <h2>If you publish this draft</h2>
        <span className="soft">{counting ? 'counting …' : counted(size(draft), 'change', 'changes')}</span>
      </div>
      <Going watched={watched} />
      {watched.error !== null && <Fault error={watched.error} />}
      {consequence !== undefined && <Figures consequence={consequence} counting={!watched.current} />}
      <Changes draft={draft} grid={grid} />
      <DraftFindings draft={draft} />
      <PublishForm
        draft={draft}
        consequence={watched.current ? consequence : undefined}
        stale={stale}
        onDiscard={onDiscard}
        onPublished={onPublished}
        onRefused={onRefused}
      />
      {consequence !== undefined && <Who consequence={consequence} />}
      {(consequence?.total ?? 0) > 0 && <SaveList draft={draft} />}
    </section>
  );
}

/** How far the counting is, where that takes long enough to be seen. */
function Going({ watched }: { watched: Watched }) {
  const { progress, stopped } = watched;
  if (stopped) {
    return (
      <p className="soft">
        Counting was stopped; the figures are not of this draft.{' '}
        <button className="link" onClick={watched.again}>
          Count
        </button>
      </p>
    );
  }
  if (progress === undefined || progress.of === 0) return null;
  return (
    <div className="going">
      <progress className="progress" aria-label="People looked at" max={progress.of} value={progress.done} />
      <span className="soft">
        {progress.done} of {counted(progress.of, 'person', 'people')}
      </span>
      <button className="btn btn-sm" onClick={watched.stop}>
        Stop
      </button>
    </div>
  );
}

function Changes({ draft, grid }: { draft: Draft; grid: Grid }) {
  const cells = realChanges(draft).map(([key, change]) => ({
    key,
    gone: change.to === null,
    title: titleOf(key, grid),
    words: difference(key, change, grid),
  }));
  const things = realThings(draft).map(([path, { to, was }]) => ({
    key: path,
    gone: to === null,
    title: nameOfThing(path, to ?? was),
    words: to === null ? 'no longer there' : was === null && !path.startsWith('school/') ? 'new' : 'changed',
  }));
  const rows = [...things, ...cells];
  const row = ({ key, gone, title, words }: (typeof rows)[number]) => (
    <li key={key} className={gone ? 'change-removed' : undefined}>
      <strong>{title}</strong>
      <span>{words}</span>
    </li>
  );
  return (
    <>
      <ul className="changes">{rows.slice(0, AT_A_GLANCE).map(row)}</ul>
      {rows.length > AT_A_GLANCE && (
        <details>
          <summary>and {rows.length - AT_A_GLANCE} more</summary>
          <ul className="changes">{rows.slice(AT_A_GLANCE).map(row)}</ul>
        </details>
      )}
    </>
  );
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
      <Figure figure={consequence.gain} tone="good" words="gain access" />
      <Figure figure={consequence.lose} tone="bad" words="lose access" />
      <Figure figure={consequence.shorter} words="have less time" />
      {consequence.longer.people > 0 && <Figure figure={consequence.longer} words="have more time" />}
      {consequence.otherwise.people > 0 && <Figure figure={consequence.otherwise} words="at other times" />}
    </div>
  );
}

function Figure({ figure, tone, words }: { figure: Schemas['Figure']; tone?: string; words: string }) {
  const { zone } = useSession();
  return (
    <div>
      <strong className={tone}>{figure.people}</strong> {words}
      {figure.back !== undefined && (
        <small>
          <span className="bad">
            {figure.forATime < figure.people && `${figure.forATime} of them `}out until{' '}
            {shownDate(figure.back, zone)}
          </span>
        </small>
      )}
      {figure.later > 0 && figure.later < figure.people && <small>{figure.later} only later</small>}
      {figure.later > 0 && figure.later === figure.people && <small>only later</small>}
    </div>
  );
}

/** Everybody whom it touches, as a file. */
function SaveList({ draft }: { draft: Draft }) {
  const list = api.useMutation('post', '/api/mapping/consequence/list', {
    onSuccess: (csv) => saveFile('whom-it-touches.csv', csv),
  });
  return (
    <>
      <button
        className="btn btn-sm"
        disabled={list.isPending}
        onClick={() => list.mutate({ body: asDraft(draft), parseAs: 'text' })}
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
  const { zone } = useSession();
  const [note, setNote] = useState('');
  const publish = api.useMutation('post', '/api/mapping/publish', {
    onSuccess: onPublished,
    onError: (error) => {
      if (problemOf(error).status === 409) void onRefused();
    },
  });
  const lose = consequence?.lose.people ?? 0;
  const later = consequence?.lose.later ?? 0;
  const submit = (event: SubmitEvent) => {
    event.preventDefault();
    publish.mutate({
      body: {
        ...asDraft(draft),
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
          <strong>{counted(lose, 'person loses', 'people lose')} access</strong>{' '}
          {later === 0
            ? 'the moment this is published.'
            : later === lose
              ? 'later than they would, not at once.'
              : `the moment this is published, ${later} of them only later.`}
          {consequence?.lose.back !== undefined &&
            ` ${consequence.lose.forATime === lose ? 'They are' : `${consequence.lose.forATime} of them are`} out until ${shownDate(consequence.lose.back, zone)}.`}
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
