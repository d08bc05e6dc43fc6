import { Link, useNavigate, useSearch } from '@tanstack/react-router';
import { useEffect, useMemo, useState } from 'react';
import { api, type Schemas } from '../api/client';
import { useTouch } from '../api/touch';
import { published, type ThingEdit } from '../mapping/draft';
import { DraftMargin } from '../mapping/DraftMargin';
import { drafted, followupsIn, idFor, lookup, type Things, without } from '../mapping/things';
import { useDraft } from '../mapping/useDraft';
import { useMay } from '../session/may';
import { useSession } from '../session/session';
import { shownDate, shownTime } from '../ui/dates';
import { Dialog } from '../ui/Dialog';
import { say } from '../ui/said';
import { counted } from '../ui/words';
import {
  Acts,
  Badge,
  Button,
  buttonLook,
  Empty,
  Fault,
  Headline,
  Input,
  Margin,
  Panel,
  Row,
  RowActs,
  Rows,
  RowWords,
  Screen,
  Views,
  Waiting,
} from '../ui/kit';
import { ByHand } from './ByHand';
import { Lately } from './Lately';
import { usualOnce, type Followup } from './model';
import { Preview } from './Preview';
import { readyMade } from './readyMade';
import { RowsTable } from './RowsTable';
import { SchoolLetters } from './SchoolLetters';
import { Sentence } from './Sentence';
import { namesIn, ONCE_WORDS, whenInWords } from './words';

/** Reactions: what else is done when something has happened. */
export function Followups() {
  const { view, which, state, page } = useSearch({ from: '/followups' });
  const may = useMay();
  if (view === 'lately' || !may.setUp) {
    return (
      <Screen margin={<AboutRuns />}>
        <Headline>
          <Title />
        </Headline>
        {which !== undefined && <OnlyOf which={which} />}
        {!may.setUp && <Listed />}
        <Lately which={which} state={state} page={page} />
      </Screen>
    );
  }
  if (view === 'letters') {
    return (
      <Screen margin={<AboutLetters />}>
        <Headline>
          <Title />
        </Headline>
        <SchoolLetters />
      </Screen>
    );
  }
  return <Current />;
}

function Title() {
  const may = useMay();
  return (
    <>
      <h1>Follow-ups</h1>
      {may.setUp && (
        <Views aria-label="Views of the follow-ups">
          <Link to="/followups" search={{}} activeOptions={{ exact: true, includeSearch: true }}>
            All
          </Link>
          <Link to="/followups" search={{ view: 'letters' }}>
            Letters
          </Link>
          <Link to="/followups" search={{ view: 'lately' }}>
            Lately
          </Link>
        </Views>
      )}
    </>
  );
}

function OnlyOf({ which }: { which: string }) {
  return (
    <p className="mb-3 text-soft">
      Only of <code>{which}</code>.{' '}
      <Link to="/followups" search={{ view: 'lately' }}>
        Of all
      </Link>
    </p>
  );
}

function AboutLetters() {
  return (
    <Margin label="About letters">
      <h2>Letters that go by themselves</h2>
      <p className="text-soft">
        They go whether or not a follow-up is written. Your words count from the next letter on, and what acts
        say that they will send is said in them too.
      </p>
      <p className="text-soft">
        A letter about one thing alone, or to some people only, is a follow-up: it takes the place of this
        one.
      </p>
    </Margin>
  );
}

function AboutRuns() {
  return (
    <Margin label="About runs">
      <h2>What a run is</h2>
      <p className="text-soft">
        One follow-up serving one occasion of one person. Each step begins when all systems that the step
        before it reached have answered. What fails is tried again by itself; it can be tried at once, not
        waited for, or the run can be stopped.
      </p>
      <p className="text-soft">
        What became known more than the time that your policies name after it happened gives and takes, but
        writes and tells nothing.
      </p>
    </Margin>
  );
}

function useFigures(): Map<string, Schemas['FollowupListed']> {
  const { data } = api.useQuery('get', '/api/followups', undefined, { refetchInterval: 10_000 });
  return useMemo(() => new Map((data ?? []).map((one) => [one.id, one])), [data]);
}

