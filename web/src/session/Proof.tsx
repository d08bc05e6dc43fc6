import * as z from 'zod';
import { api } from '../api/client';
import { Acts, Button, Fault, Field, useFields } from '../ui/kit';
import { PasskeyButton } from './PasskeyButton';
import { useShownPasskey } from './passkeys';
import { useSession } from './session';
import { CodeField } from './SignIn';

const SHAPE = z.object({ password: z.string().min(1, 'Your password is needed.'), code: z.string() });

/** Whoever finds a browser open must not do what opens everything else. */
export function Proof({ onDone, onEnd }: { onDone: () => void; onEnd: () => void }) {
  const session = useSession();
  const form = useFields(SHAPE, { password: '', code: '' });
  const prove = api.useMutation('post', '/api/session/proof', { onSuccess: onDone, onError: form.land });
  const passkey = useShownPasskey('/api/session/proof/passkey', onDone);
  return (
    <form
      noValidate
      onSubmit={(event) => void form.handleSubmit((body) => prove.mutate({ body }))(event)}
      className="flex flex-col items-start gap-3.5"
    >
      {prove.error !== null && <Fault error={prove.error} />}
      {passkey.error !== null && <Fault error={passkey.error} />}
      <Field
        label="Your password"
        type="password"
        autoComplete="current-password"
        first
        {...form.field('password')}
      />
      {session.secondFactor && <CodeField {...form.field('code')} />}
      <Acts>
        <Button kind="main" disabled={prove.isPending}>
          It is me
        </Button>
        <PasskeyButton session={session} shown={passkey} />
        <Button onClick={onEnd}>Leave it</Button>
      </Acts>
    </form>
  );
}
