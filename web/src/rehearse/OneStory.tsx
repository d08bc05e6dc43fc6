import { useNavigate } from '@tanstack/react-router';
import { useEffect, useState, type ReactNode } from 'react';
import * as z from 'zod';
import { api, problemOf, type Schemas } from '../api/client';
import { useTouch } from '../api/touch';
import { isEmpty, size, type Draft } from '../mapping/draft';
import { useSession } from '../session/session';
import { Dialog } from '../ui/Dialog';
import { saveFile } from '../ui/files';
import { forget, keep, readKept } from '../ui/kept';
import { say } from '../ui/said';
import { counted } from '../ui/words';
import {
  Acts,
  Alarm,
  Badge,
  Button,
  Fault,
  Field,
  Headline,
  Input,
  Notice,
  Panel,
  Record,
  Row,
  Rows,
  RowWords,
  Screen,
  Waiting,
} from '../ui/kit';
import type { Known } from '../followups/parts';
import { idOf, stepsOf, withEarlier, withSteps, wordOf, WORDS, type Said, type Story } from './model';
import { ForReal, toldIn } from './ForReal';
import { Moment } from './Moment';
import { Passages, type Letter, type Sent } from './Passages';
import { dayWords, firstOf } from './standings';
import { Standing } from './Standing';
import { StepEditor } from './StepEditor';
import { nameOf } from './WhoSelect';
import { useRun } from './useRun';

type Report = Schemas['RehearsalReport'];

interface Props {
  first: Story;
  kept: Schemas['RehearsalKept'] | undefined;
  /** Ids of those that are kept. */
  taken: string[];
  draft: Draft;
  known: Known;
  step: number | undefined;
  version: number;
}

