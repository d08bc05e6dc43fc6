import { useSession } from '../session/session';
import { useNavigate } from '@tanstack/react-router';
import { useState } from 'react';
import * as z from 'zod';
import { api, type Schemas } from '../api/client';
import { useSettled } from '../ui/settled';
import { asksOpenly, Openly } from './Openly';
import { credential } from './token';
import { ABILITIES, KIND_NAMES, KINDS, type Kind } from './words';
import {
  Acts,
  Button,
  CopyText,
  Check,
  Choices,
  Fault,
  Field,
  Headline,
  Margin,
  Panel,
  Radio,
  Screen,
  useFields,
  Waiting,
} from '../ui/kit';

/** A new connection: what is pasted is put right and shown before anything is kept. */
export function AddSystem() {
  const all = api.useQuery('get', '/api/systems');
  if (all.data === undefined) {
    return <Screen>{all.error === null ? <Waiting what="the kinds" /> : <Fault error={all.error} />}</Screen>;
  }
  return <Form kinds={all.data.kinds} />;
}

/** Kinds that report what happens there; of a folder files are read. */
const REPORTING: Kind[] = ['SHOP', 'CONTACTS', 'MAILBOX'];

const SHAPE = z
  .object({
    kind: z.enum(KIND_NAMES),
    title: z.string().max(80),
    address: z.string().trim().min(1, 'Its address is needed.').max(2000),
    token: z.string(),
    user: z.string(),
    from: z.string(),
    proof: z.enum(['signature', 'bearer']),
    openly: z.boolean(),
  })
  .refine(({ kind, from }) => kind !== 'MAILBOX' || from.trim() !== '', {
    path: ['from'],
    error: 'An address is needed from which letters come.',
  });

