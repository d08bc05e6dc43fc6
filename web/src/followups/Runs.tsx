import { Link } from '@tanstack/react-router';
import { useState } from 'react';
import { api, type Schemas } from '../api/client';
import { useTouch } from '../api/touch';
import { useMay } from '../session/may';
import { useSession } from '../session/session';
import { shownTime } from '../ui/dates';
import { Acts, Badge, Button, Chain, Fault, Row, Rows, RowWords, Step, type Tone } from '../ui/kit';

type Run = Schemas['RunShown'];

const STATES: Record<Run['state'], [Tone, string]> = {
  HELD_UP: ['bad', 'held up'],
  GOING: ['warn', 'under way'],
  WAITING: ['soft', 'waits'],
  DONE: ['good', 'done'],
  STOPPED: ['soft', 'stopped'],
};

const STEP_STATES: Record<Schemas['RunStep']['state'], [Tone, string]> = {
  DUE: ['soft', 'waits for the step before it'],
  BEGUN: ['warn', 'is being told'],
  GOING: ['warn', 'not answered yet'],
  DONE: ['good', ''],
  SKIPPED: ['soft', 'skipped by hand'],
  SILENT: ['soft', 'not sent'],
  STOPPED: ['soft', 'not done: the run was stopped'],
};

const SILENCES = {
  LATE: 'It became known too late to write about.',
  WITHOUT_LETTERS: 'It was from before the publish, and no letters were wanted.',
};

/** Runs, each with what was asked, what was done and what the systems said. */
export function Runs({ runs, named = true }: { runs: Run[]; named?: boolean }) {
  return (
    <Rows>
      {runs.map((run) => (
        <OneRun key={run.id} run={run} named={named} />
      ))}
    </Rows>
  );
}

function OneRun({ run, named }: { run: Run; named: boolean }) {
  const { zone } = useSession();
  const [open, setOpen] = useState(false);
  const trouble = run.state === 'HELD_UP' ? troubleOf(run) : undefined;
  const [tone, words] = STATES[run.state];
  return (
    <Row className="items-start">
      <RowWords>
        <strong>
          {named && (
            <>
              <Link to="/people/$id" params={{ id: String(run.person) }}>
                {run.name}
              </Link>{' '}
              ·{' '}
            </>
          )}
          {run.title}
          {run.about !== '' && ` · ${run.about}`}
        </strong>
        <span>
          {shownTime(run.moment, zone)}
          {run.order !== undefined && (
            <>
              {' · '}
              <Link to="/orders/$id" params={{ id: run.order }}>
                order {run.order}
              </Link>
            </>
          )}
          {run.silence !== undefined && ` · ${SILENCES[run.silence]}`}
        </span>
        {trouble !== undefined && <span className="text-error!">{trouble}</span>}
      </RowWords>
      <Badge tone={tone}>
        {run.waitsUntil !== undefined && run.state === 'WAITING'
          ? `waits until ${shownTime(run.waitsUntil, zone)}`
          : words}
      </Badge>
      <Button small aria-expanded={open} onClick={() => setOpen(!open)}>
        {open ? 'Less' : 'Steps'}
      </Button>
      {open && <RunSteps run={run} />}
    </Row>
  );
}

/** Which step is held up, and by what. */
function troubleOf(run: Run): string | undefined {
  const step = run.steps.find(isOpenStep);
  if (step === undefined) return undefined;
  const failing = step.answers.find((answer) => answer.failing);
  const why = failing === undefined ? step.note : `${failing.system}: ${failing.answer ?? 'does not answer'}`;
  return `${step.does}: ${why}`;
}

function isOpenStep(step: Schemas['RunStep']): boolean {
  return step.state === 'DUE' || step.state === 'BEGUN' || step.state === 'GOING';
}

function RunSteps({ run }: { run: Run }) {
  const { zone } = useSession();
  const may = useMay();
  const touch = useTouch();
  const after = { onSuccess: () => touch('access') };
  const stop = api.useMutation('post', '/api/followups/runs/{id}/stop', after);
  const again = api.useMutation('post', '/api/followups/steps/{id}/again', after);
  const skip = api.useMutation('post', '/api/followups/steps/{id}/skip', after);
  const first = run.steps.find(isOpenStep);
  const over = run.state === 'DONE' || run.state === 'STOPPED';
  const question = (one: Schemas['RunQuestion'], at: number) => (
    <Step key={`q${at}`} tone={one.holds ? 'good' : 'soft'}>
      {one.answers.join('; ')}
    </Step>
  );
  return (
    <div className="w-full">
      <Chain>
        {run.questions.map(question)}
        {run.steps.map((step) => {
          const [tone, words] = STEP_STATES[step.state];
          const failing = step.answers.some((answer) => answer.failing);
          const isNext = step === first;
          return (
            <Step key={step.id} tone={failing ? 'bad' : tone}>
              <strong>{step.does}</strong>
              <span className="text-soft">
                {[
                  shownTime(step.endedAt ?? step.dueAt, zone),
                  words,
                  step.note,
                  ...step.answers
                    .filter((answer) => !answer.done)
                    .map((answer) => `${answer.system}: ${answer.answer ?? 'has not answered yet'}`),
                ]
                  .filter((part) => part !== '')
                  .filter((part, at, all) => all.indexOf(part) === at)
                  .join(' · ')}
              </span>
              {step.text !== undefined && (
                <details>
                  <summary>
                    {step.subject === undefined || step.subject === '' ? 'What it says' : 'The letter'}
                  </summary>
                  <p className="mt-1 rounded-field bg-figure px-2.5 py-2 whitespace-pre-wrap">{step.text}</p>
                  {step.code !== undefined && <p className="text-soft">with the code {step.code}</p>}
                </details>
              )}
              {may.act && (
                <Acts className="mt-1">
                  {isNext && (failing || step.note !== '') && (
                    <Button
                      small
                      disabled={again.isPending}
                      onClick={() => again.mutate({ params: { path: { id: step.id } } })}
                    >
                      Try again now
                    </Button>
                  )}
                  {step.state === 'DONE' && step.text !== undefined && (
                    <Button
                      small
                      disabled={again.isPending}
                      onClick={() => again.mutate({ params: { path: { id: step.id } } })}
                    >
                      Send it again
                    </Button>
                  )}
                  {isNext && may.setUp && (
                    <Button
                      small
                      disabled={skip.isPending}
                      onClick={() => skip.mutate({ params: { path: { id: step.id } } })}
                    >
                      Do not wait for it
                    </Button>
                  )}
                </Acts>
              )}
            </Step>
          );
        })}
        {run.waitsUntil !== undefined && (
          <Step tone="lamp">It goes on {shownTime(run.waitsUntil, zone)}.</Step>
        )}
      </Chain>
      {[stop.error, again.error, skip.error].map(
        (error, at) => error !== null && <Fault key={String(at)} error={error} />,
      )}
      {!over && may.setUp && (
        <Button
          small
          disabled={stop.isPending}
          onClick={() => stop.mutate({ params: { path: { id: run.id } } })}
        >
          Stop this run
        </Button>
      )}
    </div>
  );
}
