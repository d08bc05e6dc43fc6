import { useState } from 'react';
import * as z from 'zod';
import { api, type Schemas } from '../api/client';
import { useTouch } from '../api/touch';
import { useNewPasskey, withoutPasskeys } from '../session/passkeys';
import { useSession } from '../session/session';
import { shownDate } from '../ui/dates';
import {
  Acts,
  Button,
  Fault,
  Field,
  Notice,
  Panel,
  Row,
  RowActs,
  Rows,
  RowWords,
  useFields,
  Waiting,
} from '../ui/kit';

/** What one signs in with instead of a password. */
export function Passkeys() {
  const why = withoutPasskeys(useSession());
  const kept = api.useQuery('get', '/api/session/passkeys');
  return (
    <section className="max-w-4xl">
      <h2>Passkeys</h2>
      <Panel aria-label="Passkeys" as="section">
        <p className="text-soft">
          With a passkey you sign in by finger, by face or by the PIN of your device, without password and
          code. Its key stays with you, and no other page can have it. Your password stays good.
        </p>
        {kept.error !== null && <Fault error={kept.error} />}
        {kept.data === undefined && kept.error === null && <Waiting what="your passkeys" />}
        {kept.data !== undefined && kept.data.length > 0 && (
          <Rows aria-label="Your passkeys">
            {kept.data.map((passkey) => (
              <PasskeyRow key={passkey.id} passkey={passkey} />
            ))}
          </Rows>
        )}
        {why === undefined ? <NewPasskey /> : <Notice>{why}</Notice>}
      </Panel>
    </section>
  );
}

function PasskeyRow({ passkey }: { passkey: Schemas['KeptPasskey'] }) {
  const { zone } = useSession();
  const touch = useTouch();
  const [sure, setSure] = useState(false);
  const remove = api.useMutation('delete', '/api/session/passkeys/{id}', { onSettled: () => touch('team') });
  return (
    <Row>
      <RowWords>
        <strong>{passkey.name}</strong>
        <span>
          since {shownDate(passkey.addedAt, zone)}
          {passkey.usedAt === undefined
            ? ' · not used yet'
            : ` · used last on ${shownDate(passkey.usedAt, zone)}`}
          {!passkey.good && ` · made for ${passkey.host}, of no use at the school’s address now`}
        </span>
        {remove.error !== null && <Fault error={remove.error} />}
      </RowWords>
      <RowActs>
        {sure ? (
          <>
            <Button
              disabled={remove.isPending}
              onClick={() => remove.mutate({ params: { path: { id: passkey.id } } })}
            >
              It lets nobody in any more
            </Button>
            <Button onClick={() => setSure(false)}>Leave it</Button>
          </>
        ) : (
          <Button aria-label={`Remove ${passkey.name}`} onClick={() => setSure(true)}>
            Remove
          </Button>
        )}
      </RowActs>
    </Row>
  );
}

const SHAPE = z.object({ name: z.string().trim().min(1, 'A name is needed.').max(100) });

function NewPasskey() {
  const touch = useTouch();
  const form = useFields(SHAPE, { name: '' });
  const add = useNewPasskey(() => {
    form.reset();
    void touch('team');
  });
  return (
    <form
      noValidate
      className="flex max-w-md flex-col gap-3"
      onSubmit={(event) => void form.handleSubmit(({ name }) => add.mutate(name))(event)}
    >
      <Field
        label="What you call the device"
        hint="Such as “my telephone”: by it you know which to remove should you lose it."
        {...form.field('name')}
      />
      {add.error !== null && <Fault error={add.error} />}
      {add.isSuccess && <p role="status">From now on you can sign in with it.</p>}
      <Acts>
        <Button kind="main" disabled={add.isPending}>
          {add.isPending ? 'Asking the device …' : 'Make a passkey'}
        </Button>
      </Acts>
    </form>
  );
}