/** For those who look and do not change: what is in force, in words. */
function Listed() {
  const figures = useFigures();
  return (
    <div className="mb-4">
      <Rows>
        {[...figures.values()].map((one) => (
          <Row key={one.id}>
            <RowWords>
              <strong>{one.title}</strong>
              <span>
                When {one.when}, {one.once}
              </span>
            </RowWords>
            <Figures figures={one} />
          </Row>
        ))}
      </Rows>
    </div>
  );
}

function Figures({ figures }: { figures: Schemas['FollowupListed'] | undefined }) {
  const { zone } = useSession();
  if (figures === undefined) return null;
  return (
    <span className="flex flex-wrap items-center gap-2">
      <span className="text-soft">
        {figures.lately === 0 ? 'not lately' : `${figures.lately} in 90 days`}
        {figures.last !== undefined && `, last ${shownTime(figures.last, zone)}`}
      </span>
      {figures.waiting > 0 && <Badge tone="soft">{figures.waiting} waiting</Badge>}
      {figures.heldUp > 0 && <Badge tone="bad">{figures.heldUp} held up</Badge>}
    </span>
  );
}

function Current() {
  const { which, person, order } = useSearch({ from: '/followups' });
  const touch = useTouch();
  const read = api.useQuery('get', '/api/mapping/things');
  const { refetch } = read;
  const things = read.data as Things | undefined;
  const grid = api.useQuery('get', '/api/mapping', undefined, { refetchInterval: 10_000 });
  const systems = api.useQuery('get', '/api/systems', undefined, { staleTime: 60_000 });
  const off = api.useMutation('post', '/api/mapping/followups/{followup}/off', {
    onSuccess: (publish) => say(`It is off: ${publish.difference.join('; ')}. What runs goes on.`),
    onSettled: () => touch('mapping'),
  });
  const own = useDraft(grid.data);
  const { draft, change } = own;
  const now = useMemo(() => published(grid.data?.cells ?? []), [grid.data]);
  const version = grid.data?.version;
  useEffect(() => void refetch(), [version, refetch]); // somebody else may have published
  if (grid.data === undefined || things === undefined) {
    return (
      <Screen>
        <Headline>
          <Title />
        </Headline>
        {grid.error === null && read.error === null ? (
          <Waiting what="the follow-ups" />
        ) : (
          <Fault error={grid.error ?? read.error} />
        )}
      </Screen>
    );
  }
  const set = (edits: ThingEdit[]) =>
    change({ act: 'set', things: edits, published: now, version: grid.data.version });
  const shared = { ...own, grid: grid.data, things, now, readAgain: () => touch('mapping') };
  const all = followupsIn(things, draft) as Followup[];
  const names = namesIn(things, draft);
  const one = all.find((followup) => followup.id === which);
  const was = which === undefined ? null : lookup(things)(`followup/${which}`);
  const put = (followup: Followup) =>
    set([[`followup/${followup.id}`, followup, lookup(things)(`followup/${followup.id}`)]]);
  return (
    <Screen
      margin={
        <DraftMargin
          {...shared}
          nothing="Nothing is changed yet. Press a part of a sentence to change it; here you see what it would have done, before anything happens."
        >
          {one !== undefined && <Preview draft={draft} followup={one.id} person={person} order={order} />}
        </DraftMargin>
      }
    >
      {one !== undefined ? (
        <OneFollowup
          key={one.id}
          followup={one}
          isNew={was === null}
          known={{
            things,
            draft,
            names,
            columns: [],
            systems: (systems.data?.systems ?? []).map(({ id, title }) => ({ id, title })),
            lacking: lackingIn(systems.data?.systems),
          }}
          onChange={put}
          onOut={() => set([[`followup/${one.id}`, null, was]])}
        />
      ) : (
        <>
          <Headline>
            <Title />
          </Headline>
          {which !== undefined && (
            <Empty title={was === null ? 'There is no such follow-up.' : 'It goes, in your draft.'}>
              {was !== null && (
                <Button onClick={() => set([[`followup/${which}`, was, was]])}>Keep it</Button>
              )}
              <Link to="/followups" search={{}}>
                All follow-ups
              </Link>
            </Empty>
          )}
          {which === undefined && (
            <List
              all={all}
              known={{ things, draft, names }}
              inForce={(id) => lookup(things)(`followup/${id}`) as Followup | null}
              onSwitch={(followup) => {
                const rest = without(followup, 'on');
                put(followup.on === false ? rest : { ...rest, on: false });
              }}
              onOff={(followup) => off.mutate({ params: { path: { followup: followup.id } } })}
              switching={off.isPending}
              fault={off.error}
              onNew={(made) => {
                const at = drafted(things, draft);
                const id = idFor(made.followup.title ?? 'new', (taken) => at(`followup/${taken}`) !== null);
                set([
                  ...made.tags
                    .filter((tag) => at(`tag/${tag.id}`) === null)
                    .map((tag): ThingEdit => [`tag/${tag.id}`, tag, null]),
                  [`followup/${id}`, { ...made.followup, id }, null],
                ]);
                return id;
              }}
            />
          )}
        </>
      )}
    </Screen>
  );
}

