import { Link } from '@tanstack/react-router';
import { useId, useState } from 'react';
import * as z from 'zod';
import { api, type Schemas } from '../api/client';
import { useTouch } from '../api/touch';
import { useSession } from '../session/session';
import { OwnersViews } from '../team/OwnersViews';
import {
  Acts,
  Button,
  Fault,
  Field,
  Headline,
  Margin,
  Panel,
  Screen,
  Two,
  useFields,
  Waiting,
} from '../ui/kit';

const SHAPE = z.object({
  name: z.string().trim().min(1, 'The school needs a name.').max(100),
  zone: z.string().trim().min(1, 'A zone is needed.'),
  currency: z.string().trim().length(3, 'A currency has three letters, such as EUR.'),
  publicAddress: z.url({ protocol: /^https?$/, error: 'This is no address of a server.' }),
});

/** Who the school is; what can be checked of that is checked before anybody depends on it. */
export function School() {
  const school = api.useQuery('get', '/api/school');
  const data = school.data;
  const [typed, setTyped] = useState<string>();
  const address = typed ?? data?.publicAddress ?? '';
  return (
    <Screen
      margin={
        data !== undefined && (
          <Margin label="Does it work?">
            <ReachCheck key={address} address={address} />
            <LetterCheck />
          </Margin>
        )
      }
    >
      <Headline>
        <h1>School</h1>
        <p>what letters, pages and prices say of it</p>
        <OwnersViews />
      </Headline>
      {school.error !== null && <Fault error={school.error} />}
      {data === undefined && school.error === null && <Waiting what="the school" />}
      {data !== undefined && <Form key={data.version} school={data} onAddress={setTyped} />}
    </Screen>
  );
}

function Form({ school, onAddress }: { school: Schemas['SchoolPage']; onAddress: (to: string) => void }) {
  const { name, zone, currency, publicAddress, version, settled } = school;
  const touch = useTouch();
  const zones = useId();
  const currencies = useId();
  const form = useFields(SHAPE, { name, zone, currency, publicAddress });
  const change = api.useMutation('put', '/api/school', {
    onSuccess: () => touch('school'),
    onError: form.land,
  });
  const stays = 'It stays: something was published under it, and endings were told by it.';
  return (
    <Panel
      as="form"
      aria-label="School"
      noValidate
      className="max-w-4xl"
      onSubmit={(event) =>
        void form.handleSubmit((body) => change.mutate({ body: { ...body, version } }))(event)
      }
    >
      <Field
        label="Name"
        hint="It stands in every letter, and on the pages that learners see."
        {...form.field('name')}
      />
      <Two>
        <Field
          label="Time zone"
          list={zones}
          readOnly={settled}
          hint={
            settled
              ? stays
              : 'Days, months and endings are counted in it. It stays once something is published.'
          }
          {...form.field('zone')}
        />
        <Field
          label="Currency"
          list={currencies}
          readOnly={settled}
          hint={settled ? stays : 'Amounts are in it. It stays once something is published.'}
          {...form.field('currency')}
        />
      </Two>
      <Field
        label="Address of this Yoru"
        type="url"
        hint="Links in letters begin with it: under it, learners and shops reach this server from outside."
        onValue={onAddress}
        {...form.field('publicAddress')}
      />
      <datalist id={zones}>
        {Intl.supportedValuesOf('timeZone').map((one) => (
          <option key={one} value={one} />
        ))}
      </datalist>
      <datalist id={currencies}>
        {Intl.supportedValuesOf('currency').map((one) => (
          <option key={one} value={one} />
        ))}
      </datalist>
      {change.error !== null && <Fault error={change.error} />}
      <Acts>
        <Button kind="main" disabled={change.isPending}>
          {version === 0 ? 'This is who we are' : 'Change it'}
        </Button>
        {version > 0 && change.isIdle && <p className="text-soft">Said by the school itself.</p>}
      </Acts>
    </Panel>
  );
}

const OUTCOMES: Record<Schemas['Reached']['outcome'], string> = {
  REACHED: 'It leads here.',
  SOMETHING_ELSE:
    'Something answers there, but not this Yoru. Is the address right, and does the proxy pass everything on?',
  NOT_TRUSTED: 'Something answers there, but this server does not trust its certificate. Do browsers?',
  NOTHING: 'Nothing answers there, asked from this server.',
};

function ReachCheck({ address }: { address: string }) {
  const check = api.useMutation('post', '/api/school/reach');
  return (
    <section>
      <h2>The address</h2>
      <p className="break-words">{address}</p>
      <div role="status">
        {check.data !== undefined && (
          <p className={check.data.outcome === 'REACHED' ? 'text-success' : 'text-error'}>
            {OUTCOMES[check.data.outcome]}
          </p>
        )}
      </div>
      {check.error !== null && <Fault error={check.error} />}
      <Button
        small
        disabled={check.isPending}
        onClick={() => check.mutate({ body: { publicAddress: address } })}
      >
        {check.isPending ? 'Asking …' : 'Does it lead here?'}
      </Button>
    </section>
  );
}

function LetterCheck() {
  const { email } = useSession();
  const send = api.useMutation('post', '/api/school/letter');
  return (
    <section>
      <h2>The sender</h2>
      <p>
        From whom letters come is said where the mailbox is connected, under{' '}
        <Link to="/systems" className="link">
          Systems
        </Link>
        .
      </p>
      <div role="status">
        {send.data !== undefined && (
          <p>
            {send.data.by} has taken a letter to {send.data.to}. Look at its sender, and where it landed.
          </p>
        )}
      </div>
      {send.error !== null && <Fault error={send.error} />}
      <Button small disabled={send.isPending} onClick={() => send.mutate({})}>
        {send.isPending ? 'Sending …' : `Write to ${email ?? 'me'}`}
      </Button>
    </section>
  );
}