/** One story: its steps on the left, and what comes of them; how it stands at the step chosen on the right. */
export function OneStory({ first, kept, taken, draft, known, step, version }: Props) {
  const navigate = useNavigate();
  const place = `yoru.rehearsal.${kept?.id ?? `new ${first.title ?? ''}`}`;
  const [story, setStory] = useUnkept(place, first, kept?.revision ?? 0);
  const [chosen, setChosen] = useState(step ?? 0);
  const [day, setDay] = useState<number>();
  const [letter, setLetter] = useState<Letter>();
  const [sent, setSent] = useState<Sent>();
  const run = useRun(draft, story);
  const steps = stepsOf(story);
  const at = Math.min(chosen, Math.max(0, steps.length - 1));
  const report = run.error === null ? run.data : undefined;
  const choose = (position: number) => {
    setChosen(position);
    setDay(undefined);
  };
  const isChanged = JSON.stringify(story) !== JSON.stringify(first);
  const add = (...added: Story['steps']) => {
    const position = steps.length === 0 ? 0 : at + 1;
    setStory(withSteps(story, position, 0, ...added));
    choose(position);
  };
  useAddKey(() => add({ after: 'P1D' }));
  const now = steps[at];
  return (
    <Screen
      margin={
        <Standing
          report={report}
          at={at}
          day={day}
          onDay={(next, position) => {
            setDay(next);
            setChosen(position);
          }}
          onKeepAsExpected={(expected) => add(...expected.map((one) => ({ expect: one as Said })))}
        />
      }
    >
      <Headline>
        <h1>{kept === undefined ? 'A new rehearsal' : (first.title ?? first.id)}</h1>
        <span className="text-soft">
          {isEmpty(draft)
            ? version === 0
              ? 'nothing is published yet'
              : `under rulebook ${version}`
            : `under your draft of ${counted(size(draft), 'change', 'changes')}`}
        </span>
        <Verdict report={report} running={run.running} />
        <Keep
          more={isEmpty(draft) && report !== undefined && <ForReal story={story} told={toldIn(report)} />}
          story={story}
          kept={kept}
          taken={taken}
          isChanged={isChanged}
          onDiscard={() => setStory(first)}
          onKept={(id) => {
            forget(place);
            void navigate({ to: '/rehearse', search: { which: id, step: at } });
          }}
          onGone={() => void navigate({ to: '/rehearse', search: {} })}
        />
      </Headline>
      <Panel>
        <About story={story} onChange={setStory} />
        <Strip story={story} report={report} chosen={at} onChoose={choose} />
        <Acts>
          <Button small onClick={() => add({ after: 'P1D' })}>
            Add a step <kbd className="kbd kbd-xs">A</kbd>
          </Button>
          <Button
            small
            onClick={() => {
              setStory(withEarlier(story));
              choose(story.before?.length ?? 0);
            }}
          >
            Add what was so already
          </Button>
        </Acts>
      </Panel>
      {now !== undefined && (
        <Panel aria-label="The step chosen">
          <StepEditor
            story={story}
            position={at}
            step={now.step}
            before={now.before}
            known={known}
            onChange={(next) => setStory(withSteps(story, at, 1, next))}
          />
          <Acts>
            <Button
              small
              disabled={now.at === 0}
              onClick={() => {
                const other = steps[at - 1];
                if (other === undefined) return;
                setStory(withSteps(story, at - 1, 2, now.step, other.step));
                choose(at - 1);
              }}
            >
              Earlier
            </Button>
            <Button
              small
              onClick={() => {
                setStory(withSteps(story, at, 1));
                choose(Math.max(0, at - 1));
              }}
            >
              Take this step out
            </Button>
          </Acts>
        </Panel>
      )}
      {run.error !== null && !run.running && <Unusable error={run.error} />}
      {report === undefined && run.error === null && <Waiting what="what comes of it" />}
      {report !== undefined && (
        <>
          <Passages report={report} chosen={at} onLetter={setLetter} onSent={setSent} />
          <ShouldBe report={report} onChoose={choose} />
        </>
      )}
      {letter !== undefined && (
        <Dialog title={letter.subject} wide onClose={() => setLetter(undefined)}>
          <p className="text-soft">To {letter.to}. It is shown, not sent.</p>
          <Record>{letter.text}</Record>
        </Dialog>
      )}
      {sent !== undefined && (
        <Dialog title={`${sent.to}, about ${sent.about}`} wide onClose={() => setSent(undefined)}>
          <p className="text-soft">Each thing as it is sent. It is shown here and told to nobody.</p>
          {sent.messages.map((message, at) => (
            <section key={at} className="grid gap-1">
              <strong>{message.says}</strong>
              <Record>{message.text}</Record>
            </section>
          ))}
        </Dialog>
      )}
    </Screen>
  );
}

const UNKEPT = z.object({
  revision: z.number(),
  story: z.custom<Story>((it) => typeof it === 'object' && it !== null && 'steps' in it && 'people' in it),
});

/** The story as it is being written: what is not kept yet outlives a reload and a lost session in this browser. */
function useUnkept(place: string, first: Story, revision: number) {
  const [story, setStory] = useState(() => {
    const left = readKept(place, UNKEPT);
    // of what somebody else has kept meanwhile nothing is written over unseen
    return left?.revision === revision ? left.story : first;
  });
  useEffect(() => {
    if (JSON.stringify(story) === JSON.stringify(first)) forget(place);
    else keep(place, { revision, story });
  }, [place, story, first, revision]);
  return [story, setStory] as const;
}

/** Why it cannot be run, a line for each place. */
function Unusable({ error }: { error: unknown }) {
  const { errors } = problemOf(error);
  if (errors === undefined || errors.length === 0) return <Fault error={error} />;
  return (
    <Alarm role="alert">
      <strong>It cannot be run like this</strong>
      {errors.map((one) => (
        <span key={`${one.field} ${one.problem}`}>
          <code>{one.field}</code> {one.problem}
        </span>
      ))}
    </Alarm>
  );
}