function isOnNow(followup: Followup | null): boolean {
  return followup !== null && followup.on !== false;
}

/** Nothing is said to lack as long as the systems are not known. */
function lackingIn(systems: Schemas['SystemShown'][] | undefined) {
  const lacks = (ability: Schemas['SystemShown']['abilities'][number]) =>
    systems !== undefined && !systems.some((one) => one.state !== 'OFF' && one.abilities.includes(ability));
  return { codes: lacks('CODES'), fields: lacks('FIELDS'), letters: lacks('MESSAGES') };
}

function List({
  all,
  known,
  inForce,
  onSwitch,
  onOff,
  switching,
  fault,
  onNew,
}: {
  all: Followup[];
  known: { things: Things; draft: Parameters<typeof readyMade>[1]; names: ReturnType<typeof namesIn> };
  inForce: (id: string) => Followup | null;
  onSwitch: (followup: Followup) => void;
  /** At once, and by itself. */
  onOff: (followup: Followup) => void;
  switching: boolean;
  fault: unknown;
  onNew: (made: ReturnType<ReturnType<typeof readyMade>[number]['make']>) => string;
}) {
  const figures = useFigures();
  const navigate = useNavigate();
  const offered = readyMade(known.things, known.draft);
  return (
    <>
      {fault !== null && <Fault error={fault} />}
      {all.length > 0 && (
        <Rows>
          {all.map((followup) => (
            <Row key={followup.id}>
              <RowWords>
                <Link to="/followups" search={{ which: followup.id }}>
                  <strong>{followup.title ?? followup.id}</strong>
                </Link>
                <span>
                  When {whenInWords(followup.when, known.names)},{' '}
                  {ONCE_WORDS[followup.once ?? usualOnce(followup)]}
                  {(followup.rows ?? []).length > 0 && `, with ${followup.rows?.length} rows`}
                </span>
              </RowWords>
              <Figures figures={figures.get(followup.id)} />
              {inForce(followup.id) === null && <Badge tone="lamp">draft</Badge>}
              {followup.on === false && <Badge tone="soft">off</Badge>}
              <RowActs>
                {isOnNow(inForce(followup.id)) && (
                  <Button small disabled={switching} onClick={() => onOff(followup)}>
                    Switch off now
                  </Button>
                )}
                {!isOnNow(inForce(followup.id)) && (
                  <Button small onClick={() => onSwitch(followup)}>
                    {followup.on === false ? 'Switch on in the draft' : 'Switch off'}
                  </Button>
                )}
              </RowActs>
            </Row>
          ))}
        </Rows>
      )}
      {all.length === 0 && (
        <Empty title="There are no follow-ups yet.">
          <p>
            Access says who may be where. A follow-up says what else is done when something has happened: a
            tag put on, a letter written, the team told. Take one of these and make it yours.
          </p>
        </Empty>
      )}
      <details className="mt-4" open={all.length === 0}>
        <summary className="cursor-pointer font-head text-lg font-semibold">
          A new one, from one of these
        </summary>
        <div className="mt-3">
          <ul className="grid gap-3 sm:grid-cols-2 2xl:grid-cols-3">
            {offered.map((one) => (
              <li
                key={one.title}
                className="flex flex-col gap-1 rounded-box border border-line bg-base-100 p-3"
              >
                <strong>{one.title}</strong>
                <span className="flex-1 text-soft">{one.words}</span>
                <Button
                  small
                  className="justify-self-start self-start"
                  onClick={() => void navigate({ to: '/followups', search: { which: onNew(one.make()) } })}
                >
                  Take it into the draft
                </Button>
              </li>
            ))}
          </ul>
        </div>
      </details>
    </>
  );
}

