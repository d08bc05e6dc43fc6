import { useTouch } from '../api/touch';
import { useState } from 'react';
import * as z from 'zod';
import { api } from '../api/client';
import { useSession } from '../session/session';
import { shownTime } from '../ui/dates';
import { asksOpenly, Openly } from './Openly';
import { credential } from './token';
import { DIFFERENCES, KINDS, type DifferenceKind, type SystemShown } from './words';
import { Acts, Button, Check, Checkbox, Fault, Field, Panel, useFields } from '../ui/kit';

const BY_ITSELF: Record<DifferenceKind, string> = {
  MISSING: 'what is missing there is put back',
  EXTRA: 'what is too much there is taken away',
  DIFFERENT: 'another end there is set right',
};

const SHAPE = z.object({
  title: z.string().trim().min(1, 'It needs a name.').max(80),
  address: z.string().trim().min(1, 'Its address is needed.').max(2000),
  token: z.string(),
  perSecond: z.string().regex(/^\d{1,9}$/, 'A whole number.'),
  from: z.string(),
  nextEndField: z.string(),
  correct: z.array(z.string()),
  bearer: z.boolean(),
  openly: z.boolean(),
});

/** What was set for a system; secrets can be changed, and are never shown. */
export function Settings({ system }: { system: SystemShown }) {
  const touch = useTouch();
  const form = useFields<z.infer<typeof SHAPE>>(SHAPE, {
    title: system.title,
    address: system.address,
    token: '',
    perSecond: system.settings['perSecond'] ?? '50',
    from: system.settings['from'] ?? '',
    nextEndField: system.settings['nextEndField'] ?? '',
    correct: (system.settings['correct'] ?? '').split(',').filter(Boolean),
    bearer: system.settings['proof'] === 'bearer',
    openly: system.settings['openly'] === 'yes',
  });
  const change = api.useMutation('put', '/api/systems/{id}', {
    onSuccess: () => {
      form.setValue('token', '');
      return touch('systems');
    },
    onError: form.land,
  });
  const submit = (set: z.infer<typeof SHAPE>) =>
    change.mutate({
      params: { path: { id: system.id } },
      body: {
        title: set.title,
        address: set.address,
        openly: set.openly,
        ...(set.token !== '' && { token: credential(system.kind, set.token) }),
        settings: {
          perSecond: set.perSecond,
          correct: set.correct.join(','),
          ...(system.reportsTo !== undefined && { proof: set.bearer ? 'bearer' : 'signature' }),
          ...(system.kind === 'MAILBOX' && { from: set.from }),
          ...(system.abilities.includes('FIELDS') && { nextEndField: set.nextEndField.trim() }),
        },
      },
    });
  return (
    <Panel
      as="form"
      className="max-w-2xl"
      noValidate
      onSubmit={(event) => void form.handleSubmit(submit)(event)}
    >
      <Field label="What you call it" {...form.field('title')} />
      <Field label={KINDS[system.kind].address} {...form.field('address')} />
      {system.kind === 'MAILBOX' && <Field label="Letters come from" {...form.field('from')} />}
      {system.kind !== 'LISTENER' && system.kind !== 'FOLDER' && (
        <Field
          label={system.kind === 'MAILBOX' ? 'Another password' : 'Another token'}
          type="password"
          hint={system.hasToken ? 'One is set; left empty, it stays.' : 'None is set.'}
          {...form.field('token')}
        />
      )}
      {system.reportsTo !== undefined && (
        <Check>
          <Checkbox {...form.tick('bearer')} />
          it cannot sign: the secret comes along in the header Authorization
        </Check>
      )}
      {system.kind !== 'SHOP' && (
        <Field
          label="Requests per second, at most"
          inputMode="numeric"
          hint="By each of Yoru's servers; 0 = no limit."
          {...form.field('perSecond')}
        />
      )}
      {system.abilities.includes('FIELDS') && (
        <Field
          label="Field for the next end"
          hint="Kept up to date with the day on which the first of what somebody has ends, as 2027-03-01; empty = no field is set."
          {...form.field('nextEndField')}
        />
      )}
      {system.abilities.includes('LISTING') && (
        <fieldset className="grid gap-1.5">
          <legend>When it is compared, by itself</legend>
          {DIFFERENCES.map((kind) => (
            <Check key={kind}>
              <Checkbox value={kind} {...form.tick('correct')} />
              {BY_ITSELF[kind]}
            </Check>
          ))}
        </fieldset>
      )}
      {(asksOpenly(form.watch('address'), change.error) || form.watch('openly')) && (
        <Openly {...form.tick('openly')} />
      )}
      {change.error !== null && <Fault error={change.error} />}
      {change.isSuccess && (
        <p role="status" className="text-success">
          Kept.
        </p>
      )}
      <Acts>
        <Button kind="main" disabled={change.isPending}>
          Keep
        </Button>
      </Acts>
      {(system.kind === 'LISTENER' || system.reportsTo !== undefined) && <Secret system={system} />}
    </Panel>
  );
}

function Secret({ system }: { system: SystemShown }) {
  const { zone } = useSession();
  const touch = useTouch();
  const [own, setOwn] = useState('');
  const change = api.useMutation('post', '/api/systems/{id}/secret', {
    onSettled: () => touch('systems'),
  });
  const to = (secret?: string) =>
    change.mutate({ params: { path: { id: system.id } }, body: secret === undefined ? {} : { secret } });
  return (
    <fieldset className="grid gap-1.5">
      <legend>The secret that signs</legend>
      <p className="text-soft">
        {system.secretAt === undefined
          ? 'None is set.'
          : `Set ${shownTime(system.secretAt, zone)}, never shown again.`}
        {system.formerSecretUntil !== undefined &&
          ` The one before is good until ${shownTime(system.formerSecretUntil, zone)}.`}{' '}
        Change it, and the old one is still taken for 24 hours.
      </p>
      <Field label="The other side's secret" type="password" value={own} onValue={setOwn} />
      <Acts>
        <Button
          small
          type="button"
          disabled={own === '' || change.isPending}
          onClick={() => {
            to(own);
            setOwn('');
          }}
        >
          Use this one
        </Button>
        <Button small type="button" disabled={change.isPending} onClick={() => to()}>
          Make a new one
        </Button>
      </Acts>
      {change.error !== null && <Fault error={change.error} />}
      {change.data?.secret !== undefined && (
        <p className="wrap-anywhere" role="status">
          Paste it into the other side now; it is not shown again: <code>{change.data.secret}</code>
        </p>
      )}
    </fieldset>
  );
}