/** "A" adds a step, wherever one is but in a field. */
function useAddKey(onAdd: () => void) {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const typing =
        event.target instanceof HTMLElement && event.target.closest('input, select, textarea, dialog');
      if (typing || event.ctrlKey || event.metaKey || event.altKey || event.key.toLowerCase() !== 'a') return;
      event.preventDefault();
      onAdd();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [onAdd]);
}

function Verdict({ report, running }: { report: Report | undefined; running: boolean }) {
  if (running) return <Badge tone="soft">running …</Badge>;
  if (report === undefined) return <Badge tone="bad">cannot be run</Badge>;
  if (report.expectations === 0) return <Badge tone="soft">nothing is expected yet</Badge>;
  const not = report.steps.flatMap((step) => step.expected).filter((one) => !one.holds).length;
  return not === 0 ? (
    <Badge tone="good">all {report.expectations} as expected</Badge>
  ) : (
    <Badge tone="bad">
      {not} of {report.expectations} not as expected
    </Badge>
  );
}

function Keep({
  more,
  story,
  kept,
  taken,
  isChanged,
  onDiscard,
  onKept,
  onGone,
}: {
  more: ReactNode;
  story: Story;
  kept: Schemas['RehearsalKept'] | undefined;
  taken: string[];
  isChanged: boolean;
  onDiscard: () => void;
  onKept: (id: string) => void;
  onGone: () => void;
}) {
  const touch = useTouch();
  const [leaving, setLeaving] = useState(false);
  const keeping = api.useMutation('post', '/api/rehearsals', {
    onSuccess: async (row) => {
      say(
        row.fails === undefined
          ? `${row.title} is kept.`
          : `${row.title} is kept. Not as expected: ${row.fails}`,
      );
      await touch('rehearsals');
      onKept(row.id);
    },
  });
  const letGo = api.useMutation('delete', '/api/rehearsals/kept/{id}', {
    onSuccess: async () => {
      await touch('rehearsals');
      onGone();
    },
  });
  const id = kept?.id ?? idOf(story.title ?? story.id, (one) => taken.includes(one));
  return (
    <>
      <Acts>
        {(isChanged || kept === undefined) && (
          <Button
            kind="main"
            disabled={keeping.isPending}
            onClick={() => keeping.mutate({ body: { seen: kept?.revision ?? 0, story: { ...story, id } } })}
          >
            {keeping.isPending ? 'Keeping …' : 'Keep it'}
          </Button>
        )}
        {isChanged && <Button onClick={onDiscard}>Discard</Button>}
        {more}
        <Button
          onClick={() =>
            saveFile(`${id}.json`, JSON.stringify({ ...story, id }, null, 2), 'application/json')
          }
        >
          Save as a file
        </Button>
        {kept !== undefined && <Button onClick={() => setLeaving(true)}>Let it go</Button>}
      </Acts>
      {keeping.error !== null && (
        <Notice role="alert">
          <strong>{problemOf(keeping.error).title}</strong>
          <span>{problemOf(keeping.error).detail}</span>
        </Notice>
      )}
      {leaving && kept !== undefined && (
        <Dialog title={`Let ${kept.title} go?`} asks onClose={() => setLeaving(false)}>
          <p>It is no longer run when something is published.</p>
          <Acts>
            <Button
              kind="main"
              disabled={letGo.isPending}
              onClick={() => letGo.mutate({ params: { path: { id: kept.id } } })}
            >
              Let it go
            </Button>
            <Button onClick={() => setLeaving(false)}>Keep it</Button>
          </Acts>
          {letGo.error !== null && <Fault error={letGo.error} />}
        </Dialog>
      )}
    </>
  );
}