function OneFollowup({
  followup,
  isNew,
  known,
  onChange,
  onOut,
}: {
  followup: Followup;
  isNew: boolean;
  known: Parameters<typeof Sentence>[0]['known'];
  onChange: (followup: Followup) => void;
  onOut: () => void;
}) {
  const { zone } = useSession();
  const figures = useFigures().get(followup.id);
  const [naming, setNaming] = useState(false);
  const off = followup.on === false;
  return (
    <>
      <p className="text-soft">
        <Link to="/followups" search={{}}>
          All follow-ups
        </Link>{' '}
        · <code>{followup.id}</code>
      </p>
      <Headline>
        {naming ? (
          <Input
            aria-label="What it is called"
            className="w-80 max-w-full font-head text-xl"
            value={followup.title ?? ''}
            maxLength={200}
            onChange={(event) => onChange({ ...followup, title: event.target.value })}
            onKeyDown={(event) => (event.key === 'Enter' || event.key === 'Escape') && setNaming(false)}
            onBlur={() => setNaming(false)}
          />
        ) : (
          <h1>{followup.title ?? followup.id}</h1>
        )}
        <p>
          {isNew
            ? 'only in your draft'
            : off
              ? 'off'
              : followup.since === undefined
                ? 'on, from the beginning'
                : `on since ${shownDate(followup.since, zone)}`}
        </p>
        <Acts>
          <Button small onClick={() => setNaming(!naming)}>
            Rename
          </Button>
          <Button
            small
            onClick={() => {
              const rest = without(followup, 'on');
              onChange(off ? rest : { ...rest, on: false });
            }}
          >
            {off ? 'Switch on in the draft' : 'Switch off in the draft'}
          </Button>
          <Button small onClick={onOut}>
            Take it out
          </Button>
        </Acts>
      </Headline>
      <Sentence followup={followup} known={known} mayChange onChange={onChange} />
      <RowsTable followup={followup} known={known} mayChange onChange={onChange} />
      {!isNew && (followup.once ?? usualOnce(followup)) === 'person' && <ByHand followup={followup.id} />}
      {!isNew && (
        <Panel aria-label="Lately">
          <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
            <h2 className="m-0">Lately</h2>
            <Figures figures={figures} />
            <span className="ml-auto flex flex-wrap gap-2">
              {figures !== undefined && figures.going + figures.waiting > 0 && (
                <StopAll followup={followup.id} many={figures.going + figures.waiting} />
              )}
              <Link
                className={buttonLook({ small: true })}
                to="/followups"
                search={{ view: 'lately', which: followup.id }}
              >
                Its runs
              </Link>
            </span>
          </div>
        </Panel>
      )}
    </>
  );
}

/** Ends all it has under way, also what a run over the past has begun; asked once more, for nothing takes it back. */
function StopAll({ followup, many }: { followup: string; many: number }) {
  const touch = useTouch();
  const [asked, setAsked] = useState(false);
  const stop = api.useMutation('post', '/api/followups/{followup}/stop', {
    onSuccess: (done) => {
      setAsked(false);
      say(
        `${counted(done.runs, 'run is', 'runs are')} stopped${done.left ? '; others are still under way' : ''}.`,
      );
    },
    onSettled: () => touch('access'),
  });
  const runs = counted(many, 'run', 'runs');
  return (
    <>
      <Button small onClick={() => setAsked(true)}>
        Stop {runs} …
      </Button>
      {asked && (
        <Dialog asks title={`Stop ${runs}?`} onClose={() => setAsked(false)}>
          <p>
            What was decided is still given and taken; nothing more is written, told or set, and what waits
            does not go on. A stopped run does not begin again. New occasions are still served unless it is
            switched off.
          </p>
          {stop.error !== null && <Fault error={stop.error} />}
          <Acts>
            <Button
              kind="grave"
              disabled={stop.isPending}
              onClick={() => stop.mutate({ params: { path: { followup } } })}
            >
              {stop.isPending ? 'Stopping …' : 'Stop them'}
            </Button>
            <Button onClick={() => setAsked(false)}>Let them go on</Button>
          </Acts>
        </Dialog>
      )}
    </>
  );
}
