import { Link } from '@tanstack/react-router';
import { useState } from 'react';
import { api, problemOf, type Schemas } from '../api/client';
import { useSession } from '../session/session';
import { shownDate } from '../ui/dates';
import { saveFile } from '../ui/files';
import { counted } from '../ui/words';
import { useSet } from '../rehearse/useRun';
import {
  asDraft,
  cellOf,
  isEmpty,
  realChanges,
  realThings,
  size,
  type CellKey,
  type Change,
  type Draft,
} from './draft';
import { DoorsMet } from './DoorsMet';
import { DraftFindings } from './DraftFindings';
import { Proposals } from './Proposals';
import { titleOf, type Grid } from './shown';
import { forThoseWhoHaveIt, fromNowOn, inWords, isBought, type Terms } from './terms';
import { idIn } from './paths';
import { asPast, NOTHING_PAST, PastChoices } from './PastChoices';
import { nameOfThing } from './things';
import { useConsequence, type Watched } from './useConsequence';
import { Who } from './Who';
import {
  ActForm,
  Acts,
  Button,
  ConfirmButton,
  Fault,
  Field,
  Progress,
  Stat,
  TextButton,
  type Tone,
} from '../ui/kit';

/** So many changes are listed before the figures of publishing. */
const AT_A_GLANCE = 6;

interface Props {
  draft: Draft;
  grid: Grid;
  stale: boolean;
  /** What to say where nothing is changed, elsewhere than on the grid. */
  nothing?: string;
  /** Whether the rulebook has follow-ups, or would have. */
  hasFollowups: boolean;
  onTake: (cells: Schemas['DraftCell'][]) => void;
  onDiscard: () => void;
  onPublished: (publish: Schemas['Publish']) => Promise<void>;
  onRefused: () => Promise<void>;
}

/** What publishing the draft would change, computed by the engine over everything that happened. */
export function Consequence(props: Props) {
  const { draft, grid } = props;
  if (isEmpty(draft)) {
    return (
      <section className="[&>p]:mt-2 [&>p]:text-soft">
        <h2>If you publish</h2>
        <p>
          {props.nothing ??
            'Nothing is changed yet. Open or close a cell, and here you see who gains and who loses, before anything happens.'}
        </p>
        <p>
          {grid.version === 0
            ? 'Nothing has been published so far.'
            : `Rulebook ${grid.version} is in force.`}{' '}
          <Link to="/mapping" search={{ view: 'history' }}>
            What changed when
          </Link>
        </p>
        {props.nothing === undefined && <Proposals onTake={props.onTake} />}
      </section>
    );
  }
  return <Drafted {...props} />;
}

function Drafted({ draft, grid, stale, hasFollowups, onTake, onDiscard, onPublished, onRefused }: Props) {
  const watched = useConsequence(draft);
  const { data: consequence, counting } = watched;
  return (
    <section>
      <div className="mb-2.5 flex items-baseline justify-between gap-3 [&>h2]:m-0">
        <h2>If you publish this draft</h2>
        <span className="text-soft">
          {counting ? 'counting …' : counted(size(draft), 'change', 'changes')}
        </span>
      </div>
      <Going watched={watched} />
      {watched.error !== null && <Fault error={watched.error} />}
      {consequence !== undefined && <Figures consequence={consequence} counting={!watched.current} />}
      {consequence !== undefined && <Besides consequence={consequence} />}
      <Changes draft={draft} grid={grid} />
      <DoorsMet draft={draft} />
      {consequence !== undefined && (
        <Offers draft={draft} grid={grid} consequence={consequence} onTake={onTake} />
      )}
      <DraftFindings draft={draft} />
      <PublishForm
        draft={draft}
        consequence={watched.current ? consequence : undefined}
        stale={stale}
        hasFollowups={hasFollowups}
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
      <p className="text-soft">
        Counting was stopped; the figures are not of this draft.{' '}
        <TextButton onClick={watched.again}>Count</TextButton>
      </p>
    );
  }
  if (progress === undefined || progress.of === 0) return null;
  return (
    <div className="mb-3 flex items-center gap-2.5">
      <Progress label="People looked at" done={progress.done} of={progress.of} />
      <span className="text-soft">
        {progress.done} of {counted(progress.of, 'person', 'people')}
      </span>
      <Button small onClick={watched.stop}>
        Stop
      </Button>
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
    title: path.startsWith('door/') ? doorOf(path, grid) : nameOfThing(path, to ?? was),
    words: to === null ? 'no longer there' : was === null && !path.startsWith('school/') ? 'new' : 'changed',
  }));
  const rows = [...things, ...cells];
  const row = ({ key, gone, title, words }: (typeof rows)[number]) => (
    <li
      key={key}
      className={`flex flex-col border-l-[3px] pl-3 [&>span]:text-soft ${gone ? 'border-error' : 'border-lamp'}`}
    >
      <strong>{title}</strong>
      <span>{words}</span>
    </li>
  );
  return (
    <>
      <ul className="mb-3.5 grid gap-2">{rows.slice(0, AT_A_GLANCE).map(row)}</ul>
      {rows.length > AT_A_GLANCE && (
        <details>
          <summary>and {rows.length - AT_A_GLANCE} more</summary>
          <ul className="mb-3.5 grid gap-2">{rows.slice(AT_A_GLANCE).map(row)}</ul>
        </details>
      )}
    </>
  );
}