function Form({ kinds }: { kinds: Schemas['KindShown'][] }) {
  const navigate = useNavigate();
  const form = useFields<z.infer<typeof SHAPE>>(SHAPE, {
    kind: 'CLASSROOM',
    title: '',
    address: '',
    token: '',
    user: '',
    from: '',
    proof: 'signature',
    openly: false,
  });
  const kind = form.watch('kind');
  const address = form.watch('address');
  const [made, setMade] = useState<Schemas['Added']>();
  const [settled] = useSettled(address, 150);
  const tidy = api.useQuery(
    'post',
    '/api/systems/address',
    { body: { kind, address: settled } },
    { enabled: settled.trim() !== '' },
  );
  const add = api.useMutation('post', '/api/systems', {
    onSuccess: (added) => {
      if (added.secret === undefined) void navigate({ to: '/systems/$id', params: { id: added.id } });
      else setMade(added);
    },
    onError: form.land,
  });
  const words = KINDS[kind];
  const proof = form.watch('proof');
  const reports = REPORTING.includes(kind);
  const submit = ({ title, address: where, token, user, from, openly }: z.infer<typeof SHAPE>) =>
    add.mutate({
      body: {
        kind,
        title: title.trim() === '' ? words.name : title,
        address: where,
        ...(openly && { openly }),
        ...(token !== '' && { token: credential(kind, token) }),
        settings: {
          ...(kind === 'MAILBOX' && { from, ...(user !== '' && { user }) }),
          ...(reports && { proof }),
        },
      },
    });
  if (made?.secret !== undefined) {
    return <NewSecret id={made.id} secret={made.secret} signs={!reports || proof === 'signature'} />;
  }
  return (
    <Screen
      margin={
        <Margin label="What follows">
          <section>
            <h2>{words.name}</h2>
            <p className="text-soft">{words.does}.</p>
            <p>
              {kinds
                .find((known) => known.kind === kind)
                ?.abilities.map((ability) => ABILITIES[ability])
                .join(' · ')}
            </p>
          </section>
          <section>
            <h2>Before it is used</h2>
            <p className="text-soft">
              It begins switched off: nothing is sent there and nothing taken from there. Test it, try it
              once, then switch it on; it is told then everything that should be so.
            </p>
          </section>
        </Margin>
      }
    >
      <Headline>
        <h1>Add a system</h1>
      </Headline>
      <Panel
        as="form"
        className="max-w-2xl"
        noValidate
        onSubmit={(event) => void form.handleSubmit(submit)(event)}
      >
        <fieldset className="grid gap-1.5">
          <legend>What is it?</legend>
          {kinds.map((known) => (
            <Check key={known.kind}>
              <Radio
                name="kind"
                checked={kind === known.kind}
                onChange={() => form.setValue('kind', known.kind)}
              />
              <span>
                <strong>{KINDS[known.kind].name}</strong>{' '}
                <span className="text-soft">{KINDS[known.kind].does}</span>
              </span>
            </Check>
          ))}
        </fieldset>
        <Field label="What you call it" maxLength={80} placeholder={words.name} {...form.field('title')} />
        <Field
          label={words.address}
          maxLength={2000}
          placeholder={words.placeholder}
          {...form.field('address')}
          hint={<Tidied pasted={address} tidy={tidy.data} />}
        />
        {kind === 'MAILBOX' && (
          <>
            <Field
              label="Letters come from"
              placeholder="Your school <hello@your-school.example>"
              {...form.field('from')}
            />
            <Field label="Name to sign in with" {...form.field('user')} />
          </>
        )}
        {kind !== 'LISTENER' && kind !== 'FOLDER' && (
          <Field
            label={kind === 'MAILBOX' ? 'Password' : 'Token that lets Yoru in'}
            type="password"
            {...form.field('token')}
            hint="Kept encrypted, and never shown again."
          />
        )}
        {reports && (
          <Choices
            legend="How its reports show that they are from there"
            value={proof}
            choices={[
              ['signature', 'they are signed (Standard Webhooks)'],
              ['bearer', 'it cannot sign: a secret comes along in the header Authorization'],
            ]}
            onChoose={(choice) => form.setValue('proof', SHAPE.shape.proof.parse(choice))}
          />
        )}
        {asksOpenly(address, add.error) && <Openly {...form.tick('openly')} />}
        {add.error !== null && <Fault error={add.error} />}
        <Acts>
          <Button kind="main" disabled={add.isPending || tidy.data?.fault !== undefined}>
            {add.isPending ? 'Adding …' : 'Add it, switched off'}
          </Button>
        </Acts>
      </Panel>
    </Screen>
  );
}

function Tidied({ pasted, tidy }: { pasted: string; tidy: Schemas['PastedAddress'] | undefined }) {
  if (pasted.trim() === '' || tidy === undefined) return null;
  return (
    <p aria-live="polite" className={tidy.fault === undefined ? 'text-soft' : 'text-error'}>
      {tidy.address !== '' && <code>{tidy.address}</code>}{' '}
      {[...tidy.changes, tidy.fault].filter(Boolean).join('; ')}
    </p>
  );
}

/** Shown this once: whoever needs it again makes a new one. */
export function NewSecret({ id, secret, signs }: { id: string; secret: string; signs: boolean }) {
  const { address } = useSession();
  const navigate = useNavigate();
  return (
    <Screen>
      <Headline>
        <h1>What the other side needs</h1>
      </Headline>
      <Panel className="max-w-2xl">
        <p>
          Paste both into the other side now, where it asks where to report and{' '}
          {signs
            ? 'what to sign with (Standard Webhooks)'
            : 'what to send along: the header Authorization, with Bearer and the secret'}
          . The secret is kept encrypted here and is never shown again.
        </p>
        <CopyText label="It reports to" text={`${address}/hooks/${id}`} />
        <CopyText label={signs ? 'The secret that signs' : 'The secret'} text={secret} part="secret" />
      </Panel>
      <Button kind="main" onClick={() => void navigate({ to: '/systems/$id', params: { id } })}>
        I have it
      </Button>
    </Screen>
  );
}
