import { useTouch } from '../api/touch';
import { useState } from 'react';
import { z } from 'zod';
import { api, type Schemas } from '../api/client';
import { useOffer } from '../desk/offer';
import { useMay } from '../session/may';
import { useSession } from '../session/session';
import { shownTime } from '../ui/dates';
import { counted } from '../ui/words';
import type { Segment } from './conditions';
import {
  ActForm,
  Acts,
  Chain,
  ConfirmButton,
  Fault,
  Progress,
  Select,
  Step,
  TextButton,
  useActFields,
} from '../ui/kit';

interface Props {
  segment: Segment;
  title: string;
  count: number;
}

const WANTED = z.object({ tag: z.string().min(1), way: z.enum(['on', 'off']) });

/** Puts a tag on everybody in a segment, or takes it off. */
export function TagAll({ segment, title, count }: Props) {
  const touch = useTouch();
  const tags = (useOffer()?.targets ?? []).filter((target) => target.sort === 'tag');
  const form = useActFields<z.infer<typeof WANTED>>(WANTED, { tag: '', way: 'on' });
  const { tag } = form.values;
  const putOn = form.values.way === 'on';
  const [key, setKey] = useState(() => crypto.randomUUID());
  const start = api.useMutation('post', '/api/segments/tag', {
    onSuccess: () => setKey(crypto.randomUUID()),
    onSettled: () => touch('access'),
  });
  const ready = form.filled !== undefined && count > 0 && !start.isPending;
  const submit = () => {
    if (ready) start.mutate({ body: { key, title, segment, tag, putOn } });
  };
  if (tags.length === 0) return null;
  const chosen = tags.find((one) => one.target === `tag/${tag}`)?.title ?? tag;
  return (
    <ActForm className="grid content-start gap-2.5" aria-label="A tag for all of them" onConfirm={submit}>
      <h3>A tag for all of them</h3>
      <Select aria-label="Put on or take off" {...form.tick('way')}>
        <option value="on">Put on</option>
        <option value="off">Take off</option>
      </Select>
      <Select aria-label="Which tag" {...form.tick('tag')}>
        <option value="" disabled>
          which tag?
        </option>
        {tags.map((one) => (
          <option key={one.target} value={one.target.replace('tag/', '')}>
            {one.title}
          </option>
        ))}
      </Select>
      {tag !== '' && (
        <p className="text-soft">
          {putOn
            ? `${counted(count, 'person gets', 'people get')} it who have not got it yet, and whatever the mapping opens with it.`
            : `${counted(count, 'person loses', 'people lose')} it, and what the mapping opens with it, unless something they bought gives it to them.`}
        </p>
      )}
      {start.error !== null && <Fault error={start.error} />}
      <Acts>
        <ConfirmButton disabled={!ready}>
          {tag === ''
            ? 'Choose a tag'
            : `${putOn ? 'Put' : 'Take'} ${chosen} ${putOn ? 'on' : 'off'} ${count}`}
        </ConfirmButton>
      </Acts>
    </ActForm>
  );
}

const STATES: Record<Schemas['ShownRun']['state'], string> = {
  RUNNING: 'going on',
  DONE: 'done',
  STOPPED: 'stopped',
};

/** What goes on and what was done lately; it goes on also when nobody looks. */
export function Runs() {
  const { zone } = useSession();
  const may = useMay();
  const touch = useTouch();
  const runs = api.useQuery('get', '/api/segments/runs', undefined, {
    refetchInterval: (query) =>
      query.state.data?.some((run) => run.state === 'RUNNING') === true ? 1_000 : 15_000,
  });
  const stop = api.useMutation('post', '/api/segments/runs/{id}/stop', {
    onSettled: () => touch('access'),
  });
  if (runs.data === undefined || runs.data.length === 0) return null;
  return (
    <section>
      <h3>Tags for many, lately</h3>
      <Chain>
        {runs.data.map((run) => (
          <Step key={run.id} tone={run.state === 'RUNNING' ? 'lamp' : 'soft'}>
            <strong>
              {run.tag} {run.putOn ? 'put on' : 'taken off'}: {run.title}
            </strong>
            <span role="status">
              {run.done} of {run.total}, {STATES[run.state]} · {run.startedBy} ·{' '}
              {shownTime(run.startedAt, zone)}
            </span>
            {run.state === 'RUNNING' && (
              <>
                <Progress label={`How far ${run.tag} is`} done={run.done} of={run.total} />
                {may.act && (
                  <TextButton
                    disabled={stop.isPending}
                    onClick={() => stop.mutate({ params: { path: { id: run.id } } })}
                  >
                    Stop it here
                  </TextButton>
                )}
              </>
            )}
          </Step>
        ))}
      </Chain>
    </section>
  );
}