function About({ story, onChange }: { story: Story; onChange: (story: Story) => void }) {
  const [name, setName] = useState('');
  const bring = () => {
    if (name.trim() === '') return;
    const id = idOf(name, (one) => story.people.some((person) => person.id === one));
    onChange({ ...story, people: [...story.people, { id, name: name.trim() }] });
    setName('');
  };
  return (
    <div className="grid gap-3 md:grid-cols-[1fr_auto_auto] md:items-end">
      <Field
        label="What is tried"
        value={story.title ?? ''}
        maxLength={500}
        onValue={(title) => onChange({ ...story, title })}
      />
      <Moment label="It starts" value={story.starts} onChange={(starts) => onChange({ ...story, starts })} />
      <div className="flex flex-col gap-1">
        <span className="font-semibold">Who is in it</span>
        <div className="flex flex-wrap items-center gap-2">
          {story.people.map((one) => (
            <Badge key={one.id} tone="soft">
              {nameOf(one)}
            </Badge>
          ))}
          <Input
            aria-label="Somebody else"
            className="w-36"
            placeholder="somebody else"
            value={name}
            onChange={(event) => setName(event.target.value)}
            onKeyDown={(event) => {
              if (event.key === 'Enter') bring();
            }}
          />
          <Button small disabled={name.trim() === ''} onClick={bring}>
            Add
          </Button>
        </div>
      </div>
    </div>
  );
}

/** The steps in their order, each to be chosen. */
function Strip({
  story,
  report,
  chosen,
  onChoose,
}: {
  story: Story;
  report: Report | undefined;
  chosen: number;
  onChoose: (position: number) => void;
}) {
  const { zone } = useSession();
  const first = report && firstOf(report);
  return (
    <ol aria-label="Steps" className="grid grid-cols-[repeat(auto-fill,minmax(10.5rem,1fr))] gap-2">
      {stepsOf(story).map(({ step }, position) => {
        const came = report?.steps[position];
        const word = wordOf(step);
        const not = came?.expected.filter((one) => !one.holds).length ?? 0;
        return (
          <li key={position} className="flex">
            <button
              type="button"
              aria-pressed={position === chosen}
              onClick={() => onChoose(position)}
              className="flex w-full cursor-pointer flex-col gap-0.5 rounded-field border border-line border-t-[3px] border-t-lamp px-2.5 py-2 text-left aria-pressed:border-primary aria-pressed:bg-figure"
            >
              <span className="font-code text-2xs text-soft">
                {came === undefined || first === undefined ? '…' : dayWords(came.at, first, zone)}
              </span>
              <strong className="leading-snug">
                {came?.does ?? (word === undefined ? 'nothing more' : WORDS[word].words)}
              </strong>
              {word === 'expect' && came !== undefined && (
                <span className={not === 0 ? 'text-success' : 'text-error'}>
                  {came.expected.length === 0
                    ? 'nothing said yet'
                    : not === 0
                      ? `${came.expected.length} as expected`
                      : `${not} not as expected`}
                </span>
              )}
              {came?.remarks.map((remark) => (
                <span key={remark} className="text-[0.87rem] text-soft">
                  {remark}
                </span>
              ))}
            </button>
          </li>
        );
      })}
    </ol>
  );
}

/** All that should be so, and whether it is. */
function ShouldBe({ report, onChoose }: { report: Report; onChoose: (position: number) => void }) {
  const { zone } = useSession();
  const first = firstOf(report);
  const all = report.steps.flatMap((step, position) =>
    step.expected.map((expected, at) => ({ ...expected, at: step.at, position, key: `${position}.${at}` })),
  );
  return (
    <section aria-label="It should be so">
      <h2>It should be so</h2>
      {all.length === 0 ? (
        <p className="text-soft">
          Nothing is said yet. Choose a step and keep what comes as expected, or add a step “it should be so”.
        </p>
      ) : (
        <Rows>
          {all.map((one) => (
            <Row key={one.key}>
              <Badge tone={one.holds ? 'good' : 'bad'}>{one.holds ? 'as expected' : 'not so'}</Badge>
              <RowWords>
                <span className="text-base-content!">{one.sentence}</span>
              </RowWords>
              <Button small onClick={() => onChoose(one.position)}>
                {dayWords(one.at, first, zone)}
              </Button>
            </Row>
          ))}
        </Rows>
      )}
    </section>
  );
}