function doorOf(path: string, grid: Grid): string {
  const place = idIn(path);
  const title =
    grid.targets.find((one) => one.target === place)?.title ??
    grid.sources.find((one) => one.source === place)?.title;
  return title === undefined ? nameOfThing(path, null) : `Door of ${title}`;
}

interface OffersProps extends Pick<Props, 'draft' | 'grid' | 'onTake'> {
  consequence: Schemas['DraftConsequence'];
}

/** What an operator may mean instead: that nobody who has it loses it, that it counts from now on only. */
function Offers({ draft, grid, consequence, onTake }: OffersProps) {
  const opener = (key: string) => grid.sources.find((row) => row.source === cellOf(key)[0]);
  const cells = realChanges(draft);
  const closed = cells.flatMap(([key, { to, was }]) =>
    to === null && was !== null ? [cellWith(key, forThoseWhoHaveIt(was))] : [],
  );
  const opened = cells.flatMap(([key, { to, was }]) =>
    to !== null && was === null && to.applies === undefined && isBought(opener(key)?.sort ?? '')
      ? [cellWith(key, fromNowOn(to))]
      : [],
  );
  const keeps = closed.length > 0 && consequence.lose.people > 0;
  const waits = opened.length > 0 && consequence.gain.people > 0;
  if (!keeps && !waits) return null;
  return (
    <Acts className="mb-3.5">
      {keeps && (
        <Button small onClick={() => onTake(closed)}>
          Keep it for those who have it
        </Button>
      )}
      {waits && (
        <Button small onClick={() => onTake(opened)}>
          For purchases from now on only
        </Button>
      )}
    </Acts>
  );
}

function cellWith(key: CellKey, terms: Terms): Schemas['DraftCell'] {
  const [source, target] = cellOf(key);
  return { source, target, terms };
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
      className={`mb-3.5 grid grid-cols-3 gap-2 ${counting ? '*:shadow-[inset_0_2px_var(--lamp)]' : ''}`}
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

const NO_GAIN: Record<Schemas['WithoutGain']['why'], (people: number) => string> = {
  HAS_IT: (people) => `${people} ${people === 1 ? 'has' : 'have'} it anyway`,
  NOT_YET: (people) => `for ${people} the order is not yet paid or done`,
  UNPAID: (people) => `${people} ${people === 1 ? 'is' : 'are'} behind with a payment`,
  FOR_SOMEBODY_ELSE: (people) => `${people} bought it for somebody else`,
  TAKEN_BACK: (people) => `${people} got it paid back, or cancelled`,
  OVER: (people) => `for ${people} the time is over`,
  NOT_COUNTED: (people) => `${people} bought when it does not count`,
};

/** Who gains nothing though one would think so, and who of those who gain is written to. */
function Besides({ consequence }: { consequence: Schemas['DraftConsequence'] }) {
  const { gain, letters, noGain } = consequence;
  const without = noGain.reduce((sum, one) => sum + one.people, 0);
  return (
    <div className="mb-3.5 grid gap-1 text-[0.92rem] text-soft">
      {without > 0 && (
        <p>
          {counted(without, 'person who bought it gains', 'people who bought it gain')} nothing:{' '}
          {noGain.map((one) => NO_GAIN[one.why](one.people)).join(', ')}.
        </p>
      )}
      {gain.people > 0 && <p>{lettersInWords(letters, gain)}</p>}
    </div>
  );
}

/** A letter goes out the moment something opens, and none about what counts from longer ago. */
function lettersInWords(letters: number | undefined, gain: Schemas['Figure']): string {
  if (letters === undefined) return 'Nobody gets a letter: no mailbox is connected.';
  const atOnce = gain.people - gain.later;
  if (atOnce === 0 && letters === 0) return 'The letter goes out on the day it opens.';
  const later = gain.later > 0 ? ' Whoever gains only later gets theirs on the day.' : '';
  const why =
    letters < atOnce ? ' A letter tells only of courses and the like that opened in the last two days.' : '';
  return letters === 0
    ? `Nobody gets a letter now.${why}${later}`
    : `${counted(letters, 'person gets', 'people get')} the letter that it is open.${why}${later}`;
}

function Figure({ figure, tone, words }: { figure: Schemas['Figure']; tone?: Tone; words: string }) {
  const { zone } = useSession();
  return (
    <Stat figure={figure.people} words={words} tone={tone}>
      {figure.back !== undefined && (
        <small className="block">
          <span className="text-error">
            {figure.forATime < figure.people && `${figure.forATime} of them `}out until{' '}
            {shownDate(figure.back, zone)}
          </span>
        </small>
      )}
      {figure.later > 0 && figure.later < figure.people && (
        <small className="block text-soft">{figure.later} only later</small>
      )}
      {figure.later > 0 && figure.later === figure.people && (
        <small className="block text-soft">only later</small>
      )}
    </Stat>
  );
}

/** Everybody whom it touches, as a file. */
function SaveList({ draft }: { draft: Draft }) {
  const list = api.useMutation('post', '/api/mapping/consequence/list', {
    onSuccess: (csv) => saveFile('whom-it-touches.csv', csv),
  });
  return (
    <>
      <Button
        small
        disabled={list.isPending}
        onClick={() => list.mutate({ body: asDraft(draft), parseAs: 'text' })}
      >
        {list.isPending ? 'Writing …' : 'Save the whole list'}
      </Button>
      {list.error !== null && <Fault error={list.error} />}
    </>
  );
}

interface PublishProps {
  draft: Draft;
  consequence: Schemas['DraftConsequence'] | undefined;
  stale: boolean;
  hasFollowups: boolean;
  onDiscard: () => void;
  onPublished: (publish: Schemas['Publish']) => Promise<void>;
  onRefused: () => Promise<void>;
}

function PublishForm({
  draft,
  consequence,
  stale,
  hasFollowups,
  onDiscard,
  onPublished,
  onRefused,
}: PublishProps) {
  const { zone } = useSession();
  const [note, setNote] = useState('');
  const [past, setPast] = useState(NOTHING_PAST);
  const [despite, setDespite] = useState('');
  const rehearsals = useSet(draft);
  const broken = (rehearsals.data ?? []).filter((one) => !one.holds);
  const publish = api.useMutation('post', '/api/mapping/publish', {
    onSuccess: onPublished,
    onError: (error) => {
      if (problemOf(error).status === 409) void onRefused();
    },
  });
  const lose = consequence?.lose.people ?? 0;
  const later = consequence?.lose.later ?? 0;
  const rehearsed = rehearsals.data !== undefined && (broken.length === 0 || despite.trim() !== '');
  const ready = !publish.isPending && !stale && consequence !== undefined && rehearsed;
  const submit = () => {
    if (!ready) return;
    const before = asPast(past, draft);
    publish.mutate({
      body: {
        ...asDraft(draft),
        base: draft.base,
        note,
        ...(broken.length > 0 && { despite }),
        ...(before !== undefined && { past: before }),
      },
    });
  };
  return (
    <ActForm onConfirm={submit} className="grid gap-2">
      {publish.error !== null && (publish.error.status !== 409 || 'rehearsals' in publish.error) && (
        <Fault error={publish.error} />
      )}
      {rehearsals.error !== null && <Fault error={rehearsals.error} />}
      <Field
        label="What is it for?"
        name="note"
        maxLength={500}
        placeholder="kept in the history; may be empty"
        value={note}
        onValue={setNote}
      />
      <PastChoices
        draft={draft}
        past={past}
        moves={hasFollowups && (consequence?.gain.people ?? 0) + (consequence?.lose.people ?? 0) > 0}
        onChange={setPast}
      />
      <Rehearsed all={rehearsals.data} despite={despite} onDespite={setDespite} />
      {lose > 0 && (
        <p className="text-error">
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
      <Acts>
        <ConfirmButton disabled={!ready}>
          {publish.isPending ? 'Publishing …' : `Publish ${counted(size(draft), 'change', 'changes')}`}
        </ConfirmButton>
        <Button type="button" onClick={onDiscard}>
          Discard
        </Button>
      </Acts>
    </ActForm>
  );
}

/** How the rehearsals that are kept come out under the draft; where one does not, why it is published all the same. */
function Rehearsed({
  all,
  despite,
  onDespite,
}: {
  all: Schemas['RehearsalOutcome'][] | undefined;
  despite: string;
  onDespite: (why: string) => void;
}) {
  if (all === undefined) return <p className="text-soft">The rehearsals run …</p>;
  if (all.length === 0) return null;
  const broken = all.filter((one) => !one.holds);
  return (
    <div className="grid gap-2">
      <p className={broken.length === 0 ? 'text-soft' : 'text-error'}>
        {counted(all.length - broken.length, 'rehearsal', 'rehearsals')} as expected
        {broken.length > 0 && `, ${broken.length} not:`}
      </p>
      {broken.length > 0 && (
        <>
          <ul className="grid gap-2">
            {broken.map((one) => (
              <li key={one.id} className="flex flex-col border-l-[3px] border-error pl-3">
                <Link
                  to="/rehearse"
                  search={{ which: one.id, ...(one.not[0] !== undefined && { step: one.not[0].step }) }}
                >
                  {one.title}
                </Link>
                <span className="text-soft">{one.faults[0] ?? one.not[0]?.sentence}</span>
              </li>
            ))}
          </ul>
          <Field
            label="Why is it published all the same?"
            name="despite"
            maxLength={500}
            placeholder="kept in the history; needed"
            value={despite}
            onValue={onDespite}
          />
        </>
      )}
    </div>
  );
}
